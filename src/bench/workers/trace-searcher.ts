import { blockOf, endOf, entryOf, type TraceRecord } from '../../core/trace/record';
import type { TraceSearchAnswer, TraceSearchQuestion } from '../../messages/trace-search';
import { historyOf, type BenchState } from '../state/bench-state';

/** Blocks that are given to the worker in one task of the page: a few milliseconds. */
const BLOCKS_AT_ONCE = 20;

/** The worker as the searcher sees it. */
export interface SearchWorker {
  readonly post: (question: TraceSearchQuestion) => void;
  readonly end: () => void;
}

/**
 * The page's side of the worker that searches the trace: it gives the worker what the page holds, from the newest entry back, and on as more comes. What
 * bytes mean is told once, at the beginning.
 */
export class TraceSearcher {
  readonly #worker: SearchWorker;
  readonly #record: () => TraceRecord;
  #first: number;
  #end: number;
  #number = 0;
  #heard: ((answer: TraceSearchAnswer) => void) | null = null;
  #timer: ReturnType<typeof setTimeout> | null = null;

  constructor(worker: SearchWorker, state: () => BenchState) {
    this.#worker = worker;
    this.#record = () => state().record;
    const { record, sheets, sessionStartMs } = state();
    const { tail, tailStart } = record;
    worker.post({
      kind: 'begin',
      tail,
      tailStart,
      history: historyOf(state()),
      sheets: [...new Set([...sheets.values()].map(({ sheet }) => sheet))],
      sessionStartMs,
    });
    this.#first = tailStart;
    this.#end = endOf(record);
    this.feed();
  }

  /** Searches for a filter; what an earlier search found is not told any more. */
  search(text: string, heard: (answer: TraceSearchAnswer) => void): void {
    this.#heard = heard;
    // What came since it was given the record, while nobody looked for anything.
    this.feed();
    this.#worker.post({ kind: 'search', number: ++this.#number, text });
  }

  /** What the last search still finds is not told any more; the worker goes on, and knows more meanings for the next one. */
  forget(): void {
    this.#heard = null;
  }

  answered(answer: TraceSearchAnswer): void {
    if (answer.number === this.#number) this.#heard?.(answer);
  }

  /** Gives the worker what it has not got yet, a part in each task. */
  readonly feed = (): void => {
    const record = this.#record();
    const end = endOf(record);
    const newer = Array.from({ length: end - this.#end }, (_, i) => entryOf(record, this.#end + i)).filter(
      (entry) => entry !== null,
    );
    const last = blockOf(record, this.#first - 1);
    const older = last < 0 ? [] : record.blocks.slice(Math.max(0, last + 1 - BLOCKS_AT_ONCE), last + 1);
    if (older.length > 0 || newer.length > 0) this.#worker.post({ kind: 'more', older, newer });
    this.#end = end;
    this.#first -= older.reduce((sum, { count }) => sum + count, 0);
    if (older.length > 0) this.#timer ??= setTimeout(this.#feedOn);
  };

  readonly #feedOn = (): void => {
    this.#timer = null;
    this.feed();
  };

  end(): void {
    if (this.#timer !== null) clearTimeout(this.#timer);
    this.#heard = null;
    this.#worker.end();
  }
}

/** Starts the worker; null where this browser has none. `gone`: its script did not come. */
export function startTraceSearcher(state: () => BenchState, gone: () => void): TraceSearcher | null {
  if (typeof Worker === 'undefined') return null;
  const worker = new Worker(new URL('../../workers/search.worker.ts', import.meta.url), {
    type: 'module',
    name: 'bujo search',
  });
  const searcher = new TraceSearcher(
    { post: (question) => worker.postMessage(question), end: () => worker.terminate() },
    state,
  );
  worker.addEventListener('message', ({ data }: MessageEvent<TraceSearchAnswer>) => searcher.answered(data));
  worker.addEventListener('error', gone);
  return searcher;
}
