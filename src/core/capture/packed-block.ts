import { BLOCK, FLAG, registersOf, traitsOf, type Block } from './frame-block';
import type { Glances } from './glance';
import { Kinds, type KindFinder, type Numbered } from './kinds';

type Times =
  | { readonly kind: 'none' }
  /** Whole microseconds since the first. */
  | { readonly kind: 'since'; readonly firstUs: number; readonly us: Uint32Array }
  | { readonly kind: 'each'; readonly us: Float64Array };

/** Of blocks that keep outlines: `registersOf` the requests before the block, by the places of their responses in it. */
type AskedBefore = ReadonlyMap<number, number>;

/** Each frame of a block by itself. */
const EACH = Uint16Array.from({ length: BLOCK }, (_, i) => i);

/**
 * A block of frames as it is kept: each frame is the number of its kind, and its time. That is one byte or two of a frame where a block of columns has fifteen,
 * and four or eight more with times. Where hardly two frames are alike the kinds would take more than the frames: such a block keeps outlines, without what the
 * frames' bytes say, and is made whole of them when that is asked for.
 */
export class PackedBlock {
  readonly size: number;
  readonly base: number;
  /** Shared with the blocks beside it. */
  readonly kinds: Kinds;
  /** The number of its kind, for each frame. */
  readonly ids: Uint8Array | Uint16Array;
  readonly #far: Numbered['far'];
  readonly #times: Times;
  /** Null where all is kept. */
  readonly #asked: AskedBefore | null;

  private constructor(base: number, { kinds, ids, far }: Numbered, times: Times, asked: AskedBefore | null) {
    this.base = base;
    this.size = ids.length;
    this.kinds = kinds;
    this.ids = ids;
    this.#far = far;
    this.#times = times;
    this.#asked = asked;
  }

  /** Packs the first `size` frames of a block, the first of which is frame number `first` of the capture; the last one ends at `end`. */
  static whole(block: Block, first: number, size: number, end: number, finder: KindFinder): PackedBlock {
    return new PackedBlock(block.base, finder.number(block, first, size, end), timesOf(block.times, size), null);
  }

  /** The same, of which outlines are kept; the block's columns keep no more either. */
  static outlines(block: Block, first: number, size: number, end: number, finder: KindFinder): PackedBlock {
    const asked = block.leaveOutlines(first, size);
    return new PackedBlock(block.base, finder.number(block, first, size, end), timesOf(block.times, size), asked);
  }

  /** Whether station, function and registers of its frames are kept. */
  get isWhole(): boolean {
    return this.#asked === null;
  }

  /** A block of outlines as a whole one, in which each frame is a kind of its own. `bytes` are those of its frames. */
  madeWhole(first: number, bytes: Uint8Array, glances: Glances): PackedBlock {
    const { size, kinds, ids } = this;
    const own = new Kinds(size);
    for (let i = 0, at = 0; i < size; i++) {
      const id = ids[i] as number;
      const flags = kinds.flags(id);
      const end = at + kinds.length(id);
      let traits = 0;
      let registers = 0;
      if ((flags & FLAG.junk) === 0) {
        const glance = flags & FLAG.tcp ? glances.tcp : glances.own;
        traits = traitsOf(glance.unitOf(bytes, at, end), glance.fcOf(bytes, at, end), 0);
        if ((flags & FLAG.response) === 0)
          registers = registersOf(glance.addressOf(bytes, at, end), glance.quantityOf(bytes, at, end));
        else {
          const asked = this.partner(i, first) - first;
          registers = asked >= 0 ? own.registers(asked) : (this.#asked?.get(i) ?? 0);
        }
      }
      own.addLike(kinds, id, traits, registers);
      at = end;
    }
    return new PackedBlock(this.base, { kinds: own, ids: EACH.subarray(0, size), far: this.#far }, this.#times, null);
  }

  /** The number of the frame that answers frame `i`, or that it answers, by the number of the block's first frame; -1 where there is none. */
  partner(i: number, first: number): number {
    const distance = this.kinds.distance(this.ids[i] as number);
    if (distance === 0) return -1;
    return Number.isNaN(distance) ? (this.#far.get(i) ?? -1) : first + i + distance;
  }

  /** Where each frame begins and, last, where the last one ends, from `base`. */
  begins(): Uint32Array {
    const begins = new Uint32Array(this.size + 1);
    for (let i = 0, at = 0; i < this.size; i++) begins[i + 1] = at += this.kinds.length(this.ids[i] as number);
    return begins;
  }

  timeUs(i: number): number {
    const times = this.#times;
    if (times.kind === 'none') return NaN;
    return times.kind === 'since' ? times.firstUs + (times.us[i] as number) : (times.us[i] as number);
  }

  /** Bytes of memory that its columns take, without the kinds. */
  get bytes(): number {
    const times = this.#times.kind === 'none' ? 0 : this.#times.us.byteLength;
    return this.ids.byteLength + times;
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
