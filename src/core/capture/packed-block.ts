import type { Block } from './frame-block';
import type { KindFinder, Kinds, Numbered } from './kinds';

type Times =
  | { readonly kind: 'none' }
  /** Whole microseconds since the first. */
  | { readonly kind: 'since'; readonly firstUs: number; readonly us: Uint32Array }
  | { readonly kind: 'each'; readonly us: Float64Array };

/**
 * A block of frames as it is kept: each frame is the number of its kind, and its time. That is one byte or two of a frame where a block of columns has fifteen,
 * and four or eight more with times.
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

  /** Packs the first `size` frames of a block, the first of which is frame number `first` of the capture; the last one ends at `end`. */
  constructor(block: Block, first: number, size: number, end: number, finder: KindFinder) {
    this.size = size;
    this.base = block.base;
    const { kinds, ids, far } = finder.number(block, first, size, end);
    this.kinds = kinds;
    this.ids = ids;
    this.#far = far;
    this.#times = timesOf(block.times, size);
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
