import type { Direction } from '../direction';
import { BLOCK, FLAG, NOBODY, type Block } from './frame-block';

/**
 * What a frame is, whatever it carries. Frames that differ in nothing of it and are as far from their partners are of one kind: a line is asked the same things
 * over and over, and of a block's frames only a few dozen differ.
 */
export interface FrameTraits {
  readonly unit: number;
  readonly fc: number;
  readonly direction: Direction | 'junk';
  readonly fault: boolean;
  readonly exception: boolean;
  /** It came over a TCP connection of a packet file, whatever the serial bytes beside it speak. */
  readonly tcp: boolean;
  /** First register, and how many; 0 of them where the frame names none. Of a response: those of its request. */
  readonly address: number;
  readonly quantity: number;
  /** In bytes. */
  readonly length: number;
}

/** A kind is three numbers of 32 bits: its bytes with the distance to the partner above them, address and quantity, length. */
const NUMBERS = 3;
const NO_PARTNER = 0;
const FAR_PARTNER = 255;
const DISTANCE_ZERO = 128;
const FARTHEST = 126;

/** Slots in which the kinds of a block are looked for by their numbers: a power of two, twice as many as there can be. */
const SLOT_BITS = 13;
const slots = new Int16Array(1 << SLOT_BITS);
const LAST_SLOT = slots.length - 1;
const scratch = new Int32Array(NUMBERS * BLOCK);
const wideIds = new Uint16Array(BLOCK);

/** So many kinds are looked for before it is judged whether frames are alike. */
const A_FEW = 256;

const slotOf = (bytes: number, registers: number, length: number): number =>
  (Math.imul(bytes, 0x9e3779b1) ^ Math.imul(registers, 0x85ebca6b) ^ Math.imul(length, 0xc2b2ae35)) >>>
  (32 - SLOT_BITS);

type Times =
  | { readonly kind: 'none' }
  /** Whole microseconds since the first. */
  | { readonly kind: 'since'; readonly firstUs: number; readonly us: Uint32Array }
  | { readonly kind: 'each'; readonly us: Float64Array };

/**
 * A block of frames as it is kept: each frame is the number of its kind, and its time. That is some one to three bytes of a frame where a block of
 * columns has fifteen, and five to seven with times.
 */
export class PackedBlock {
  readonly size: number;
  readonly base: number;
  /** The number of its kind, for each frame. */
  readonly ids: Uint8Array | Uint16Array;
  readonly #numbers: Int32Array;
  readonly #times: Times;
  /** Partners that are too far off, by the frame's place in the block. */
  readonly #far: ReadonlyMap<number, number>;

  /** Packs the first `size` frames of a block, the first of which is frame number `first` of the capture; the last one ends at `end`. */
  constructor(block: Block, first: number, size: number, end: number) {
    this.size = size;
    const { base, offset: offsets, partner: partners, traits, registers: registersOfAll } = block;
    this.base = base;
    const far = new Map<number, number>();
    slots.fill(0);
    let kinds = 0;
    let until = 0;
    for (let i = 0; i < size; i++) {
      const partner = partners[i] as number;
      let code = NO_PARTNER;
      if (partner !== NOBODY) {
        const distance = partner - first - i;
        code = distance <= FARTHEST && distance >= -FARTHEST ? distance + DISTANCE_ZERO : FAR_PARTNER;
        if (code === FAR_PARTNER) far.set(i, partner);
      }
      const begin = until;
      until = i + 1 < size ? (offsets[i + 1] as number) : end - base;
      const length = until - begin;
      const bytes = (traits[i] as number) | (code << 24);
      const registers = registersOfAll[i] as number;
      let slot = slotOf(bytes, registers, length);
      // Where hardly two frames are alike it is not worth looking.
      let kind = kinds > A_FEW + (i >> 1) ? -1 : (slots[slot] as number) - 1;
      while (
        kind >= 0 &&
        (scratch[NUMBERS * kind] !== bytes ||
          scratch[NUMBERS * kind + 1] !== registers ||
          scratch[NUMBERS * kind + 2] !== length)
      ) {
        slot = (slot + 1) & LAST_SLOT;
        kind = (slots[slot] as number) - 1;
      }
      if (kind < 0) {
        kind = kinds++;
        slots[slot] = kinds;
        scratch[NUMBERS * kind] = bytes;
        scratch[NUMBERS * kind + 1] = registers;
        scratch[NUMBERS * kind + 2] = length;
      }
      wideIds[i] = kind;
    }
    this.#numbers = scratch.slice(0, NUMBERS * kinds);
    this.ids = kinds <= 256 ? new Uint8Array(wideIds.subarray(0, size)) : wideIds.slice(0, size);
    this.#far = far;
    this.#times = timesOf(block.times, size);
  }

  get kinds(): number {
    return this.#numbers.length / NUMBERS;
  }

  traits(id: number): FrameTraits {
    const at = NUMBERS * id;
    const bytes = this.#numbers[at] as number;
    const registers = this.#numbers[at + 1] as number;
    const flags = (bytes >>> 16) & 255;
    return {
      unit: bytes & 255,
      fc: (bytes >>> 8) & 255,
      direction: flags & FLAG.junk ? 'junk' : flags & FLAG.response ? 'response' : 'request',
      fault: (flags & FLAG.fault) !== 0,
      exception: (flags & FLAG.exception) !== 0,
      tcp: (flags & FLAG.tcp) !== 0,
      address: registers & 0xffff,
      quantity: registers >>> 16,
      length: this.#numbers[at + 2] as number,
    };
  }

  /** Places from a frame of this kind to its partner; 0 where it has none, NaN where it is too far off to be told here. */
  distance(id: number): number {
    const code = (this.#numbers[NUMBERS * id] as number) >>> 24;
    return code === NO_PARTNER ? 0 : code === FAR_PARTNER ? NaN : code - DISTANCE_ZERO;
  }

  /** The number of the frame that answers frame `i`, or that it answers, by the number of the block's first frame; -1 where there is none. */
  partner(i: number, first: number): number {
    const distance = this.distance(this.ids[i] as number);
    if (distance === 0) return -1;
    return Number.isNaN(distance) ? (this.#far.get(i) ?? -1) : first + i + distance;
  }

  /** Where each frame begins and, last, where the last one ends, from `base`. */
  begins(): Uint32Array {
    const begins = new Uint32Array(this.size + 1);
    for (let i = 0, at = 0; i < this.size; i++)
      begins[i + 1] = at += this.#numbers[NUMBERS * (this.ids[i] as number) + 2] as number;
    return begins;
  }

  timeUs(i: number): number {
    const times = this.#times;
    if (times.kind === 'none') return NaN;
    return times.kind === 'since' ? times.firstUs + (times.us[i] as number) : (times.us[i] as number);
  }

  /** Bytes of memory that its columns take. */
  get bytes(): number {
    const times = this.#times.kind === 'none' ? 0 : this.#times.us.byteLength;
    return this.ids.byteLength + this.#numbers.byteLength + times;
  }
}

/** Times are kept as they are, in half the room where they lie whole microseconds of one hour behind the first. */
function timesOf(times: Float64Array | null, size: number): Times {
  if (!times) return { kind: 'none' };
  const firstUs = times[0] as number;
  const since = new Uint32Array(size);
  for (let i = 0; i < size; i++) {
    const us = (times[i] as number) - firstUs;
    since[i] = us;
    if (since[i] !== us || firstUs + us !== times[i]) return { kind: 'each', us: times.slice(0, size) };
  }
  return { kind: 'since', firstUs, us: since };
}
