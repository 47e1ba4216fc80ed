import type { ExchangeResult, LineRequest } from './request';
import type { Gate, Source } from './source';

/** No press waits longer than this for an older answer to be out of its way; its own is told as `may-be-late` then. */
const LONGEST_HOLD_US = 5_000_000;

interface Waiting {
  readonly request: LineRequest;
  /** When it came to the head of the queue; null before. */
  sinceUs: number | null;
}

/** What people asked for: presses first come first served, then those of a long reading. The first one waits until its answer can be told from an older request's. */
export class UserSource implements Source {
  #queue: Waiting[] = [];

  /** A press goes before those that follow each other by themselves. */
  add(request: LineRequest): void {
    const at = request.yields ? -1 : this.#queue.findIndex((waiting) => waiting.request.yields);
    this.#queue.splice(at < 0 ? this.#queue.length : at, 0, { request, sinceUs: null });
  }

  /** Whether others may go before what waits here. */
  yields(): boolean {
    return this.#queue[0]?.request.yields === true;
  }

  /** Takes everything back that has not been sent; Stop and closing do this. */
  clear(): readonly LineRequest[] {
    const dropped = this.#queue;
    this.#queue = [];
    return dropped.map(({ request }) => request);
  }

  next(gate: Gate): LineRequest | null {
    const dueUs = this.dueUs(gate);
    return dueUs === null || dueUs > gate.nowUs ? null : (this.#queue.shift()?.request ?? null);
  }

  dueUs({ nowUs, clearUs }: Gate): number | null {
    const [head] = this.#queue;
    if (!head) return null;
    head.sinceUs ??= nowUs;
    return Math.min(clearUs(head.request.bytes), head.sinceUs + LONGEST_HOLD_US);
  }

  took(_result: ExchangeResult): void {}
}
