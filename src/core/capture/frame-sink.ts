import type { Direction } from '../direction';

/**
 * Takes what a splitter found, in order and without holes: frames, and stretches that belong to none. `bytes[start, end)` is borrowed and
 * changes afterwards; `offset` counts from the stream's beginning.
 */
export interface FrameSink {
  frame(offset: number, bytes: Uint8Array, start: number, end: number, direction: Direction): void;
  junk(offset: number, bytes: Uint8Array, start: number, end: number): void;
}

/** Cuts a stream into frames, whatever the chunks. */
export interface Splitter {
  push(chunk: Uint8Array): void;
  /** Tells the frames that are whole by now, so that each gets the time of the chunk that ended it. */
  settle(): void;
  /** No more comes: what is left is told. */
  end(): void;
}
