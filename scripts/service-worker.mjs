// Makes the service worker of the build: the program's own one, with the list of all files that it keeps.
import { createHash } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { build } from 'esbuild';
import { root } from './lib/prepare.mjs';

const STATIC = path.join(root, '.next', 'static');
const PAGES = ['/', '/frames', '/handover', '/line', '/registers', '/scaling', '/sheets', '/trials', '/words'];

/** Files of the build have their content in their names; pages are others in each build. */
const files = readdirSync(STATIC, { withFileTypes: true, recursive: true })
  .filter((file) => file.isFile())
  .map((file) => path.join(file.parentPath ?? file.path, file.name))
  .sort();
const buildId = readFileSync(path.join(root, '.next', 'BUILD_ID'), 'utf8').trim();
const revision = createHash('sha256').update(buildId).digest('hex').slice(0, 16);
const manifest = [
  ...files.map((file) => ({
    url: encodeURI(`/_next/static/${path.relative(STATIC, file).split(path.sep).join('/')}`),
    revision: null,
  })),
  ...[...PAGES, '/icon.svg', '/manifest.webmanifest'].map((url) => ({ url, revision })),
];

mkdirSync(path.join(root, 'public'), { recursive: true });
await build({
  entryPoints: [path.join(root, 'src/offline/service-worker.ts')],
  outfile: path.join(root, 'public', 'service-worker.js'),
  bundle: true,
  minify: true,
  format: 'iife',
  target: 'es2022',
  define: { 'self.__WB_MANIFEST': JSON.stringify(manifest), 'process.env.NODE_ENV': '"production"' },
});
console.log(`The page is kept for starts without the server: ${manifest.length} files.`);
