/** Handle of something that is due; pass it to `cancel`. */
export type Due = number;

/**
 * The one source of time for links and stand-ins, in microseconds since it was made. Callbacks run at their due time: the clock steps from
 * one due time to the next, and equal times run in the order in which they were asked for.
 */
export interface Clock {
  now(): number;
  at(timeUs: number, action: () => void): Due;
  cancel(due: Due): void;
}

interface Entry {
  readonly timeUs: number;
  readonly id: Due;
  readonly action: () => void;
}

const before = (a: Entry, b: Entry): boolean => a.timeUs < b.timeUs || (a.timeUs === b.timeUs && a.id < b.id);

/** Callbacks in one `advanceTo`; more means that something re-arms itself without moving on. */
const MOST_STEPS = 50_000_000;

/**
 * A clock that moves only when told to: tests run hours in milliseconds, and the live yard chases real time with it.
 * A binary heap holds what is due; a cancelled entry is dropped when it comes up.
 */
export class VirtualClock implements Clock {
  #nowUs = 0;
  #nextId = 1;
  readonly #heap: Entry[] = [];
  readonly #live = new Set<Due>();

  now(): number {
    return this.#nowUs;
  }

  /** A time in the past is due at once, after what is already due now. */
  at(timeUs: number, action: () => void): Due {
    const entry: Entry = { timeUs: Math.max(timeUs, this.#nowUs), id: this.#nextId++, action };
    this.#live.add(entry.id);
    this.#push(entry);
    return entry.id;
  }

  cancel(due: Due): void {
    this.#live.delete(due);
  }

  /** Due time of the next callback, or null when nothing is due. */
  nextDueUs(): number | null {
    this.#dropCancelled();
    return this.#heap[0]?.timeUs ?? null;
  }

  /** Runs all that is due up to `timeUs` inclusive, each at its own time, then stands at `timeUs`. */
  advanceTo(timeUs: number): void {
    for (let steps = 0; steps < MOST_STEPS; steps++) {
      const next = this.nextDueUs();
      if (next === null || next > timeUs) {
        this.#nowUs = Math.max(this.#nowUs, timeUs);
        return;
      }
      this.#runNext();
    }
    throw new Error('the clock did not come to rest: something re-arms itself at the same time');
  }

  advanceBy(us: number): void {
    this.advanceTo(this.#nowUs + us);
  }

  #runNext(): void {
    const entry = this.#pop();
    if (!entry || !this.#live.delete(entry.id)) return;
    this.#nowUs = entry.timeUs;
    entry.action();
  }

  #dropCancelled(): void {
    while (this.#heap[0] && !this.#live.has(this.#heap[0].id)) this.#pop();
  }

  #push(entry: Entry): void {
    const heap = this.#heap;
    let at = heap.push(entry) - 1;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if (!before(entry, heap[parent] as Entry)) break;
      heap[at] = heap[parent] as Entry;
      at = parent;
    }
    heap[at] = entry;
  }

  #pop(): Entry | undefined {
    const heap = this.#heap;
    const top = heap[0];
    const last = heap.pop();
    if (!top || !last || heap.length === 0) return top;
    let at = 0;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= heap.length) break;
      if (child + 1 < heap.length && before(heap[child + 1] as Entry, heap[child] as Entry)) child++;
      if (!before(heap[child] as Entry, last)) break;
      heap[at] = heap[child] as Entry;
      at = child;
    }
    heap[at] = last;
    return top;
  }
}
