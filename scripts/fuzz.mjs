// Bundles the laws and tries them: npm run fuzz -- COUNT SEED. Ten million cases by default.
import path from 'node:path';
import { build as bundle } from 'esbuild';
import { endWith, install, needNode, root, run } from './lib/prepare.mjs';

try {
  needNode();
  await install();
  const outfile = path.join(root, '.cache', 'fuzz.mjs');
  await bundle({
    entryPoints: [path.join(root, 'fuzz/main.ts')],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
  });
  process.exitCode = await run('node', [outfile, ...process.argv.slice(2)]);
} catch (error) {
  endWith(error);
}
