// Bundles the benchmarks and runs them: ratios, all measured in one run. Needs a build of the page, which it makes when it is stale.
import path from 'node:path';
import { build as bundle } from 'esbuild';
import { build, endWith, install, needChromium, needNode, root, run } from './lib/prepare.mjs';

try {
  needNode();
  await install();
  needChromium();
  await build();
  const outfile = path.join(root, '.cache', 'bench.mjs');
  await bundle({
    entryPoints: [path.join(root, 'measure/main.ts')],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    // As the build of the page does it: constants become numbers.
    minifySyntax: true,
  });
  process.exitCode = await run('node', ['--expose-gc', outfile, ...process.argv.slice(2)]);
} catch (error) {
  endWith(error);
}
