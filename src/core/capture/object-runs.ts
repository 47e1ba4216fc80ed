import { objectEnd } from '../modbus/objects';
import { RTU_MAX } from '../modbus/rtu';

/** A place's entry and its run in one number, so that a walk writes little. */
const RUN_AT = 16;
const ENTRY_BITS = (1 << RUN_AT) - 1;

/** Objects that are stepped over without being remembered. */
const PLAIN_STEPS = 4;

/**
 * How long lists of identification objects are that may begin at any place of one buffer of up to 32 kB. Each object says where the next begins,
 * so a list is a path over places, and paths that meet go on as one. They are kept as runs, each place in one run: however many lists seem to
 * begin in a stream, and however long they are, every place is walked over once, and a question jumps along the runs.
 */
export class ObjectRuns {
  readonly #capacity: number;
  /** Run and entry of each place; 0 where none was walked yet. Made with the first run: most streams have no list at all. */
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
    if (this.#runCount > 0) this.#entries.fill(0);
    this.#entryCount = 0;
    this.#runCount = 0;
  }

  /** As `objectsSize` says it; more than a frame can have, or than there is, where the list does not end in one. */
  sizeOf(bytes: Uint8Array, start: number, end: number, tally: number): number {
    const most = RTU_MAX | 0;
    // An object has two bytes at least.
    if (2 * tally > most) return 2 * tally;
    if (this.#entries.length === 0) this.#make();
    const entries = this.#entries;
    const whole = (end - 1) | 0;
    let at = start | 0;
    let left = tally | 0;
    // A list that meets a run soon is not worth a run of its own.
    const plainly = Math.max(left - PLAIN_STEPS, 0) | 0;
    while (left > plainly && at < whole && entries[at] === 0) {
      at = (at + 2 + (bytes[at + 1] as number)) | 0;
      left = (left - 1) | 0;
    }
    while (left > 0 && at - start <= most) {
      if (at + 1 >= end) return Math.max(at + 2, end + 1) - start;
      const entryAndRun = (entries[at] as number) || this.#walk(bytes, at, end);
      const entry = (entryAndRun & ENTRY_BITS) + left;
      const last = this.#lasts[entryAndRun >>> RUN_AT] as number;
      if (entry <= last) return (this.#places[entry] as number) - start;
      left = entry - last - 1;
      at = objectEnd(bytes, this.#places[last] as number);
    }
    return at - start;
  }

  #make(): void {
    this.#entries = new Int32Array(this.#capacity);
    this.#places = new Uint16Array(this.#capacity + 1);
    this.#lasts = new Uint16Array(this.#capacity + 1);
  }

  /** Begins a run at `from`, as far as the bytes go or to where another run is met; run and entry of `from`. */
  #walk(bytes: Uint8Array, from: number, end: number): number {
    const entries = this.#entries;
    const places = this.#places;
    const run = ++this.#runCount << RUN_AT;
    let entry = this.#entryCount;
    const first = run | (entry + 1);
    for (let at = from; at + 1 < end && entries[at] === 0; at = objectEnd(bytes, at)) {
      entries[at] = run | ++entry;
      places[entry] = at;
    }
    this.#lasts[this.#runCount] = entry;
    this.#entryCount = entry;
    return first;
  }
}
