import type { Direction } from '../direction';

/** What a stretch of a stream is: a frame of either direction, or bytes that belong to none. */
export const FOUND = { request: 0, response: 1, junk: 2 } as const;
export type Found = (typeof FOUND)[keyof typeof FOUND];

const NAMES = ['request', 'response', 'junk'] as const;

/**
 * What a splitter found in its buffer, in order and without holes: each find ends where the next begins. Told together and not one by one: of
 * frames of a few bytes each a stream has millions, and a call for each would cost more than finding it.
 */
export class Finds {
  /** Where each begins, and behind the last one where it ends. */
  readonly starts: Uint16Array;
  readonly kinds: Uint8Array;
  count = 0;

  /** For so many finds in a buffer of 65,535 bytes at most. */
  constructor(most: number) {
    this.starts = new Uint16Array(most + 1);
    this.kinds = new Uint8Array(most);
  }

  add(start: number, end: number, kind: Found): void {
    this.starts[this.count] = start;
    this.kinds[this.count] = kind;
    this.starts[++this.count] = end;
  }

  /** Some of them, those from `from` to before `until`; all of them are given as they are. */
  part(from: number, until: number): Finds {
    if (from === 0 && until === this.count) return this;
    const part = new Finds(until - from);
    part.starts.set(this.starts.subarray(from, until + 1));
    part.kinds.set(this.kinds.subarray(from, until));
    part.count = until - from;
    return part;
  }

  each(take: (start: number, end: number, kind: Direction | 'junk') => void): void {
    for (let i = 0; i < this.count; i++)
      take(this.starts[i] as number, this.starts[i + 1] as number, NAMES[this.kinds[i] as Found]);
  }
}

/** Takes what a splitter found in `bytes`, which begin at `offset` of the stream; both are borrowed and change afterwards. */
export interface FrameSink {
  take(offset: number, bytes: Uint8Array, finds: Finds): void;
}

/** Cuts a stream into frames, whatever the chunks. */
export interface Splitter {
  push(chunk: Uint8Array): void;
  /** Tells the frames that are whole by now, so that each gets the time of the chunk that ended it. */
  settle(): void;
  /** No more comes: what is left is told. */
  end(): void;
}
