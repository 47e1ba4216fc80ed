import { Block, BLOCK } from './frame-block';
import type { Glances } from './glance';
import { KIND_BYTES, KindFinder, KindRoom, type FrameOutline } from './kinds';
import { PackedBlock } from './packed-block';

/** A frame of a capture, without what only its bytes tell. */
export interface FrameEntry extends FrameOutline {
  /** Place of its first byte. */
  readonly offset: number;
  /** Microseconds since the capture began; NaN where the source has no times. */
  readonly timeUs: number;
  /** The request that a response answers, or the response to a request; -1 where there is none. */
  readonly partner: number;
}

/** Reads bytes of the capture again, from a place to before another one. */
export type ReadAgain = (from: number, until: number) => Promise<Uint8Array>;

/** A block with the place of its first frame. */
export interface IndexedBlock {
  readonly block: PackedBlock;
  readonly first: number;
}

/** Blocks of outlines one behind the other, and their bytes. */
interface Stretch {
  /** The number of its first block, and of the one behind its last. */
  readonly first: number;
  readonly behind: number;
  /** Place of its first byte. */
  readonly from: number;
  readonly bytes: Promise<Uint8Array>;
}

/** Blocks that are still written to: a response is tied to a request of the block before in place. */
const OPEN_BLOCKS = 2;
/** Blocks of which it is known where each frame begins: those of the rows on the screen, and of their partners. */
const KNOWN_BEGINS = 4;
/** Kinds may take so much memory in bytes, and so much more for each frame; behind that blocks with more keep outlines. */
const KINDS_AT_LEAST = 1 << 23;
const KINDS_PER_FRAME = 0.25;
/** So many blocks keep outlines before it is tried again whether they have kinds in common. */
const OUTLINES_IN_A_ROW = 7;
/** Bytes that are read again in one go: in smaller pieces asking for them takes longer than what is done with them. */
const READ_AGAIN = 1 << 21;

const wholeRoom = new KindRoom();
const outlineRoom = new KindRoom();

/** The frames of a capture. Its bytes are asked for only where frames differ so much that keeping what they say would take too much room. */
export class FrameIndex {
  readonly #glances: Glances;
  readonly #mayTake: (frames: number) => number;
  readonly #packed: PackedBlock[] = [];
  readonly #finder = new KindFinder(wholeRoom);
  /** Made with the first block that keeps outlines. */
  #outlineFinder: KindFinder | null = null;
  /** Memory of the kinds of whole blocks, in bytes. */
  #taken = 0;
  /** Blocks that keep outlines without another try. */
  #untried = 0;
  /** The blocks behind the packed ones. */
  readonly #open: Block[] = [];
  #count = 0;
  #end = 0;
  /** Responses to requests whose block was packed already. */
  readonly #late = new Map<number, number>();
  /** The open blocks as they are looked at; made anew after every change. */
  #seen: readonly PackedBlock[] | null = null;
  readonly #begins = new Map<PackedBlock, Uint32Array>();

  /** `kindsAtLeast`: memory of kinds, in bytes, that is taken however few frames there are. */
  constructor(glances: Glances, kindsAtLeast = KINDS_AT_LEAST) {
    this.#glances = glances;
    this.#mayTake = (frames) => kindsAtLeast + KINDS_PER_FRAME * frames;
  }

  get count(): number {
    return this.#count;
  }

