/** Direction of an entry as seen from this bench; `event` carries no bytes. */
export const DIRECTIONS = ['sent', 'received', 'event'] as const;
export type TraceDirection = (typeof DIRECTIONS)[number];

/**
 * Blocks hold the place in this list: new ones go to its end.
 * What the line worker made of an entry when it happened. It cannot be worked out later from the bytes alone, so it is kept.
 * `may-be-late`: fits this request and an earlier one that timed out; it never feeds live values.
 * `unconfirmed`: the station answered, but the task that it was given is not done yet.
 */
export const OUTCOMES = [
  'none',
  'answered',
  'exception',
  'may-be-late',
  'late',
  'foreign',
  'damaged',
  'stray',
  'timeout',
  'opened',
  'closed',
  'stop-pressed',
  'stop-done',
  'yard',
  'settings',
  'break',
  'trouble',
  'unconfirmed',
  'keep-alive-ended',
  'asleep',
  'procedure',
] as const;
export type Outcome = (typeof OUTCOMES)[number];

/** Faults of single characters that the receiver reported. */
export const LINE_FAULTS = ['parity', 'framing', 'overrun', 'break'] as const;
export type LineFault = (typeof LINE_FAULTS)[number];

/** One entry of the append-only record. Decoded text is never stored: it is made again from the bytes and the sheet. */
export interface TraceEntry {
  readonly session: string;
  /** Counts over all lines of a session, without gaps. */
  readonly sequence: number;
  readonly line: string;
  /** Station asked or answering; 0 for events of the line. */
  readonly station: number;
  /** Microseconds since the session began. */
  readonly atUs: number;
  readonly direction: TraceDirection;
  readonly bytes: Uint8Array;
  readonly lineFaults: readonly LineFault[];
  /** Ties a reply to its request; 0 where there is none. */
  readonly exchange: number;
  readonly outcome: Outcome;
  /** The stage or act that caused it: `Frames`, `poll`, `keep-alive`, `Stop`. */
  readonly cause: string;
}
