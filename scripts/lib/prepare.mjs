// What demo and test need before anything else: the right Node.js, the packages, a build. Node's own modules only.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';

export const root = path.resolve(import.meta.dirname, '..', '..');
const cache = path.join(root, '.cache');
const BUILT_FROM = [
  'src',
  'sheets',
  'demo',
  'docs/schema',
  'next.config.ts',
  'package-lock.json',
  'tsconfig.json',
  'scripts/service-worker.mjs',
];

export class Trouble extends Error {}

/** Ends the program with one sentence instead of a stack. */
export function endWith(error) {
  console.error(error instanceof Trouble ? error.message : error);
  process.exit(1);
}

export function needNode(version = process.versions.node) {
  const [major = 0, minor = 0] = version.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 9))
    throw new Trouble(`Bujo needs Node.js 20.9 or newer; this is ${version}. Install a newer one and start again.`);
}

const exitCode = (child) =>
  new Promise((resolve) => {
    child.on('error', () => resolve(127));
    child.on('close', (code) => resolve(code ?? 1));
  });

/** Runs a program and resolves with its exit code; its output is shown. */
export const run = (command, args, env = {}) =>
  exitCode(
    spawn(command, args, {
      cwd: root,
      stdio: 'inherit',
      env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env },
    }),
  );

/** A tenth of the weight of others (sched(7)). With the least one a check of minutes was not done when all others were. */
const BEHIND = '10';

/**
 * As `run`, with what others leave of the processors, and a tenth of them where they leave nothing. On Linux a program of a session of its own is weighed
 * by that session, whatever its own weight is (sched(7), autogroup): it gets one of this weight. Where a system has none of this it runs as any other.
 */
export function runBehind(command, args) {
  const nice = process.platform === 'win32' ? [] : ['nice', '-n', BEHIND];
  const [program, ...rest] = [...nice, command, ...args];
  const child = spawn(program, rest, { cwd: root, stdio: 'inherit', detached: nice.length > 0 });
  const group = `/proc/${child.pid}/autogroup`;
  if (existsSync(group)) writeFileSync(group, BEHIND);
  // Nobody else ends a session of its own.
  const end = () => child.exitCode === null && child.kill();
  process.once('exit', end);
  for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, () => process.exit(1));
  return exitCode(child);
}

export const bin = (name) => path.join(root, 'node_modules', '.bin', name);

function filesOf(entry) {
  const full = path.join(root, entry);
  if (!existsSync(full)) return [];
  if (path.extname(entry) !== '') return [full];
  return readdirSync(full, { withFileTypes: true, recursive: true })
    .filter((file) => file.isFile() && !/\.test\.tsx?$/.test(file.name))
    .map((file) => path.join(file.parentPath ?? file.path, file.name));
}

function hashOf(entries) {
  const hash = createHash('sha256');
  for (const file of entries.flatMap(filesOf).sort())
    hash.update(path.relative(root, file)).update('\0').update(readFileSync(file)).update('\0');
  return hash.digest('hex');
}

const stamp = (name) => path.join(cache, `${name}.stamp`);
const isFresh = (name, hash) => existsSync(stamp(name)) && readFileSync(stamp(name), 'utf8') === hash;

function setStamp(name, hash) {
  mkdirSync(cache, { recursive: true });
  writeFileSync(stamp(name), hash);
}

/** Installs the packages when they are missing or the lock file changed. */
export async function install() {
  const hash = hashOf(['package-lock.json']);
  if (existsSync(path.join(root, 'node_modules')) && isFresh('install', hash)) return;
  console.log('Installing the packages; the first time takes a minute or two.');
  if ((await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'])) !== 0)
    throw new Trouble(
      'The packages could not be installed. Is there a network? npm has said above what it missed; start again when it is there.',
    );
  setStamp('install', hash);
}

/** Builds the production page when its sources changed. */
export async function build() {
  const hash = hashOf(BUILT_FROM);
  if (existsSync(path.join(root, '.next', 'BUILD_ID')) && isFresh('build', hash)) return;
  console.log('Building the page; this takes about half a minute.');
  rmSync(stamp('build'), { force: true });
  if ((await run(bin('next'), ['build'])) !== 0)
    throw new Trouble('The page could not be built; the build has said why above.');
  if ((await run(process.execPath, [path.join(root, 'scripts', 'service-worker.mjs')])) !== 0)
    throw new Trouble('What keeps the page in the browser could not be built; it has said why above.');
  setStamp('build', hash);
}

/** Debian's Chromium for the browser tests: found, or installed when that can be done, or a sentence. */
export function needChromium() {
  if (existsSync('/usr/bin/chromium')) return;
  const isDebian = existsSync('/etc/debian_version') && existsSync('/usr/bin/apt-get');
  if (!isDebian || process.getuid?.() !== 0)
    throw new Trouble(
      'The browser tests need Chromium at /usr/bin/chromium. On Debian: sudo apt-get install chromium.',
    );
  console.log('Installing Chromium for the browser tests.');
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const apt = (...args) => spawnSync('apt-get', args, { stdio: ['ignore', 'ignore', 'inherit'], env }).status === 0;
  if (!apt('update', '-qq') || !apt('install', '-y', '-qq', '--no-install-recommends', 'chromium'))
    throw new Trouble('Chromium could not be installed by apt-get; it has said why above.');
}
