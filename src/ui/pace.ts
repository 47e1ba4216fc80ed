/** What is drawn again and again takes at most one part in so many of the page's thread … */
const PARTS = 6;
/** … and is never older than this for it. */
const MOST_MS = 2_000;

/** How soon something may be drawn again that takes its time: on a slow computer hands come first. Times in milliseconds of one clock. */
export class Pace {
  #beganMs = -Infinity;
  #tookMs = 0;
  #isDrawing = false;

  begin(nowMs: number): void {
    this.#beganMs = nowMs;
    this.#isDrawing = true;
  }

  /** What was begun is drawn, if anything was; what stood in its way counts, since that waits for the same thread. */
  end(nowMs: number): void {
    if (!this.#isDrawing) return;
    this.#tookMs = nowMs - this.#beganMs;
    this.#isDrawing = false;
  }

  /** Something else is to be drawn: that waits for nothing. */
  forget(): void {
    this.#beganMs = -Infinity;
    this.#isDrawing = false;
  }

  /** What is left to wait before the next drawing; 0 where it may begin. */
  restMs(nowMs: number): number {
    return Math.max(0, this.#beganMs + Math.min(MOST_MS, PARTS * this.#tookMs) - nowMs);
  }
}
