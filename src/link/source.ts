import type { ExchangeResult, LineRequest } from './request';

/** What a source needs to choose its next request; times are microseconds of the line clock. */
export interface Gate {
  readonly nowUs: number;
  /** From when on the answer to a request could be no older request's; 0 where nothing older is in its way. */
  readonly clearUs: (bytes: Uint8Array) => number;
}

/** Something that wants requests sent. The line asks its sources in order of priority and tells each how its requests ended. */
export interface Source {
  /** The next request that is due, or null. */
  next(gate: Gate): LineRequest | null;
  /** When this source will want to send again, or null while it waits for nothing. */
  dueUs(gate: Gate): number | null;
  took(result: ExchangeResult): void;
}
