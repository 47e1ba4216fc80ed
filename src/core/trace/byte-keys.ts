/** So many keys are known at most, and bytes of them; what comes later is not kept. */
const MOST = 1 << 17;
const MOST_BYTES = 1 << 24;
/** Slots in which keys are looked for: twice as many as there can be. */
const SLOTS = 2 * MOST;

/**
 * Numbers by keys of bytes. A key has a copy of its own, all of it in one place: so it is compared at a glance, and nothing that it was taken from is held
 * by it.
 */
export class ByteKeys {
  /** The key that is looked for at a slot, counted from 1. */
  readonly #slots = new Int32Array(SLOTS);
  readonly #hashes = new Int32Array(MOST);
  /** Where each key begins; it ends where the next one begins. */
  readonly #starts = new Uint32Array(MOST + 1);
  readonly #numbers = new Uint32Array(MOST);
  #bytes = new Uint8Array(1 << 16);
  #count = 0;
  /** What was looked for last, and the free slot that was met. */
  #hash = 0;
  #slot = 0;

  /** The number of the key `bytes[0, length)`; 0 where it is not known. */
  find(bytes: Uint8Array, length: number): number {
    const hash = hashOf(bytes, length);
    let slot = hash & (SLOTS - 1);
    for (let k = this.#slots[slot] as number; k > 0; k = this.#slots[slot] as number) {
      if (this.#hashes[k - 1] === hash && this.#is(k - 1, bytes, length)) return this.#numbers[k - 1] as number;
      slot = (slot + 1) & (SLOTS - 1);
    }
    this.#hash = hash;
    this.#slot = slot;
    return 0;
  }

  /** Keeps a number, which is not 0, for the key that was looked for last and not found. */
  keep(bytes: Uint8Array, length: number, number: number): void {
    const start = this.#starts[this.#count] as number;
    if (this.#count === MOST || start + length > MOST_BYTES) return;
    if (start + length > this.#bytes.length) {
      const larger = new Uint8Array(Math.max(2 * this.#bytes.length, start + length));
      larger.set(this.#bytes);
      this.#bytes = larger;
    }
    for (let i = 0; i < length; i++) this.#bytes[start + i] = bytes[i] as number;
    this.#hashes[this.#count] = this.#hash;
    this.#numbers[this.#count] = number;
    this.#starts[++this.#count] = start + length;
    this.#slots[this.#slot] = this.#count;
  }

  #is(key: number, bytes: Uint8Array, length: number): boolean {
    const start = this.#starts[key] as number;
    if ((this.#starts[key + 1] as number) - start !== length) return false;
    const own = this.#bytes;
    for (let i = 0; i < length; i++) if (own[start + i] !== bytes[i]) return false;
    return true;
  }
}

/** FNV-1a over 32 bits (IETF draft-eastlake-fnv, section 2; its numbers from memory), its high bits folded into the low ones. */
function hashOf(bytes: Uint8Array, length: number): number {
  let hash = 0x811c9dc5 | 0;
  for (let i = 0; i < length; i++) hash = Math.imul(hash ^ (bytes[i] as number), 0x01000193);
  return hash ^ (hash >>> 15);
}
