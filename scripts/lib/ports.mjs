// Ports of this machine: which are free.
import net from 'node:net';

const HOST = '127.0.0.1';
const TRIES = 50;

/** Whether nobody listens at a port of this machine. */
export const isFree = (port) =>
  new Promise((resolve) => {
    const probe = net.createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, HOST, () => probe.close(() => resolve(true)));
  });

/** The first free port from one on; null where some in a row are taken. */
export async function freePortFrom(first) {
  for (let port = first; port < first + TRIES; port++) if (await isFree(port)) return port;
  return null;
}

// Run by itself it prints one, for those that cannot wait.
if (process.argv[1] === import.meta.filename) console.log(await freePortFrom(Number(process.argv[2])));
