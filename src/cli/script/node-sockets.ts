import { connect, type Socket } from 'node:net';
import { trouble, type TroubleKind } from '../../core/line/trouble';
import type { SocketHandlers } from '../../link/bridge-client';
import type { TcpSockets } from '../../link/tcp-port';

const KINDS: Readonly<Record<string, readonly [TroubleKind, string]>> = {
  ECONNREFUSED: ['refused', 'nothing listens at that port'],
  EHOSTUNREACH: ['unreachable', 'there is no way to that address'],
  ENETUNREACH: ['unreachable', 'there is no way to that address'],
  ETIMEDOUT: ['no-answer', 'no answer to the connection'],
  ECONNRESET: ['reset', 'the other end reset the connection'],
};

/** No answer within this long is one that never comes. */
const CONNECT_MS = 5_000;

/** Sockets of this process, for ports without a local server between. Where they go was checked before. */
export class NodeSockets implements TcpSockets {
  readonly #open = new Map<string, Socket>();
  #count = 0;

  open(host: string, port: number, handlers: SocketHandlers): string {
    const name = `socket ${++this.#count}`;
    const socket = connect({ host, port, noDelay: true });
    this.#open.set(name, socket);
    const timer = setTimeout(() => socket.destroy(Object.assign(new Error('late'), { code: 'ETIMEDOUT' })), CONNECT_MS);
    let why: readonly [TroubleKind, string] = ['closed-by-far', 'the other end closed the connection'];
    socket.on('connect', () => {
      clearTimeout(timer);
      handlers.opened();
    });
    socket.on('data', (chunk) => handlers.bytes(Uint8Array.from(chunk)));
    socket.on('error', (error: NodeJS.ErrnoException) => (why = KINDS[error.code ?? ''] ?? ['reset', error.message]));
    socket.on('close', () => {
      clearTimeout(timer);
      // What was closed here tells nothing any more.
      if (this.#open.delete(name)) handlers.ended(trouble(...why));
    });
    return name;
  }

  write(socket: string, bytes: Uint8Array): void {
    this.#open.get(socket)?.write(bytes);
  }

  close(socket: string): void {
    const own = this.#open.get(socket);
    this.#open.delete(socket);
    own?.end();
    own?.unref();
  }
}
