import type { RequestEffect } from '../core/drive/request-effect';
import type { SheetIndex } from '../core/sheet/index-sheet';
import type { ExchangeResult } from './request';

/** What a line must know of a station to stop it and to keep it running, in whatever protocol; all of it comes from its sheet. */
export interface StationControl {
  readonly station: number;
  readonly index: SheetIndex | null;
  readonly timeoutUs: number;
  /** What a request does to the drive. */
  readonly effectOf: (bytes: Uint8Array) => RequestEffect;
  /** Remembers what was sent on purpose: some links carry it along with every request. */
  readonly noteSent: (act: RequestEffect) => void;
  /** A run word is not in force any more, and no stop word was sent: nothing that is carried along may set the drive going again. */
  readonly noteRunEnded: () => void;
  /** The request as it leaves: one that only reads, or writes a parameter, carries along what was last sent on purpose. */
  readonly asSent: (bytes: Uint8Array) => Uint8Array;
  readonly mayTurn: (act: RequestEffect) => boolean;
  /** Learns from a certain answer how long the drive's own watchdog is. */
  readonly learn: (result: ExchangeResult) => void;
  /** How often the control word must be repeated, in microseconds; null when the watch is off or unknown. */
  readonly keepAliveEveryUs: () => number | null;
  readonly controlWrite: (word: number) => Uint8Array | null;
  /** Asks for the control word that the drive holds, without giving it one; null where this link cannot ask that. */
  readonly holdRead: () => Uint8Array | null;
  /** Whether the drive, by an answer to `holdRead` or to the word itself, is still in the operation that the word asked for; null when it does not tell. */
  readonly holds: (result: ExchangeResult, word: number) => boolean | null;
  /** Reads the status word alone; null where every answer brings it along, or nothing does. */
  readonly statusWordRead: () => Uint8Array | null;
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

/** How long an answer is waited for, in microseconds: by the sheet, else the default. */
export const timeoutOf = (index: SheetIndex | null): number =>
  index?.sheet.link ? index.sheet.link.replyWithinMs * 1000 : DEFAULT_TIMEOUT_US;
