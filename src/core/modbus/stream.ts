import type { Direction } from '../direction';
import { frameLengthAt } from './frame-length';
import { probeRtu } from './scan';
import { RTU_MAX } from './rtu';

/** Takes one frame; the bytes are borrowed and change with the next chunk, so copy what is to be kept. */
export type TakeFrame = (bytes: Uint8Array, start: number, end: number) => void;

/**
 * Cuts a stream of one direction into frames by structure and check, whatever the chunks: a frame may come a byte at a time, or three in a
 * chunk. Bytes that begin no frame are skipped and counted.
 */
export class RtuStream {
  readonly #direction: Direction;
  readonly #take: TakeFrame;
  readonly #buffer = new Uint8Array(4 * RTU_MAX);
  #start = 0;
  #end = 0;
  /** So many bytes must be there before another look is worth it. */
  #need = 0;
  #skipped = 0;

  constructor(direction: Direction, take: TakeFrame) {
    this.#direction = direction;
    this.#take = take;
  }

  get skipped(): number {
    return this.#skipped;
  }

  push(chunk: Uint8Array): void {
    for (let at = 0; at < chunk.length;) {
      if (this.#end === this.#buffer.length) this.#compact();
      const part = Math.min(chunk.length - at, this.#buffer.length - this.#end);
      // A loop beats set() and subarray() for chunks of a few bytes, which is how a line brings them.
      for (let i = 0; i < part; i++) this.#buffer[this.#end + i] = chunk[at + i] as number;
      this.#end += part;
      at += part;
      if (this.#end - this.#start >= this.#need) this.#look();
    }
  }

  #look(): void {
    const { buffer, direction } = { buffer: this.#buffer, direction: this.#direction };
    this.#need = 0;
    while (this.#start < this.#end) {
      const found = probeRtu(buffer, this.#start, this.#end, direction);
      if (found > 0) {
        this.#take(buffer, this.#start, this.#start + found);
        this.#start += found;
      } else if (found < 0) {
        this.#start++;
        this.#skipped++;
      } else {
        // A frame whose length only its check tells (a negative length here) is looked at with every chunk.
        this.#need = frameLengthAt(buffer, this.#start, this.#end, direction);
        break;
      }
    }
    if (this.#start === this.#end) this.#start = this.#end = 0;
  }

  #compact(): void {
    this.#buffer.copyWithin(0, this.#start, this.#end);
    this.#end -= this.#start;
    this.#start = 0;
  }
}
