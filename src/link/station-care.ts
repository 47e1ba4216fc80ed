import type { DriveAct } from '../core/sheet/acts';
import type { SheetIndex } from '../core/sheet/index-sheet';
import type { ExchangeResult } from './request';

/** What a line must know of a station to stop it and to keep it running, in whatever protocol; all of it comes from its sheet. */
export interface StationCare {
  readonly station: number;
  readonly index: SheetIndex | null;
  readonly timeoutUs: number;
  /** What a request does to the drive. */
  readonly actOf: (bytes: Uint8Array) => DriveAct;
  /** Remembers what was sent: some links carry it along with every control word. */
  readonly noteSent: (act: DriveAct) => void;
  readonly mayTurn: (act: DriveAct) => boolean;
  /** Learns from a certain answer how long the drive's own watchdog is. */
  readonly learn: (result: ExchangeResult) => void;
  /** How often the control word must be repeated, in microseconds; null when the watch is off or unknown. */
  readonly keepAliveEveryUs: () => number | null;
  readonly controlWrite: (word: number) => Uint8Array | null;
  /** The frames that Stop sends, in order; empty where no sheet says how this drive is stopped. */
  readonly stopFrames: () => readonly Uint8Array[];
  /** How long the shaft may take to stand after the last stop word, in microseconds. */
  readonly standstillWithinUs: () => number;
  /** A harmless request whose answer tells whether the shaft turns. */
  readonly statusRead: () => Uint8Array | null;
  /** Whether the answer to `statusRead` says that the shaft turns; null when it does not tell. */
  readonly turningIn: (result: ExchangeResult) => boolean | null;
}

/** Time-out where no sheet says how fast the drive answers. */
export const DEFAULT_TIMEOUT_US = 200_000;

export const timeoutOf = (index: SheetIndex | null): number =>
  index?.sheet.link ? index.sheet.link.replyWithinMs * 1000 : DEFAULT_TIMEOUT_US;
