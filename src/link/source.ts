import type { ExchangeResult, LineRequest } from './request';

/** Something that wants requests sent. The line asks its sources in order of priority and tells each how its requests ended. */
export interface Source {
  /** The next request that is due at `nowUs`, or null. */
  next(nowUs: number): LineRequest | null;
  /** When this source will want to send again, or null while it waits for nothing. */
  dueUs(): number | null;
  took(result: ExchangeResult): void;
}
