import { connect, type Socket } from 'node:net';
import { checkTarget, type Target } from '../core/line/target';
import type { TroubleKind } from '../core/line/trouble';
import type { BridgeCommand, BridgeEvent, RefusedCommand } from '../link/bridge-protocol';

/** All that the bridge grants, in one place. Times in milliseconds. */
export interface BridgeLimits {
  readonly tabs: number;
  readonly socketsPerTab: number;
  readonly connectMs: number;
  /** Nothing either way for so long closes a socket. */
  readonly idleMs: number;
  /** Most bytes a second and socket, each way; a serial line at its fastest has a tenth of it. */
  readonly bytesPerSecond: number;
  /** Most bytes that may wait for a page that does not read. */
  readonly backlog: number;
  /** Most bytes that may wait for a device that does not read; a Modbus frame has 260. */
  readonly unread: number;
  readonly aliveMs: number;
}

export const LIMITS: BridgeLimits = {
  tabs: 8,
  socketsPerTab: 8,
  connectMs: 4_000,
  idleMs: 600_000,
  bytesPerSecond: 512 * 1024,
  backlog: 4 * 1024 * 1024,
  unread: 64 * 1024,
  aliveMs: 5_000,
};

interface OpenSocket {
  readonly socket: Socket;
  /** Bytes of the running second. */
  secondMs: number;
  bytes: number;
}

/** One page: its stream down and its sockets. */
interface Tab {
  readonly token: string;
  readonly send: (event: BridgeEvent) => void;
  readonly sockets: Map<string, OpenSocket>;
}

/** What an error of the system means for the person at the bench. */
const ERRORS: Readonly<Record<string, TroubleKind>> = {
  ECONNREFUSED: 'refused',
  ECONNRESET: 'reset',
  EPIPE: 'reset',
  ETIMEDOUT: 'no-answer',
  EHOSTUNREACH: 'unreachable',
  ENETUNREACH: 'unreachable',
  EHOSTDOWN: 'unreachable',
  EADDRNOTAVAIL: 'unreachable',
};

/** Begins a connection; tests give one that never comes about. */
type Dial = (target: Target) => Socket;

const dialTcp: Dial = ({ host, port }) => connect({ host, port, noDelay: true });

/** Connects pages to TCP targets on the local network. A tab's sockets live as long as its stream. */
export class TcpBridge {
  readonly #limits: BridgeLimits;
  readonly #ownPorts: readonly number[];
  readonly #newToken: () => string;
  readonly #dial: Dial;
  readonly #tabs = new Map<string, Tab>();

  constructor(ownPorts: readonly number[], newToken: () => string, limits = LIMITS, dial: Dial = dialTcp) {
    this.#dial = dial;
    this.#ownPorts = ownPorts;
    this.#newToken = newToken;
    this.#limits = limits;
  }

