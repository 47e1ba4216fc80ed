import { objectEnd } from '../modbus/objects';

/** A place's entry and its run in one number, so that a walk writes little. */
const RUN_AT = 16;
const ENTRY_BITS = (1 << RUN_AT) - 1;

/**
 * Where lists of identification objects end that may begin at any place of one buffer of up to 32 kB. Each object says where the next begins, so a
 * list is a path over places, and paths that meet go on as one. They are kept as runs, each place in one run: however many lists seem to begin
 * in a stream, and however long they are, every place is walked over once, and a question jumps along the runs.
 */
export class ObjectRuns {
  readonly #capacity: number;
  /**
   * Run and entry of each place, where the entry has that place; else they are of bytes that were here before. Made with the first question: most
   * streams have none.
   */
  #entries = new Int32Array(0);
  /** Place of each entry, one run after the other. */
  #places = new Uint16Array(0);
  /** Last entry of each run. */
  #lasts = new Uint16Array(0);
  #entryCount = 0;
  #runCount = 0;

  constructor(capacity: number) {
    this.#capacity = capacity;
  }

  /** The buffer's bytes are others now. */
  forget(): void {
    this.#entryCount = 0;
    this.#runCount = 0;
  }

  /** Where a list of `tally` objects, one at least, that begins at `start` ends; 0 where their numbers do not ascend, or they go on beyond `most`. */
  endOf(bytes: Uint8Array, start: number, end: number, tally: number, most: number): number {
    if (this.#entries.length === 0) this.#make();
    let at = start;
    // An object has two bytes at least.
    for (let left = tally; at + 2 * left <= most;) {
      const entryAndRun = this.#known(at) || this.#walk(bytes, at, end);
      const entry = (entryAndRun & ENTRY_BITS) + left;
      const last = this.#lasts[entryAndRun >>> RUN_AT] as number;
      if (entry <= last) {
        at = this.#places[entry] as number;
        return at <= most ? at : 0;
      }
      left = entry - last - 1;
      const before = this.#places[last] as number;
      at = objectEnd(bytes, before);
      if (left === 0) return at <= most ? at : 0;
      if ((bytes[at] as number) <= (bytes[before] as number)) return 0;
    }
    return 0;
  }

  #make(): void {
    this.#entries = new Int32Array(this.#capacity);
    this.#places = new Uint16Array(this.#capacity + 1);
    this.#lasts = new Uint16Array(this.#capacity + 1);
  }

  /** Run and entry of a place that was walked over; else 0. */
  #known(at: number): number {
    const entryAndRun = this.#entries[at] as number;
    const entry = entryAndRun & ENTRY_BITS;
    return entry <= this.#entryCount && this.#places[entry] === at ? entryAndRun : 0;
  }

  /** Begins a run at `from`, as far as the numbers ascend, or to where another run is met; run and entry of `from`. */
  #walk(bytes: Uint8Array, from: number, end: number): number {
    const run = ++this.#runCount << RUN_AT;
    let entry = this.#entryCount;
    const first = run | (entry + 1);
    let before = -1;
    for (let at = from; at + 1 < end && this.#known(at) === 0; at = objectEnd(bytes, at)) {
      const id = bytes[at] as number;
      if (id <= before) break;
      before = id;
      this.#entries[at] = run | ++entry;
      this.#places[entry] = at;
    }
    this.#lasts[this.#runCount] = entry;
    this.#entryCount = entry;
    return first;
  }
}
