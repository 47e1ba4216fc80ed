import type { SerialSettings } from '../core/line/settings';
import type { Result } from '../core/result';
import type { LineFault } from '../core/trace/entry';

/** Modem lines that a port may offer. */
export interface PortSignals {
  readonly rts?: boolean;
  readonly dtr?: boolean;
  readonly break?: boolean;
}

/** What a port tells. Times are the line clock's, in microseconds; they are taken when the last bit of the chunk was there. */
export interface PortEvents {
  bytes(bytes: Uint8Array, atUs: number): void;
  /** A fault of a character; the byte itself, where there is one, comes through `bytes`. */
  lineError(kind: LineFault, atUs: number): void;
  signals(signals: PortSignals): void;
  closed(reason: string): void;
}

/** A way to the other end: a stand-in, and later a serial port of the browser or a socket of the local server. */
export interface LinkPort {
  /** Whether silence between characters can be trusted to end a frame; on real links chunks arrive late and in lumps. */
  readonly exactTiming: boolean;
  open(events: PortEvents): Promise<Result<void, string>>;
  close(): Promise<void>;
  /** New settings for this end; what is on the way still uses the old ones. */
  reconfigure(settings: SerialSettings): void;
  /** Hands bytes over and tells when the last stop bit will have left, in microseconds of the line clock. */
  write(bytes: Uint8Array): number;
  setSignals(signals: PortSignals): void;
}
