import { ITEM_TYPES, type ImageItem, type ImageOrder } from './image';
import { numberReader } from './numbers';

/** How a block goes round, in microseconds; NaN where there are no times, or less than two cycles. */
export interface CycleFacts {
  readonly cycles: number;
  /** Cycles whose answer did not come, or was a refusal. */
  readonly lost: number;
  readonly meanUs: number;
  readonly leastUs: number;
  readonly worstUs: number;
  /** When the worst one began. */
  readonly worstAtUs: number;
  /** Cycles that came more than half a cycle late, by the mean of all. */
  readonly late: number;
}

/** A stretch of time in which something did not change. */
export interface Stood {
  readonly fromUs: number;
  readonly us: number;
  readonly cycles: number;
}

/** A part of a series, with the least and the most that it held in it. */
export interface SeriesPoint {
  readonly atUs: number;
  readonly least: number;
  readonly most: number;
}

export interface WatchedItem {
  readonly name: string;
  readonly changes: number;
  readonly least: number;
  readonly most: number;
  readonly last: number;
  /** The longest time without a change; null where there was none. */
  readonly stood: Stood | null;
  /** The widest step from one cycle to the next; null where it never changed. */
  readonly step: { readonly from: number; readonly to: number; readonly atUs: number } | null;
  /** What shows that the sender lives: the item itself where it counts on and on, or one of its bits. */
  readonly lives: { readonly how: string; readonly stood: Stood | null } | null;
  readonly series: readonly SeriesPoint[];
}

export interface WatchedBlock {
  readonly facts: CycleFacts;
  readonly items: readonly WatchedItem[];
  readonly findings: readonly string[];
}

/** Points of a series: more than a screen shows are laid together. */
const MOST_POINTS = 400;
/** A sign of life changes in so many of the cycles at least, and in one way. */
const LIVES_SHARE = 0.4;
const SAME_WAY_SHARE = 0.9;
/** A sign of life that stands for so many of its usual times is worth a word. */
const STUCK_TIMES = 8;
/** A step is a jump where it is so many times as wide as the mean of all steps, of which there were enough to tell. */
const JUMP_TIMES = 12;
const STEPS_TO_TELL = 20;
const BACK = 1.1;
const TIMES_GO_BACK = 'the times of the capture go back: cycles are counted, and their times are not to be trusted';
const BITS_AT_MOST = 32;

/** How long something has been the same. */
class Standing {
  changes = 0;
  longest: Stood | null = null;
  #fromUs = NaN;
  #fromCycle = -1;

