import type { ExchangeResult, LineRequest } from './request';
import type { Source } from './source';

/** What people asked for, first come first served. */
export class UserSource implements Source {
  #queue: LineRequest[] = [];

  add(request: LineRequest): void {
    this.#queue.push(request);
  }

  /** Takes everything back that has not been sent; Stop and closing do this. */
  clear(): readonly LineRequest[] {
    const dropped = this.#queue;
    this.#queue = [];
    return dropped;
  }

  next(): LineRequest | null {
    return this.#queue.shift() ?? null;
  }

  dueUs(): number | null {
    return this.#queue.length > 0 ? 0 : null;
  }

  took(_result: ExchangeResult): void {}
}
