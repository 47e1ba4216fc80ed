import { BLOCK } from './frame-block';

const WORD = 32;

/** Places of frames in their order, a bit for each frame of the capture: of a hundred million frames a list of places would take 400 MB. */
export class Selection {
  readonly #bits: Uint32Array;
  /** How many come before each block, as far as places were added. */
  readonly #before: number[] = [0];
  #count = 0;

  /** `size`: frames of the capture. */
  constructor(size: number) {
    this.#bits = new Uint32Array(Math.ceil(size / WORD));
  }

  get count(): number {
    return this.#count;
  }

  /** Adds a place behind those that are in it. */
  add(place: number): void {
    const block = Math.floor(place / BLOCK);
    while (this.#before.length <= block) this.#before.push(this.#count);
    this.#bits[place >>> 5] = (this.#bits[place >>> 5] as number) | (1 << (place & 31));
    this.#count++;
  }

  /** So many places, from the one at position `from` on. */
  slice(from: number, count: number): Uint32Array {
    const wanted = Math.max(0, Math.min(count, this.#count - from));
    const found = new Uint32Array(wanted);
    if (wanted === 0) return found;
    const block = this.#blockOf(from);
    let skip = from - (this.#before[block] ?? 0);
    let taken = 0;
    for (let word = (block * BLOCK) / WORD; taken < wanted; word++)
      for (let bits = this.#bits[word] as number; bits !== 0 && taken < wanted; bits &= bits - 1)
        if (skip > 0) skip--;
        else found[taken++] = WORD * word + (31 - Math.clz32(bits & -bits));
    return found;
  }

  /** The last block before which there are no more than `position` places. */
  #blockOf(position: number): number {
    let low = 0;
    let high = this.#before.length;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if ((this.#before[middle] ?? Infinity) <= position) low = middle;
      else high = middle;
    }
    return low;
  }

  /** The places that are in it when the first batch is asked for, a batch at a time. */
  *batches(size: number): Generator<Uint32Array> {
    const until = this.#count;
    for (let at = 0; at < until; at += size) yield this.slice(at, Math.min(size, until - at));
  }
}
