import type { SerialSettings } from '../core/line/settings';
import type { Trouble } from '../core/line/trouble';
import type { Result } from '../core/result';
import type { LineFault } from '../core/trace/entry';

/** Modem lines that a port may offer. */
export interface PortSignals {
  readonly rts?: boolean;
  readonly dtr?: boolean;
  /** Told by the other end. */
  readonly cts?: boolean;
  readonly dsr?: boolean;
}

/** What a port tells. Times are the line clock's, in microseconds; they are taken when the last bit of the chunk was there. */
export interface PortEvents {
  bytes(bytes: Uint8Array, atUs: number): void;
  /** A fault of a character; the byte itself, where there is one, comes through `bytes`. */
  lineError(kind: LineFault, atUs: number): void;
  signals(signals: PortSignals): void;
  closed(why: Trouble): void;
}

/** How a port keeps time, in microseconds. */
export interface Pace {
  /** Silence that ends an unfinished frame: exact on a stand-in line, generous where chunks come late and in lumps. */
  readonly silenceUs: number;
  /** Rest of the line between an answer and the next request. */
  readonly gapUs: number;
  /** A chunk's first byte began at most this long before the chunk was handed over. */
  readonly firstByteUs: number;
  /** What the way to the drive and back may add to the drive's own reply time. */
  readonly allowanceUs: number;
}

/** A way to the other end: a stand-in, a serial port of the browser, or a socket of the local server. */
export interface LinkPort {
  pace(): Pace;
  open(events: PortEvents): Promise<Result<void, Trouble>>;
  close(): Promise<void>;
  /** Settings of this end; null where there is no serial line. */
  settings(): SerialSettings | null;
  /** New settings for this end; what is on the way still uses the old ones. */
  reconfigure(settings: SerialSettings): void;
  /** Hands bytes over and tells when the last stop bit will have left, in microseconds of the line clock. */
  write(bytes: Uint8Array): number;
  /** Holds the line low for so many microseconds; returns when that ends, or null where the port cannot do it. */
  sendBreak(us: number): number | null;
  setSignals(signals: PortSignals): void;
}

/** Real time for ports: brings the line clock up to the present and tells it. */
export interface PresentClock {
  catchUp(): void;
  now(): number;
}
