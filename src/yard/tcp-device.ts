import { createServer, type Server, type Socket } from 'node:net';

/** One connection to a stand-in; what comes in goes to `take`, what it says goes out by the socket. */
export interface Session {
  readonly take: (bytes: Uint8Array) => void;
  readonly leave: () => void;
}

/** Serves one connection, from a master at an address; null where that is not let in. */
export type Serve = (say: (bytes: Uint8Array) => void, hangUp: () => void, from: string) => Session | null;

/** Ways in which a device on a network fails. */
export const BEHAVIOURS = ['works', 'off', 'silent', 'hangs-up', 'vanished'] as const;
export type Behaviour = (typeof BEHAVIOURS)[number];

const HOST = '127.0.0.1';
/** How many ports behind a taken one are tried, and how far they lie apart, so that neighbours stay free for their own. */
const TRIES = 40;
const STEP = 30;

/**
 * A stand-in behind a real socket. `connections` is its limit: one more is closed at once, as small devices do. Behaviours: `off` refuses,
 * `silent` takes everything and answers nothing, `hangs-up` closes at the first byte, `vanished` keeps connections that nobody serves any
 * more (a pulled cable: half-open).
 */
export class TcpDevice {
  /** The port that it is meant to have. */
  readonly wanted: number;
  #port: number;
  readonly #connections: number;
  readonly #serve: Serve;
  readonly #sockets = new Set<Socket>();
  #server: Server | null = null;
  #behaviour: Behaviour = 'works';

  constructor(port: number, connections: number, serve: Serve) {
    this.wanted = port;
    this.#port = port;
    this.#connections = connections;
    this.#serve = serve;
  }

  get port(): number {
    return this.#port;
  }

  get behaviour(): Behaviour {
    return this.#behaviour;
  }

  /** Listens; resolves with the real port (0 asks the system for one), rejects when it is taken. */
  start(): Promise<number> {
    return new Promise((resolve, reject) => {
      const server = createServer((socket) => this.#accept(socket));
      server.once('error', reject);
      server.listen(this.#port, HOST, () => {
        this.#server = server;
        const address = server.address();
        resolve(typeof address === 'object' && address ? address.port : this.#port);
      });
    });
  }

  /** Listens at the wanted port or, where others have it, at one behind it; rejects when none of some is free. */
  async startNear(): Promise<number> {
    for (let i = 0; ; i++) {
      try {
        return await this.start();
      } catch (error) {
        if (i === TRIES) throw error;
        this.#port += STEP;
      }
    }
  }

  /** Closes everything; resolves when the port is free. */
  stop(): Promise<void> {
    for (const socket of this.#sockets) socket.destroy();
    const server = this.#server;
    this.#server = null;
    return new Promise((resolve) => (server ? server.close(() => resolve()) : resolve()));
  }

  async behave(behaviour: Behaviour): Promise<void> {
    const was = this.#behaviour;
    this.#behaviour = behaviour;
    if (behaviour === 'off' && was !== 'off') await this.stop();
    if (behaviour !== 'off' && was === 'off') await this.start();
  }

  #accept(socket: Socket): void {
    if (this.#sockets.size >= this.#connections) return void socket.destroy();
    this.#sockets.add(socket);
    socket.setNoDelay(true);
    const speaks = (): boolean => this.#behaviour === 'works';
    const session = this.#serve(
      (bytes) => {
        if (speaks() && !socket.destroyed) socket.write(bytes);
      },
      () => socket.destroy(),
      (socket.remoteAddress ?? '').replace(/^::ffff:/, ''),
    );
    if (!session) {
      this.#sockets.delete(socket);
      return void socket.destroy();
    }
    socket.on('data', (bytes) => {
      if (this.#behaviour === 'hangs-up') socket.destroy();
      else if (speaks()) session.take(bytes);
    });
    socket.on('error', () => undefined);
    socket.on('close', () => {
      this.#sockets.delete(socket);
      session.leave();
    });
  }
}
