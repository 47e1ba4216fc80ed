import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import net from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';

const root = path.join(__dirname, '..');

const node = (args: readonly string[], cwd = root, env: Readonly<Record<string, string>> = {}) => {
  const { status, stderr, stdout } = spawnSync('node', args, {
    cwd,
    encoding: 'utf8',
    env: { ...process.env, ...env },
  });
  return { status, said: `${stdout}${stderr}` };
};

/** The last line is a clear sentence, not a stack. */
const expectSentence = ({ status, said }: ReturnType<typeof node>, sentence: string): void => {
  expect(status).toBe(1);
  expect(said.trim().split('\n').at(-1)).toContain(sentence);
};

describe('npm run demo says in one sentence what is missing', () => {
  it('a port that is taken', async () => {
    const server = net.createServer();
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as net.AddressInfo;
    expectSentence(node(['scripts/demo.mjs', String(port)]), `Port ${port} is taken by another program.`);
    server.close();
  });

  it('another port is found beside taken ones', async () => {
    const server = net.createServer();
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as net.AddressInfo;
    const { said } = node(['scripts/lib/ports.mjs', String(port)]);
    expect(Number(said)).toBeGreaterThan(port);
    server.close();
    expect(Number(node(['scripts/lib/ports.mjs', String(port)]).said)).toBeGreaterThanOrEqual(port);
  });

  it('a port that is none', () => {
    expectSentence(node(['scripts/demo.mjs', 'x']), '“x” is no port; choose one from 1024 to 65535');
  });

  it('an old Node.js', () => {
    const old = node([
      '--input-type=module',
      '-e',
      "import { needNode, endWith } from './scripts/lib/prepare.mjs'; try { needNode('18.19.1') } catch (error) { endWith(error) }",
    ]);
    expectSentence(old, 'Bujo needs Node.js 20.9 or newer; this is 18.19.1.');
  });

  it('no network on a fresh clone', () => {
    const clone = mkdtempSync(path.join(tmpdir(), 'bujo-'));
    for (const name of ['scripts', 'package.json', 'package-lock.json'])
      cpSync(path.join(root, name), path.join(clone, name), { recursive: true });
    // Port 9 answers nobody, as a missing network would.
    const env = {
      npm_config_registry: 'http://127.0.0.1:9',
      npm_config_fetch_retries: '0',
      npm_config_cache: path.join(clone, 'cache'),
    };
    expectSentence(
      node(['scripts/demo.mjs', '4397'], clone, env),
      'The packages could not be installed. Is there a network?',
    );
    rmSync(clone, { recursive: true });
  });
});