  /** Bytes of memory that what is packed takes. */
  get bytes(): number {
    const kinds = new Set(this.#packed.map((block) => block.kinds));
    return (
      this.#packed.reduce((sum, { bytes }) => sum + bytes, 0) +
      [...kinds].reduce((sum, { numbers }) => sum + numbers.byteLength, 0)
    );
  }

  /** The block that takes the next frame, at place `count % BLOCK`; what was put there counts once `grow` was called. A new one begins at `base`. */
  room(base: number): Block {
    if (this.#count === (this.#packed.length + this.#open.length) * BLOCK) {
      const [oldest, next] = this.#open;
      const isPacked = this.#open.length === OPEN_BLOCKS && oldest !== undefined && next !== undefined;
      if (isPacked) {
        this.#packed.push(this.#pack(oldest, this.#packed.length * BLOCK, next.base));
        this.#open.shift();
      }
      const block = isPacked ? oldest : new Block();
      block.begin(base);
      this.#open.push(block);
    }
    return this.#open[this.#open.length - 1] as Block;
  }

  /** So many frames were put there; the last one ends at `end`. */
  grow(frames: number, end: number): void {
    this.#count += frames;
    this.#end = end;
    this.#seen = null;
  }

  /** Ties a request to its response. */
  tie(request: number, response: number): void {
    const number = Math.floor(request / BLOCK);
    const block = this.#open[number - this.#packed.length];
    if (block) block.partner[request % BLOCK] = response;
    else if (number < this.#packed.length) this.#late.set(request, response);
    this.#seen = null;
  }

  at(place: number): FrameEntry | null {
    const number = Math.floor(place / BLOCK);
    const block = this.#blockAt(number);
    const i = place - number * BLOCK;
    if (!block || !(i < block.size)) return null;
    return {
      ...block.kinds.outline(block.ids[i] as number),
      offset: block.base + (this.#beginsOf(block)[i] as number),
      timeUs: block.timeUs(i),
      partner: this.#late.get(place) ?? block.partner(i, number * BLOCK),
    };
  }

  /** Whether the answer to a request came so late that its block does not know of it. */
  isAnsweredLate(place: number): boolean {
    return this.#late.has(place);
  }

  /** The blocks in their order, of some only outlines: station, function and registers of their kinds are 0. */
  *outlines(): Generator<IndexedBlock> {
    for (let number = 0; ; number++) {
      const block = this.#blockAt(number);
      if (!block) return;
      yield { block, first: number * BLOCK };
    }
  }

  /** The blocks in their order, all whole: those that keep outlines are made so of their bytes, which are read while the ones before are gone through. */
  async *blocks(readAgain: ReadAgain): AsyncGenerator<IndexedBlock> {
    let stretch = this.#stretchFrom(0, readAgain);
    let next: Stretch | null = null;
    for (const { block, first } of this.outlines()) {
      if (block.isWhole || !stretch) {
        yield { block, first };
        continue;
      }
      const number = first / BLOCK;
      if (number >= stretch.behind && next) stretch = next;
      if (number === stretch.first) next = this.#stretchFrom(stretch.behind, readAgain);
      const bytes = await stretch.bytes;
      const from = block.base - stretch.from;
      const own = bytes.subarray(from, from + this.#endOf(number) - block.base);
      yield { block: block.madeWhole(first, own, this.#glances), first };
    }
  }

  /** Whole while that does not take too much, else outlines. */
  #pack(block: Block, first: number, end: number): PackedBlock {
    if (this.#untried === 0) {
      const whole = PackedBlock.whole(block, first, BLOCK, end, this.#finder);
      const taken = this.#taken + KIND_BYTES * this.#finder.brought;
      if (taken <= this.#mayTake(first + BLOCK)) {
        this.#taken = taken;
        return whole;
      }
      this.#untried = OUTLINES_IN_A_ROW;
    } else this.#untried--;
    this.#outlineFinder ??= new KindFinder(outlineRoom);
    return PackedBlock.outlines(block, first, BLOCK, end, this.#outlineFinder);
  }

  #blockAt(number: number): PackedBlock | undefined {
    if (number < this.#packed.length) return this.#packed[number];
    this.#seen ??= this.#openNow();
    return this.#seen[number - this.#packed.length];
  }

  #openNow(): readonly PackedBlock[] {
    const finder = new KindFinder(wholeRoom);
    return this.#open.map((block, k) => {
      const number = this.#packed.length + k;
      const first = number * BLOCK;
      return PackedBlock.whole(block, first, Math.min(BLOCK, this.#count - first), this.#endOf(number), finder);
    });
  }

  /** Where the last frame of a block ends. */
  #endOf(number: number): number {
    const next = this.#packed[number + 1] ?? this.#open[number + 1 - this.#packed.length];
    return next?.base ?? this.#end;
  }

  /** Begins to read the next blocks of outlines that follow each other, from a block on; null where there are none. */
  #stretchFrom(number: number, readAgain: ReadAgain): Stretch | null {
    const isOutlines = (at: number): boolean => this.#packed[at]?.isWhole === false;
    let first = number;
    while (first < this.#packed.length && !isOutlines(first)) first++;
    const from = this.#packed[first]?.base;
    if (from === undefined) return null;
    let behind = first + 1;
    while (isOutlines(behind) && this.#endOf(behind) - from <= READ_AGAIN) behind++;
    const bytes = readAgain(from, this.#endOf(behind - 1));
    // Who goes on hears of it; who has ended does not ask.
    bytes.catch(() => undefined);
    return { first, behind, from, bytes };
  }

  #beginsOf(block: PackedBlock): Uint32Array {
    const known = this.#begins.get(block);
    if (known) return known;
    const begins = block.begins();
    for (const old of [...this.#begins.keys()].slice(0, -(KNOWN_BEGINS - 1))) this.#begins.delete(old);
    this.#begins.set(block, begins);
    return begins;
  }
}
