import { messageOf } from '../core/message-of';
import { characterUs, frameGapUs, type SerialSettings } from '../core/line/settings';
import { trouble, type Trouble, type TroubleKind } from '../core/line/trouble';
import { done, failed, type Result } from '../core/result';
import type { LineFault } from '../core/trace/entry';
import type { LinkPort, Pace, PortEvents, PortSignals, PresentClock } from './port';

/** The part of the browser's serial port that is used here (Web Serial API); tests give an object of the same form. */
export interface BrowserSerialPort {
  readonly readable: ReadableStream<Uint8Array> | null;
  readonly writable: WritableStream<Uint8Array> | null;
  open(options: BrowserSerialOptions): Promise<void>;
  close(): Promise<void>;
  setSignals(signals: { dataTerminalReady?: boolean; requestToSend?: boolean; break?: boolean }): Promise<void>;
  getSignals(): Promise<{
    clearToSend: boolean;
    dataSetReady: boolean;
    dataCarrierDetect: boolean;
    ringIndicator: boolean;
  }>;
  addEventListener(type: 'disconnect', listener: () => void): void;
  removeEventListener(type: 'disconnect', listener: () => void): void;
}

export interface BrowserSerialOptions {
  readonly baudRate: number;
  readonly dataBits: 7 | 8;
  readonly parity: 'none' | 'even' | 'odd';
  readonly stopBits: 1 | 2;
  readonly flowControl: 'none';
  readonly bufferSize: number;
}

const PARITY = { N: 'none', E: 'even', O: 'odd' } as const;
/** Adapters hand bytes over up to 16 ms late; only this much silence ends an unfinished frame. */
const SILENCE_US = 20_000;
/** A worker's timer and an adapter's buffer, both ways. */
const ALLOWANCE_US = 60_000;
const BUFFER = 4096;
/** Signals and settings under way hold up a close for so long. */
const WORK_MS = 500;

/** What the browser calls each fault of the line, by the name of the error (Web Serial API, 4.5). */
const LINE_FAULTS: Readonly<Record<string, LineFault>> = {
  BreakError: 'break',
  FramingError: 'framing',
  ParityError: 'parity',
  BufferOverrunError: 'overrun',
};

const OPEN_FAILURES: Readonly<Record<string, [TroubleKind, string]>> = {
  InvalidStateError: ['held', 'this port is open already, in this tab or another one'],
  NetworkError: ['held', 'the port could not be opened: another program may have it, or the adapter was pulled out'],
  SecurityError: ['no-access', 'this page may not use serial ports'],
  NotFoundError: ['no-such-port', 'the port is not there any more'],
  TypeError: ['bad-settings', 'the adapter does not take these settings'],
};

/** Settings as the browser’s Web Serial takes them. */
export const serialOptions = ({ rate, dataBits, parity, stopBits }: SerialSettings): BrowserSerialOptions => ({
  baudRate: rate,
  dataBits,
  parity: PARITY[parity],
  stopBits,
  flowControl: 'none',
  bufferSize: BUFFER,
});

/**
 * A serial port of this machine through the browser. A new rate means close and open, which may toggle DTR; faults of the line come without
 * the place of their byte, so the chunk that follows is taken as the faulty one.
 */
export class SerialPort implements LinkPort {
  readonly #find: () => Promise<BrowserSerialPort | null>;
  readonly #clock: PresentClock;
  #settings: SerialSettings;
  #port: BrowserSerialPort | null = null;
  #events: PortEvents | null = null;
  #writer: WritableStreamDefaultWriter<Uint8Array> | null = null;
  #reader: ReadableStreamDefaultReader<Uint8Array> | null = null;
  #reading: Promise<void> = Promise.resolve();
  #freeUs = 0;
  /** Counts openings and closings: what comes through after the next one is undone. */
  #generation = 0;
  /** Signals, settings and breaks one after the other. */
  #queue: Promise<unknown> = Promise.resolve();

  constructor(find: () => Promise<BrowserSerialPort | null>, clock: PresentClock, settings: SerialSettings) {
    this.#find = find;
    this.#clock = clock;
    this.#settings = settings;
  }

