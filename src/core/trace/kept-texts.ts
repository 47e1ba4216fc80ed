/** Bytes of texts in one chunk, and the most that a text has: a longer one is not kept. */
const CHUNK_BYTES = 1 << 20;
const TEXTS = 1 << 14;
/** So many chunks at most: more than a trace of a million entries of which no two say the same. */
const CHUNKS = 128;

/** Texts one behind the other, in UTF-8: as a string, one with a single letter beyond Latin would take twice the room. */
class Chunk {
  readonly bytes = new Uint8Array(CHUNK_BYTES);
  /** Where each text ends; it begins where the one before ends. */
  readonly ends = new Uint32Array(TEXTS);
  count = 0;

  get filled(): number {
    return this.count === 0 ? 0 : (this.ends[this.count - 1] as number);
  }
}

const encoder = new TextEncoder();

/**
 * Texts that are looked through for words again and again: each takes no more room than its letters, and words are looked for in a run of them at once. A text
 * is named by a number, from 1 on.
 */
export class KeptTexts {
  readonly #chunks: Chunk[] = [];

  /** Keeps a text and gives its number; 0 where there is no room for it. */
  add(text: string): number {
    let last = this.#chunks[this.#chunks.length - 1];
    // In UTF-8 a letter of a string has three bytes at most.
    if (!last || last.count === TEXTS || last.filled + 3 * text.length > CHUNK_BYTES) {
      if (this.#chunks.length === CHUNKS || 3 * text.length > CHUNK_BYTES) return 0;
      last = new Chunk();
      this.#chunks.push(last);
    }
    const { filled } = last;
    const { written } = encoder.encodeInto(text, last.bytes.subarray(filled));
    last.ends[last.count++] = filled + written;
    return (this.#chunks.length - 1) * TEXTS + last.count;
  }

  /** Tells of a text’s number whether it has these words in it, also of one that is kept later. */
  having(words: string): (number: number) => boolean {
    const wanted = encoder.encode(words);
    const looked: Looked[] = [];
    return (number) => {
      const at = Math.floor((number - 1) / TEXTS);
      const i = (number - 1) % TEXTS;
      const own = (looked[at] ??= { has: new Uint8Array(TEXTS), until: 0 });
      const chunk = this.#chunks[at];
      if (i >= own.until && chunk) lookOn(chunk, wanted, own);
      return own.has[i] === 1;
    };
  }
}

/** Which texts of a chunk have the words, of those before `until`. */
interface Looked {
  readonly has: Uint8Array;
  until: number;
}

/** Goes on through the texts that were not looked at yet. */
function lookOn({ bytes, ends, count, filled }: Chunk, wanted: Uint8Array, looked: Looked): void {
  const { has } = looked;
  const first = wanted[0] ?? -1;
  const { length } = wanted;
  let i = looked.until;
  looked.until = count;
  if (length === 0) {
    has.fill(1, i, count);
    return;
  }
  const last = filled - length;
  for (let at = i === 0 ? 0 : (ends[i - 1] as number); at <= last; at++) {
    if (bytes[at] !== first) continue;
    let k = 1;
    while (k < length && bytes[at + k] === wanted[k]) k++;
    if (k < length) continue;
    while ((ends[i] as number) <= at) i++;
    // Words that one text begins and the next one ends are in neither.
    if (at + length <= (ends[i] as number)) has[i] = 1;
  }
}
