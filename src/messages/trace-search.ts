import type { LineHistory } from '../core/job/line-history';
import type { Sheet } from '../core/sheet/sheet';
import type { TraceBlock } from '../core/trace/block';
import type { TraceEntry } from '../core/trace/entry';

/** What the page asks of the worker that searches the trace. It has a record of its own, which the page gives it from the newest entry back. */
export type TraceSearchQuestion =
  /** The newest entries, and what entries mean; first of all. */
  | {
      readonly kind: 'begin';
      readonly tail: readonly TraceEntry[];
      readonly tailStart: number;
      readonly history: LineHistory;
      readonly sheets: readonly Sheet[];
      readonly sessionStartMs: ReadonlyMap<string, number>;
    }
  /** Entries from before the first that it has, oldest first, and after its last. */
  | { readonly kind: 'more'; readonly older: readonly TraceBlock[]; readonly newer: readonly TraceEntry[] }
  /** A new search ends the one before. */
  | { readonly kind: 'search'; readonly number: number; readonly text: string };

/** What was found since it was told last: places, older ones newest first, newer ones oldest first. */
export interface TraceSearchAnswer {
  readonly number: number;
  readonly older: readonly number[];
  readonly newer: readonly number[];
  /** Entries gone through so far. */
  readonly looked: number;
}
