/** Frames in one block of columns; blocks are added, never copied, so that memory grows with the frames and no faster. */
export const BLOCK = 1 << 12;

export const FLAG = { response: 1, junk: 2, fault: 4, exception: 8, tcp: 16 } as const;
export const NOBODY = 0xffffffff;

/** A run of frames of a capture while they are found: where each begins, what it is and what is wrong with it. */
export class Block {
  /** Place of the block's first byte; its frames' places count from there. */
  base = 0;
  /** Where each frame begins; it ends where the next one begins. */
  readonly offset = new Uint32Array(BLOCK);
  /** Made when the first frame with a time comes: most sources have none at all. */
  #timeUs: Float64Array | null = null;
  readonly partner = new Uint32Array(BLOCK);
  readonly address = new Uint16Array(BLOCK);
  readonly quantity = new Uint16Array(BLOCK);
  readonly unit = new Uint8Array(BLOCK);
  readonly fc = new Uint8Array(BLOCK);
  readonly flags = new Uint8Array(BLOCK);

  /** Empties the block for frames whose first byte is at `base`. */
  begin(base: number): void {
    this.base = base;
    this.#timeUs = null;
    this.partner.fill(NOBODY);
    for (const column of [this.address, this.quantity, this.unit, this.fc, this.flags]) column.fill(0);
  }

  /** The times as they are; null where no frame has one. */
  get times(): Float64Array | null {
    return this.#timeUs;
  }

  /** The times to write to. */
  get timed(): Float64Array {
    return (this.#timeUs ??= new Float64Array(BLOCK).fill(NaN));
  }
}
