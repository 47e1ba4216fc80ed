/** Frames in one block of columns; blocks are added, never copied, so that memory grows with the frames and no faster. */
export const BLOCK = 1 << 12;

export const FLAG = { response: 1, junk: 2, fault: 4, exception: 8, tcp: 16 } as const;
export const NOBODY = 0xffffffff;

/** Station, function and flags of a frame in one number, in its low three bytes. */
export const traitsOf = (unit: number, fc: number, flags: number): number => unit | (fc << 8) | (flags << 16);

/** What is left of `traitsOf` a frame of which only its outline is kept. */
const OUTLINE = traitsOf(0, 0, 255);

/** First register and quantity of a frame in one number. */
export const registersOf = (address: number, quantity: number): number => address | (quantity << 16);

/** A run of frames of a capture while they are found: where each begins, what it is and what is wrong with it. */
export class Block {
  /** Place of the block's first byte; its frames' places count from there. */
  base = 0;
  /** Where each frame begins; it ends where the next one begins. */
  readonly offset = new Uint32Array(BLOCK);
  /** Made when the first frame with a time comes: most sources have none at all. */
  #timeUs: Float64Array | null = null;
  readonly partner = new Uint32Array(BLOCK);
  /** `traitsOf` each frame, and `registersOf` it: numbers that are put down and compared whole. */
  readonly traits = new Int32Array(BLOCK);
  readonly registers = new Int32Array(BLOCK);

  /** Empties the block for frames whose first byte is at `base`. */
  begin(base: number): void {
    this.base = base;
    this.#timeUs = null;
    this.partner.fill(NOBODY);
    this.traits.fill(0);
    this.registers.fill(0);
  }

  /**
   * Leaves of its first `size` frames, the first of which is frame number `first` of the capture, nothing that their bytes tell: station, function and registers
   * are 0. Gives back `registersOf` the requests before this block, by the places of their responses in it.
   */
  leaveOutlines(first: number, size: number): ReadonlyMap<number, number> {
    const { partner, traits, registers } = this;
    const asked = new Map<number, number>();
    for (let i = 0; i < size; i++) {
      if ((partner[i] as number) < first) asked.set(i, registers[i] as number);
      traits[i] = (traits[i] as number) & OUTLINE;
    }
    registers.fill(0);
    return asked;
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
