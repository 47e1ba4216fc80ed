import type { Direction } from '../direction';

/** Frames in one block of columns; blocks are added, never copied, so that memory grows with the frames and no faster. */
export const BLOCK = 1 << 12;

/** What is known of a frame without its bytes. */
export interface FrameEntry {
  /** Place of its bytes, and how many. */
  readonly offset: number;
  readonly length: number;
  /** Microseconds since the capture began; NaN where the source has no times. */
  readonly timeUs: number;
  readonly unit: number;
  readonly fc: number;
  readonly direction: Direction | 'junk';
  readonly fault: boolean;
  readonly exception: boolean;
  /** It came over a TCP connection of a packet file, whatever the serial bytes beside it speak. */
  readonly tcp: boolean;
  /** First register, and how many; 0 of them where the frame names none. */
  readonly address: number;
  readonly quantity: number;
  /** The request that a response answers, or the response to a request; -1 where there is none. */
  readonly partner: number;
}

export const FLAG = { response: 1, junk: 2, fault: 4, exception: 8, tcp: 16 } as const;
export const NOBODY = 0xffffffff;

/** All places of a block; how many. */
function fill(kept: Uint32Array, size: number): number {
  for (let i = 0; i < size; i++) kept[i] = i;
  return size;
}

/** The places of a column with this value; how many. */
function equal(kept: Uint32Array, column: Uint8Array, value: number, size: number): number {
  let left = 0;
  for (let i = 0; i < size; i++) if (column[i] === value) kept[left++] = i;
  return left;
}

/** A run of frames of a capture, packed: where each begins, what it is and what is wrong with it. */
export class Block {
  /** Place of the block's first byte; its frames' places count from there. */
  readonly base: number;
  /** Where each frame begins; it ends where the next one begins. */
  readonly offset = new Uint32Array(BLOCK);
  /** Made when the first frame with a time comes: most sources have none at all. */
  #timeUs: Float64Array | null = null;
  readonly partner = new Uint32Array(BLOCK).fill(NOBODY);
  readonly address = new Uint16Array(BLOCK);
  readonly quantity = new Uint16Array(BLOCK);
  readonly unit = new Uint8Array(BLOCK);
  readonly fc = new Uint8Array(BLOCK);
  readonly flags = new Uint8Array(BLOCK);

  constructor(base: number) {
    this.base = base;
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

/** Bytes of index that a frame costs, with its time. */
export const INDEX_BYTES = 4 + 8 + 4 + 2 + 2 + 1 + 1 + 1;

/** What a filter asks of each frame; an absent field asks nothing. */
export interface FrameFilter {
  readonly unit?: number;
  readonly fc?: number;
  /** A register that the frame reads or writes; a response counts with its request. */
  readonly register?: number;
  readonly only?: 'faults' | 'exceptions' | 'unanswered';
  readonly fromUs?: number;
  readonly toUs?: number;
}

/** The frames of a capture in columns: a filter runs over them without touching a byte of the capture. */
export class FrameIndex {
  readonly #blocks: Block[] = [];
  #count = 0;
  #end = 0;

  get count(): number {
    return this.#count;
  }

  /** The block that takes the next frame, at place `count % BLOCK`; what was put there counts once `grow` was called. A new one begins at `base`. */
  room(base: number): Block {
    if (this.#count === this.#blocks.length * BLOCK) this.#blocks.push(new Block(base));
    return this.#blocks[this.#blocks.length - 1] as Block;
  }

  /** So many frames were put there; the last one ends at `end`. */
  grow(frames: number, end: number): void {
    this.#count += frames;
    this.#end = end;
  }

  /** Ties a request to its response. */
  tie(request: number, response: number): void {
    const block = this.#blocks[Math.floor(request / BLOCK)];
    if (block) block.partner[request % BLOCK] = response;
  }

  at(place: number): FrameEntry | null {
    const block = this.#blocks[Math.floor(place / BLOCK)];
    if (!block || place < 0 || place >= this.#count) return null;
    const i = place % BLOCK;
    const flags = block.flags[i] as number;
    const partner = block.partner[i] as number;
    const offset = this.#beginOf(place);
    return {
      offset,
      length: (place + 1 < this.#count ? this.#beginOf(place + 1) : this.#end) - offset,
      timeUs: block.times?.[i] ?? NaN,
      unit: block.unit[i] as number,
      fc: block.fc[i] as number,
      direction: flags & FLAG.junk ? 'junk' : flags & FLAG.response ? 'response' : 'request',
      fault: (flags & FLAG.fault) !== 0,
      exception: (flags & FLAG.exception) !== 0,
      tcp: (flags & FLAG.tcp) !== 0,
      address: block.address[i] as number,
      quantity: block.quantity[i] as number,
      partner: partner === NOBODY ? -1 : partner,
    };
  }

  #beginOf(place: number): number {
    const block = this.#blocks[Math.floor(place / BLOCK)];
    return block ? block.base + (block.offset[place % BLOCK] as number) : NaN;
  }

  /** Places of the frames that a filter lets through, in order: each condition goes once through a column and leaves what has it. */
  filter({ unit, fc, register, only, fromUs = -Infinity, toUs = Infinity }: FrameFilter): Uint32Array {
    const found = new Uint32Array(this.#count);
    const kept = new Uint32Array(BLOCK);
    const timed = fromUs !== -Infinity || toUs !== Infinity;
    let count = 0;
    for (const [b, block] of this.#blocks.entries()) {
      const size = Math.min(BLOCK, this.#count - b * BLOCK);
      let left = unit === undefined ? fill(kept, size) : equal(kept, block.unit, unit, size);
      const keep = (has: (i: number) => boolean): void => {
        const before = left;
        left = 0;
        for (let k = 0; k < before; k++) if (has(kept[k] as number)) kept[left++] = kept[k] as number;
      };
      const { flags, partner, times } = block;
      if (unit !== undefined || fc !== undefined) keep((i) => !((flags[i] as number) & FLAG.junk));
      if (fc !== undefined) keep((i) => block.fc[i] === fc);
      if (only === 'faults') keep((i) => ((flags[i] as number) & FLAG.fault) !== 0);
      if (only === 'exceptions') keep((i) => ((flags[i] as number) & FLAG.exception) !== 0);
      if (only === 'unanswered')
        keep((i) => !((flags[i] as number) & (FLAG.junk | FLAG.response)) && partner[i] === NOBODY);
      if (timed) keep((i) => times !== null && (times[i] as number) >= fromUs && (times[i] as number) <= toUs);
      if (register !== undefined) keep((i) => this.#touches(block, i, register));
      for (let k = 0; k < left; k++) found[count++] = b * BLOCK + (kept[k] as number);
    }
    return found.subarray(0, count);
  }

  #touches(block: Block, i: number, register: number): boolean {
    const flags = block.flags[i] as number;
    if (flags & FLAG.junk) return false;
    const partner = block.partner[i] as number;
    const own = flags & FLAG.response && partner !== NOBODY ? this.#blocks[Math.floor(partner / BLOCK)] : block;
    const at = own === block && !(flags & FLAG.response && partner !== NOBODY) ? i : partner % BLOCK;
    if (!own) return false;
    const first = own.address[at] as number;
    return register >= first && register < first + (own.quantity[at] as number);
  }
}