  pace(): Pace {
    return { silenceUs: SILENCE_US, gapUs: frameGapUs(this.#settings), firstByteUs: 0, allowanceUs: ALLOWANCE_US };
  }

  async open(events: PortEvents): Promise<Result<void, Trouble>> {
    if (this.#port) return failed(trouble('held', 'this port is open already'));
    const generation = ++this.#generation;
    const port = await this.#find();
    if (!port)
      return failed(trouble('no-such-port', 'no serial port is chosen for this line; choose one in the Line stage'));
    const why = await this.#begin(port);
    if (why) return failed(why);
    if (generation !== this.#generation) {
      await this.#end(port);
      return failed(trouble('closed-here', 'closed while it was being opened'));
    }
    this.#port = port;
    this.#events = events;
    port.addEventListener('disconnect', this.#unplugged);
    void this.#readSignals();
    return done(undefined);
  }

  async close(): Promise<void> {
    const port = this.#port;
    this.#generation++;
    this.#port = null;
    this.#events = null;
    port?.removeEventListener('disconnect', this.#unplugged);
    // New settings may be on their way: they close and open the port themselves.
    await Promise.race([this.#queue, new Promise((resolve) => setTimeout(resolve, WORK_MS))]);
    if (port) await this.#end(port);
  }

  settings(): SerialSettings {
    return this.#settings;
  }

  reconfigure(settings: SerialSettings): void {
    this.#settings = settings;
    const port = this.#port;
    if (!port) return;
    this.#inOrder(async () => {
      await this.#end(port);
      if (this.#port !== port) return;
      const why = await this.#begin(port);
      if (why) this.#gone(why);
    });
  }

  write(bytes: Uint8Array): number {
    this.#inOrder(() => this.#writer?.write(bytes) ?? Promise.resolve());
    const startUs = Math.max(this.#clock.now(), this.#freeUs);
    this.#freeUs = startUs + bytes.length * characterUs(this.#settings);
    return this.#freeUs;
  }

  sendBreak(us: number): number | null {
    const port = this.#port;
    if (!port) return null;
    this.#inOrder(async () => {
      await port.setSignals({ break: true });
      await new Promise((resolve) => setTimeout(resolve, us / 1000));
      await port.setSignals({ break: false });
    });
    return this.#clock.now() + us;
  }

  setSignals({ rts, dtr }: PortSignals): void {
    const port = this.#port;
    if (!port) return;
    this.#inOrder(() =>
      port.setSignals({
        ...(rts === undefined ? {} : { requestToSend: rts }),
        ...(dtr === undefined ? {} : { dataTerminalReady: dtr }),
      }),
    );
    this.#events?.signals({ ...(rts === undefined ? {} : { rts }), ...(dtr === undefined ? {} : { dtr }) });
  }

  /** A step that fails ends the line: nobody knows in which state the port is then. */
  #inOrder(step: () => Promise<unknown>): void {
    this.#queue = this.#queue.then(step).catch((error: unknown) => this.#gone(troubleOf(error, 'unplugged')));
  }

  async #begin(port: BrowserSerialPort): Promise<Trouble | null> {
    try {
      await port.open(serialOptions(this.#settings));
    } catch (error) {
      return troubleOf(error, 'held');
    }
    this.#writer = port.writable?.getWriter() ?? null;
    this.#reading = this.#read(port);
    return null;
  }

  async #end(port: BrowserSerialPort): Promise<void> {
    try {
      await this.#reader?.cancel();
      await this.#reading;
      this.#writer?.releaseLock();
      this.#writer = null;
      await port.close();
    } catch {
      // A port that was pulled out cannot be closed in order; it is gone all the same.
    }
  }

  /** Reads until the port is closed; after a fault of the line the browser gives a new stream. */
  async #read(port: BrowserSerialPort): Promise<void> {
    while (port.readable) {
      const reader = port.readable.getReader();
      this.#reader = reader;
      try {
        for (;;) {
          const { done: over, value } = await reader.read();
          if (over) return;
          this.#clock.catchUp();
          this.#events?.bytes(value, this.#clock.now());
          this.#clock.catchUp();
        }
      } catch (error) {
        const fault = LINE_FAULTS[nameOf(error)];
        if (!fault) return this.#gone(troubleOf(error, 'unplugged'));
        this.#clock.catchUp();
        this.#events?.lineError(fault, this.#clock.now());
      } finally {
        reader.releaseLock();
        this.#reader = null;
      }
    }
  }

  async #readSignals(): Promise<void> {
    const signals = await this.#port?.getSignals().catch(() => null);
    if (signals) this.#events?.signals({ cts: signals.clearToSend, dsr: signals.dataSetReady });
  }

  readonly #unplugged = (): void =>
    this.#gone(trouble('unplugged', 'the adapter was pulled out; plug it in again and open the line'));

  #gone(why: Trouble): void {
    const events = this.#events;
    const port = this.#port;
    this.#port = null;
    this.#events = null;
    port?.removeEventListener('disconnect', this.#unplugged);
    this.#clock.catchUp();
    events?.closed(why);
  }
}

const nameOf = (error: unknown): string => (error instanceof Error || error instanceof DOMException ? error.name : '');

function troubleOf(error: unknown, otherwise: TroubleKind): Trouble {
  const [kind, text] = OPEN_FAILURES[nameOf(error)] ?? [otherwise, messageOf(error)];
  return trouble(kind, text);
}
