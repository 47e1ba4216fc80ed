import { characterUs, frameGapUs, type SerialSettings } from '../core/line/settings';
import { trouble, type Trouble } from '../core/line/trouble';
import { done, failed, type Result } from '../core/result';
import type { SocketHandlers } from './bridge-client';
import type { LinkPort, Pace, PortEvents, PresentClock } from './port';

/** A frame may come in several segments; only this much silence ends an unfinished one. */
const SILENCE_US = 300_000;
/** Page, local server, network and a device server's gathering together. */
const ALLOWANCE_US = 500_000;

/** Who opens sockets: the local server for a page, or the process itself. */
export interface TcpSockets {
  /** Begins to open one; its name. */
  open(host: string, port: number, handlers: SocketHandlers): string;
  write(socket: string, bytes: Uint8Array): void;
  close(socket: string): void;
}

/** A socket, to Modbus TCP or to a serial line behind a device server. */
export class TcpPort implements LinkPort {
  readonly #sockets: TcpSockets;
  readonly #clock: PresentClock;
  readonly #host: string;
  readonly #port: number;
  /** Of the line behind a device server: bytes take their time there, and the answer cannot come before. */
  #settings: SerialSettings | null;
  #socket: string | null = null;
  #freeUs = 0;
  /** Ends an open that is under way. */
  #giveUp: (() => void) | null = null;

  constructor(sockets: TcpSockets, clock: PresentClock, host: string, port: number, settings: SerialSettings | null) {
    this.#sockets = sockets;
    this.#clock = clock;
    this.#host = host;
    this.#port = port;
    this.#settings = settings;
  }

  pace(): Pace {
    // Modbus TCP needs no rest between frames; a serial line behind a device server does.
    const gapUs = this.#settings ? frameGapUs(this.#settings) : 0;
    return { silenceUs: SILENCE_US, gapUs, firstByteUs: 0, allowanceUs: ALLOWANCE_US };
  }

  open(events: PortEvents): Promise<Result<void, Trouble>> {
    if (this.#socket !== null) return Promise.resolve(failed(trouble('held', 'this port is open already')));
    return new Promise((resolve) => {
      let isOpen = false;
      this.#giveUp = () => resolve(failed(trouble('closed-here', 'closed while it was being opened')));
      this.#socket = this.#sockets.open(this.#host, this.#port, {
        opened: () => {
          isOpen = true;
          this.#giveUp = null;
          this.#clock.catchUp();
          resolve(done(undefined));
        },
        bytes: (bytes) => {
          this.#clock.catchUp();
          events.bytes(bytes, this.#clock.now());
          this.#clock.catchUp();
        },
        ended: (why) => {
          this.#socket = null;
          this.#clock.catchUp();
          if (isOpen) events.closed(why);
          else resolve(failed(why));
        },
      });
    });
  }

  close(): Promise<void> {
    if (this.#socket !== null) this.#sockets.close(this.#socket);
    this.#socket = null;
    this.#giveUp?.();
    this.#giveUp = null;
    return Promise.resolve();
  }

  settings(): SerialSettings | null {
    return this.#settings;
  }

  /** The settings of the line behind the socket are the device server's; here they only tell how long bytes take. */
  reconfigure(settings: SerialSettings): void {
    this.#settings = settings;
  }

  write(bytes: Uint8Array): number {
    if (this.#socket !== null) this.#sockets.write(this.#socket, bytes);
    const startUs = Math.max(this.#clock.now(), this.#freeUs);
    this.#freeUs = startUs + (this.#settings ? bytes.length * characterUs(this.#settings) : 0);
    return this.#freeUs;
  }

  sendBreak(): number | null {
    return null;
  }

  setSignals(): void {}
}