  /** How many sockets are open or being opened, over all tabs. */
  openSockets(): number {
    return [...this.#tabs.values()].reduce((count, tab) => count + tab.sockets.size, 0);
  }

  /** A new stream for one tab, one JSON line an event. `gone` tells when the page has left. */
  stream(gone: AbortSignal): ReadableStream<Uint8Array> | Refused {
    if (this.#tabs.size >= this.#limits.tabs)
      return { status: 429, text: `${this.#limits.tabs} tabs use the bridge already; close one` };
    const token = this.#newToken();
    const encoder = new TextEncoder();
    let alive: ReturnType<typeof setInterval> | undefined;
    const leave = (): void => {
      clearInterval(alive);
      this.#drop(token);
    };
    gone.addEventListener('abort', leave);
    return new ReadableStream<Uint8Array>(
      {
        start: (controller) => {
          const send = (event: BridgeEvent): void => {
            if (!this.#tabs.has(token)) return;
            if ((controller.desiredSize ?? 0) < -this.#limits.backlog) {
              leave();
              controller.error(new Error('the page does not read'));
              return;
            }
            controller.enqueue(encoder.encode(`${JSON.stringify(event)}\n`));
          };
          this.#tabs.set(token, { token, send, sockets: new Map() });
          send({ kind: 'hello', token });
          alive = setInterval(() => send({ kind: 'alive' }), this.#limits.aliveMs);
        },
        cancel: leave,
      },
      new ByteLengthQueuingStrategy({ highWaterMark: 64 * 1024 }),
    );
  }

  /** Obeys the commands of a tab one after the other; what it could not do, or why it knows no such tab. */
  obey(token: string | null, commands: readonly BridgeCommand[]): readonly RefusedCommand[] | Refused {
    const tab = this.#tabs.get(token ?? '');
    if (!tab) return { status: 403, text: 'this page has no open stream here; reload it' };
    return commands.flatMap((command) => {
      const text = this.#carryOut(tab, command);
      return text === '' ? [] : [{ socket: command.socket, text }];
    });
  }

  /** Why a command was not obeyed; empty where it was, or where the socket's end tells it. */
  #carryOut(tab: Tab, command: BridgeCommand): string {
    switch (command.kind) {
      case 'open':
        return this.#open(tab, command.socket, command.host, command.port);
      case 'write':
        return this.#write(tab, command.socket, Buffer.from(command.hex, 'hex'));
      case 'close':
        this.#close(tab, command.socket);
        return '';
    }
  }

  #open(tab: Tab, name: string, host: string, port: number): string {
    if (tab.sockets.has(name)) return `socket ${name} is open already`;
    if (tab.sockets.size >= this.#limits.socketsPerTab) {
      this.#end(tab, name, 'limit', `${this.#limits.socketsPerTab} connections are open already; close one`);
      return '';
    }
    const target = checkTarget(host, port, this.#ownPorts);
    if (!target.ok) {
      this.#end(tab, name, 'not-allowed', target.error);
      return '';
    }
    const where = `${target.value.host} port ${target.value.port}`;
    const socket = this.#dial(target.value);
    const open: OpenSocket = { socket, secondMs: 0, bytes: 0 };
    tab.sockets.set(name, open);
    const timer = setTimeout(() => {
      this.#end(tab, name, 'no-answer', `${where} did not answer within ${this.#limits.connectMs / 1000} s`);
    }, this.#limits.connectMs);
    socket.once('connect', () => {
      clearTimeout(timer);
      socket.setKeepAlive(true, 10_000);
      socket.setTimeout(this.#limits.idleMs, () =>
        this.#end(tab, name, 'idle', `nothing crossed the connection for ${this.#limits.idleMs / 1000} s`),
      );
      tab.send({ kind: 'opened', socket: name });
    });
    socket.on('data', (bytes) => {
      if (this.#isTooFast(open, bytes.length))
        return this.#end(tab, name, 'limit', `${where} sends more than ${this.#limits.bytesPerSecond} bytes a second`);
      tab.send({ kind: 'bytes', socket: name, hex: bytes.toString('hex') });
    });
    socket.once('error', (error: NodeJS.ErrnoException) => {
      clearTimeout(timer);
      const kind = ERRORS[error.code ?? ''] ?? 'unreachable';
      this.#end(tab, name, kind, `${where}: ${TEXTS[kind] ?? error.message}`);
    });
    socket.once('close', () => {
      clearTimeout(timer);
      this.#end(tab, name, 'closed-by-far', `${where} closed the connection`);
    });
    return '';
  }

  #write(tab: Tab, name: string, bytes: Buffer): string {
    const open = tab.sockets.get(name);
    if (!open) return `socket ${name} is not open`;
    if (this.#isTooFast(open, bytes.length)) {
      this.#end(tab, name, 'limit', `more than ${this.#limits.bytesPerSecond} bytes a second`);
      return '';
    }
    if (open.socket.writableLength + bytes.length > this.#limits.unread) {
      this.#end(tab, name, 'limit', `the device does not read: ${open.socket.writableLength} bytes wait for it`);
      return '';
    }
    open.socket.write(bytes);
    return '';
  }

  #isTooFast(open: OpenSocket, bytes: number): boolean {
    const nowMs = Date.now();
    if (nowMs - open.secondMs >= 1000) {
      open.secondMs = nowMs;
      open.bytes = 0;
    }
    open.bytes += bytes;
    return open.bytes > this.#limits.bytesPerSecond;
  }

  /** Closing at the person's wish tells nothing; everything else is said once. */
  #close(tab: Tab, name: string): void {
    const open = tab.sockets.get(name);
    tab.sockets.delete(name);
    open?.socket.removeAllListeners('close');
    open?.socket.on('error', () => undefined);
    open?.socket.end();
    // An end that the far side does not answer is not waited for.
    setTimeout(() => open?.socket.destroy(), 500).unref();
  }

  #end(tab: Tab, name: string, end: TroubleKind, text: string): void {
    const open = tab.sockets.get(name);
    if (!open && end === 'closed-by-far') return;
    tab.sockets.delete(name);
    open?.socket.destroy();
    tab.send({ kind: 'ended', socket: name, end, text });
  }

  #drop(token: string): void {
    const tab = this.#tabs.get(token);
    this.#tabs.delete(token);
    for (const { socket } of tab?.sockets.values() ?? []) socket.destroy();
  }
}

export type Refused = { readonly status: number; readonly text: string };

const TEXTS: Readonly<Partial<Record<TroubleKind, string>>> = {
  refused: 'the device refused the connection; nothing listens at that port, or it has no connection free',
  unreachable: 'there is no way to that address from here',
  'no-answer': 'no answer',
  reset: 'the connection was cut',
};
