// Installs, builds and starts Bujo with its demo job and stand-ins, then prints the address.
import { spawn } from 'node:child_process';
import { freePortFrom, isFree } from './lib/ports.mjs';
import { bin, build, endWith, install, needNode, root, Trouble } from './lib/prepare.mjs';

// npm does not pass its own end on to its children, so the parent is watched; it must be taken before anything else.
const parent = process.ppid;
const HOST = '127.0.0.1';
const DEFAULT_PORT = 4380;
const PATIENCE_MS = 30_000;

/** The port that was asked for, or the usual one; where that is taken by another program the next free one is said and used. */
async function portToUse() {
  const asked = process.argv[2] ?? process.env.PORT;
  const port = Number(asked ?? DEFAULT_PORT);
  if (!Number.isInteger(port) || port < 1024 || port > 65535)
    throw new Trouble(`“${asked}” is no port; choose one from 1024 to 65535: npm run demo -- 4381`);
  if (await isFree(port)) return port;
  if (asked !== undefined)
    throw new Trouble(`Port ${port} is taken by another program. Choose another one: npm run demo -- ${port + 1}`);
  const free = await freePortFrom(port + 1);
  if (free === null) throw new Trouble(`Port ${port} and those behind it are taken. Choose one: npm run demo -- 5380`);
  console.log(`Port ${port} is taken by another program; ${free} is used.`);
  return free;
}

async function answers(address) {
  const endMs = Date.now() + PATIENCE_MS;
  while (Date.now() < endMs) {
    if (
      await fetch(address).then(
        (response) => response.ok,
        () => false,
      )
    )
      return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Trouble(`The server did not answer within ${PATIENCE_MS / 1000} s.`);
}

try {
  needNode();
  const port = await portToUse();
  await install();
  await build();
  const server = spawn(bin('next'), ['start', '-H', HOST, '-p', String(port)], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', BUJO_YARD: '1' },
  });
  const end = () => server.kill('SIGTERM');
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, end);
  server.on('close', (code) => process.exit(code ?? 0));
  setInterval(() => process.ppid !== parent && end(), 500);
  const address = `http://${HOST}:${port}`;
  await answers(address);
  console.log(
    `\nBujo is ready at ${address}\nThe demo job Alder Ford is open; its drives are stand-ins. Ctrl C ends it.`,
  );
} catch (error) {
  endWith(error);
}