  /** `isNew`: it is not what it was a cycle before. */
  add(isNew: boolean, atUs: number, cycle: number): void {
    if (this.#fromCycle < 0) [this.#fromUs, this.#fromCycle] = [atUs, cycle];
    else if (isNew) {
      this.changes++;
      this.end(atUs, cycle);
      [this.#fromUs, this.#fromCycle] = [atUs, cycle];
    }
  }

  end(atUs: number, cycle: number): void {
    if (this.#fromCycle < 0) return;
    const cycles = cycle - this.#fromCycle;
    if (cycles > (this.longest?.cycles ?? 0)) this.longest = { fromUs: this.#fromUs, us: atUs - this.#fromUs, cycles };
  }
}

/** One item, cycle after cycle. */
class ItemWatch {
  readonly #item: ImageItem;
  readonly #read: (bytes: Uint8Array) => number;
  readonly #standing = new Standing();
  readonly #bits: readonly { readonly mask: number; readonly standing: Standing }[];
  /** Steps by their width, round the end of the item's range, as long as they are few. */
  readonly #steps = new Map<number, number>();
  #stepSum = 0;
  /** The widest step, and the widest of the others: a value that is wrong once steps there and back. */
  #widths: readonly [number, number] = [0, 0];
  #step: WatchedItem['step'] = null;
  #least = Infinity;
  #most = -Infinity;
  #last = NaN;
  #points: { atUs: number; least: number; most: number }[] = [];
  #perPoint = 1;
  #inPoint = 0;

  constructor(item: ImageItem, order: ImageOrder) {
    this.#item = item;
    this.#read = numberReader(item, order);
    const bits = ITEM_TYPES[item.type];
    this.#bits =
      bits > 1 && bits <= BITS_AT_MOST && !item.type.startsWith('float')
        ? Array.from({ length: bits }, (_, bit) => ({ mask: 2 ** bit, standing: new Standing() }))
        : [];
  }

  add(bytes: Uint8Array, atUs: number, cycle: number): void {
    const value = this.#read(bytes);
    if (Number.isNaN(value)) return;
    const before = this.#last;
    const isNew = value !== before && !Number.isNaN(before);
    this.#standing.add(isNew, atUs, cycle);
    if (isNew) this.#stepped(before, value, atUs);
    for (const { mask, standing } of this.#bits)
      standing.add(isNew && Math.floor(value / mask) % 2 !== Math.floor(before / mask) % 2, atUs, cycle);
    if (value < this.#least) this.#least = value;
    if (value > this.#most) this.#most = value;
    this.#last = value;
    this.#keepPoint(atUs, value);
  }

  #stepped(from: number, to: number, atUs: number): void {
    const width = Math.abs(to - from);
    this.#stepSum += width;
    const [widest, next] = this.#widths;
    this.#widths = width > widest ? [width, widest] : [widest, Math.max(next, width)];
    // The way back is about as wide: it is told where it began.
    if (width > BACK * Math.abs((this.#step?.to ?? 0) - (this.#step?.from ?? 0))) this.#step = { from, to, atUs };
    if (this.#steps.size < STEPS_TO_TELL) this.#steps.set(to - from, (this.#steps.get(to - from) ?? 0) + 1);
    else if (this.#steps.has(to - from)) this.#steps.set(to - from, (this.#steps.get(to - from) ?? 0) + 1);
  }

  /** Two points become one when there are too many, so that a day costs no more than an hour. */
  #keepPoint(atUs: number, value: number): void {
    const last = this.#points[this.#points.length - 1];
    if (last && this.#inPoint < this.#perPoint) {
      last.least = Math.min(last.least, value);
      last.most = Math.max(last.most, value);
      this.#inPoint++;
      return;
    }
    if (this.#points.length === MOST_POINTS) {
      this.#points = this.#points.flatMap((point, i) => {
        const next = this.#points[i + 1];
        if (i % 2 === 1) return [];
        return [
          next
            ? { atUs: point.atUs, least: Math.min(point.least, next.least), most: Math.max(point.most, next.most) }
            : point,
        ];
      });
      this.#perPoint *= 2;
    }
    this.#points.push({ atUs, least: value, most: value });
    this.#inPoint = 1;
  }

  told(atUs: number, cycle: number, cycles: number): WatchedItem {
    this.#standing.end(atUs, cycle);
    for (const { standing } of this.#bits) standing.end(atUs, cycle);
    const { changes, longest } = this.#standing;
    return {
      name: this.#item.name,
      changes,
      least: this.#least,
      most: this.#most,
      last: this.#last,
      stood: longest,
      step: this.#step,
      lives: this.#lives(cycles),
      series: this.#points,
    };
  }

  #lives(cycles: number): WatchedItem['lives'] {
    const { changes, longest } = this.#standing;
    const often = LIVES_SHARE * cycles;
    if (changes < often || cycles < STEPS_TO_TELL) return null;
    const most = Math.max(0, ...this.#steps.values());
    if (this.#item.type === 'bool') return { how: 'it toggles', stood: longest };
    const [step] = [...this.#steps].find(([, count]) => count === most) ?? [0];
    const toggling = this.#bits.flatMap(({ standing }, bit) => (standing.changes >= often ? [{ bit, standing }] : []));
    const [only] = toggling;
    // A bit that toggles alone changes the item by its own weight, up and down.
    if (only && toggling.length === 1 && this.#isOnly(only.bit))
      return { how: `its bit ${only.bit} toggles`, stood: only.standing.longest };
    return most >= SAME_WAY_SHARE * changes && step !== 0 ? { how: `it counts by ${step}`, stood: longest } : null;
  }

  /** Whether steps by a bit's weight, up and down, are as good as all. */
  #isOnly(bit: number): boolean {
    const [up, down] = [this.#steps.get(2 ** bit) ?? 0, this.#steps.get(-(2 ** bit)) ?? 0];
    return Math.abs(up - down) <= 1 + 0.1 * (up + down) && up + down >= SAME_WAY_SHARE * this.#standing.changes;
  }

  /** The widest step against what it usually is; empty where it is nothing. */
  jump(): string {
    const { changes } = this.#standing;
    const [width, next] = this.#widths;
    const mean = (this.#stepSum - width - next) / Math.max(1, changes - 2);
    return this.#step && changes >= STEPS_TO_TELL && width > JUMP_TIMES * mean
      ? `${this.#item.name} jumps from ${this.#step.from} to ${this.#step.to} ${whenText(this.#step.atUs)}; otherwise it goes by ${short(mean)} at a time`
      : '';
  }
}

const short = (value: number): string => `${Number(value.toPrecision(3))}`;
const whenText = (us: number): string => (Number.isNaN(us) ? 'once' : `at ${(us / 1e6).toFixed(2)} s`);
const stoodText = ({ us, cycles, fromUs }: Stood): string =>
  Number.isNaN(us)
    ? `for ${cycles} cycles`
    : `for ${(us / 1e6).toFixed(2)} s, ${cycles} cycles, from ${(fromUs / 1e6).toFixed(2)} s on`;

/** A block of an exchange that others keep going, cycle after cycle: its times, and what its items do. */
export class BlockWatch {
  readonly #items: readonly ItemWatch[];
  #cycles = 0;
  #lost = 0;
  #intervals: number[] = [];
  #sumUs = 0;
  #leastUs = Infinity;
  #worstUs = -Infinity;
  #worstAtUs = NaN;
  #lastUs = NaN;

  constructor(items: readonly ImageItem[], order: ImageOrder) {
    this.#items = items.map((item) => new ItemWatch(item, order));
  }

  /** One cycle more, which began at `atUs` (NaN where nobody knows); `bytes`: what went round, null where nothing came. */
  add(atUs: number, bytes: Uint8Array | null): void {
    const us = atUs - this.#lastUs;
    if (!Number.isNaN(us)) {
      this.#intervals.push(us);
      this.#sumUs += us;
      this.#leastUs = Math.min(this.#leastUs, us);
      if (us > this.#worstUs) [this.#worstUs, this.#worstAtUs] = [us, this.#lastUs];
    }
    this.#lastUs = atUs;
    if (bytes) for (const item of this.#items) item.add(bytes, atUs, this.#cycles);
    else this.#lost++;
    this.#cycles++;
  }

  /** What there is to say of it. */
  told(): WatchedBlock {
    const count = this.#intervals.length;
    const meanUs = count > 0 ? this.#sumUs / count : NaN;
    const facts: CycleFacts = {
      cycles: this.#cycles,
      lost: this.#lost,
      meanUs,
      leastUs: count > 0 ? this.#leastUs : NaN,
      worstUs: count > 0 ? this.#worstUs : NaN,
      worstAtUs: this.#worstAtUs,
      late: this.#intervals.filter((us) => us > 1.5 * meanUs).length,
    };
    const items = this.#items.map((item) => item.told(this.#lastUs, this.#cycles, this.#cycles - this.#lost));
    return {
      facts,
      items,
      findings: [
        ...(this.#leastUs < 0 ? [TIMES_GO_BACK] : []),
        ...items.flatMap((item) => aboutLife(item, this.#cycles)),
        ...this.#jumps(items),
        ...aboutRest(items),
      ],
    };
  }

  /** What counts on and on steps wide where it begins again: that is no jump. */
  #jumps(items: readonly WatchedItem[]): readonly string[] {
    return this.#items.flatMap((item, i) => (items[i]?.lives ? [] : item.jump())).filter((text) => text !== '');
  }
}

/** A sign of life, and whether it stood. */
function aboutLife({ name, lives, changes }: WatchedItem, cycles: number): readonly string[] {
  if (!lives) return [];
  const isStuck = lives.stood !== null && lives.stood.cycles > STUCK_TIMES * Math.max(1, cycles / changes);
  return [
    `${name} is a sign of life: ${lives.how}${isStuck && lives.stood ? `; it stood still ${stoodText(lives.stood)}` : ''}`,
  ];
}

/** What never changed, in one sentence. */
function aboutRest(items: readonly WatchedItem[]): readonly string[] {
  const still = items.filter(({ changes, last }) => changes === 0 && !Number.isNaN(last)).map(({ name }) => name);
  if (still.length === 0) return [];
  return [still.length === items.length ? 'nothing in it ever changed' : `never changed: ${still.join(', ')}`];
}

/** The words of a block that nobody has laid out, as items. */
export const wordItems = (size: number): readonly ImageItem[] => [
  ...Array.from({ length: Math.floor(size / 2) }, (_, i): ImageItem => ({
    name: `word ${i}`,
    type: 'uint16',
    byte: 2 * i,
  })),
  ...(size % 2 === 1 ? [{ name: `byte ${size - 1}`, type: 'uint8', byte: size - 1 } as const] : []),
];
