/** The page gets 20 batches a second at most, and a sign of life each 200 ms. All times in milliseconds. */
export const BATCH_MS = 50;
const ALIVE_MS = 200;
/** A line this busy is shown ten times a second only: drawing it more often would take the page's thread from the user. */
const BUSY_ENTRIES = 6;
const BUSY_MS = 100;
/** A page that was so long at drawing has this many times as long for everything else, but no longer than `REST_MS`: after half a second it calls the worker silent. */
const RESTS = 2;
const REST_MS = 200;
/** A page that does not say that it has drawn gets the next batch all the same after this long. */
const UNDRAWN_MS = 1000;

/**
 * When the page gets its next batch: not before it has drawn the last one. Without that a page whose computer is slow
 * falls behind for good, and neither a press nor Stop gets a turn on its thread. A slow one has most of its time for the person before it.
 */
export class BatchPace {
  #lastMs = -Infinity;
  #lastEntries = 0;
  #tookMs = 0;
  #undrawn: number | null = null;

  /** Whether it is time to gather what happened. */
  isDue(nowMs: number): boolean {
    const since = nowMs - this.#lastMs;
    if (this.#undrawn !== null && since < UNDRAWN_MS) return false;
    if (since < this.#tookMs + Math.min(REST_MS, RESTS * this.#tookMs)) return false;
    return this.#lastEntries <= BUSY_ENTRIES || since >= BUSY_MS - BATCH_MS / 2;
  }

  /** Whether a batch with nothing in it is due as a sign of life. */
  isQuietTooLong(nowMs: number): boolean {
    return nowMs - this.#lastMs >= ALIVE_MS;
  }

  posted(nowMs: number, batch: number, entries: number): void {
    this.#lastMs = nowMs;
    this.#lastEntries = entries;
    this.#undrawn = batch;
  }

  /** The page has drawn a batch; that of an older one says nothing. */
  drawn(nowMs: number, batch: number): void {
    if (batch !== this.#undrawn) return;
    this.#undrawn = null;
    this.#tookMs = nowMs - this.#lastMs;
  }
}
