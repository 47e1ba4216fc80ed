// Runs the headless verbs from a bundle that is remade when a source is newer: Node runs no TypeScript itself.
import { existsSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { pathToFileURL } from 'node:url';

const root = path.resolve(import.meta.dirname, '..');
const bundle = path.join(root, '.cache', 'bujo.mjs');

const newest = (folder) =>
  readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile())
    .reduce(
      (latest, entry) => Math.max(latest, statSync(path.join(entry.parentPath ?? entry.path, entry.name)).mtimeMs),
      0,
    );

const sources = Math.max(
  ...['src/core', 'src/cli', 'src/link', 'src/standin', 'sheets'].map((folder) => newest(path.join(root, folder))),
);
if (!existsSync(bundle) || statSync(bundle).mtimeMs < sources) {
  const { build } = await import('esbuild').catch(() => {
    console.error('The packages are not installed yet: run npm ci, npm test or npm run demo first.');
    process.exit(1);
  });
  await build({
    entryPoints: [path.join(root, 'src/cli/main.ts')],
    outfile: bundle,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
  });
}
await import(pathToFileURL(bundle).href);
