import { Block, BLOCK } from './frame-block';
import { KindFinder, type FrameTraits } from './kinds';
import { PackedBlock } from './packed-block';
import { Selection } from './selection';

/** What is known of a frame without its bytes. */
export interface FrameEntry extends FrameTraits {
  /** Place of its first byte. */
  readonly offset: number;
  /** Microseconds since the capture began; NaN where the source has no times. */
  readonly timeUs: number;
  /** The request that a response answers, or the response to a request; -1 where there is none. */
  readonly partner: number;
}

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

/** Whether a filter lets frames of this kind through, whenever they came. */
function letsThrough({ unit, fc, register, only }: FrameFilter, kind: FrameTraits, distance: number): boolean {
  const isFrame = kind.direction !== 'junk';
  if (unit !== undefined && !(isFrame && kind.unit === unit)) return false;
  if (fc !== undefined && !(isFrame && kind.fc === fc)) return false;
  if (register !== undefined && !(isFrame && register >= kind.address && register < kind.address + kind.quantity))
    return false;
  switch (only) {
    case 'faults':
      return kind.fault;
    case 'exceptions':
      return kind.exception;
    case 'unanswered':
      return kind.direction === 'request' && distance === 0;
    case undefined:
      return true;
  }
}

/** Adds the frames of a block whose kinds pass: nothing else is asked of each of them. */
function addPassing(found: Selection, { ids, size }: PackedBlock, passes: Uint8Array, first: number): void {
  for (let i = 0; i < size; i++) if (passes[ids[i] as number] === 1) found.add(first + i);
}

/** Blocks that are still written to: a response is tied to a request of the block before in place. */
const OPEN_BLOCKS = 2;
/** Blocks of which it is known where each frame begins: those of the rows on the screen, and of their partners. */
const KNOWN_BEGINS = 4;

/** The frames of a capture: a filter runs over them without touching a byte of it. */
export class FrameIndex {
  readonly #packed: PackedBlock[] = [];
  readonly #finder = new KindFinder();
  /** The blocks behind the packed ones. */
  readonly #open: Block[] = [];
  #count = 0;
  #end = 0;
  /** Responses to requests whose block was packed already. */
  readonly #late = new Map<number, number>();
  /** The open blocks as they are looked at; made anew after every change. */
  #seen: readonly PackedBlock[] | null = null;
  readonly #begins = new Map<PackedBlock, Uint32Array>();

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
        this.#packed.push(new PackedBlock(oldest, this.#packed.length * BLOCK, BLOCK, next.base, this.#finder));
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
      ...block.kinds.traits(block.ids[i] as number),
      offset: block.base + (this.#beginsOf(block)[i] as number),
      timeUs: block.timeUs(i),
      partner: this.#late.get(place) ?? block.partner(i, number * BLOCK),
    };
  }

  /** Frames that a filter lets through. Each kind is looked at once; then only the numbers of kinds are gone through. */
  filter(filter: FrameFilter): Selection {
    const { fromUs = -Infinity, toUs = Infinity, only } = filter;
    const isTimed = fromUs !== -Infinity || toUs !== Infinity;
    const found = new Selection(this.#count);
    let known: readonly FrameTraits[] | null = null;
    let passes = new Uint8Array(0);
    for (const { block, first, kinds } of this.blocks()) {
      if (kinds !== known)
        passes = Uint8Array.from(kinds, (kind, id) => Number(letsThrough(filter, kind, block.kinds.distance(id))));
      known = kinds;
      if (isTimed || only === 'unanswered') {
        const passesToo = (i: number): boolean =>
          !(only === 'unanswered' && this.#late.has(first + i)) &&
          (!isTimed || (block.timeUs(i) >= fromUs && block.timeUs(i) <= toUs));
        for (let i = 0; i < block.size; i++)
          if (passes[block.ids[i] as number] === 1 && passesToo(i)) found.add(first + i);
      } else addPassing(found, block, passes, first);
    }
    return found;
  }

  /** The blocks in their order, each with the place of its first frame and the kinds among which its frames’ are: the same list for many blocks. */
  *blocks(): Generator<{
    readonly block: PackedBlock;
    readonly first: number;
    readonly kinds: readonly FrameTraits[];
  }> {
    for (let number = 0; ; number++) {
      const block = this.#blockAt(number);
      if (!block) return;
      yield { block, first: number * BLOCK, kinds: block.kinds.all() };
    }
  }

  #blockAt(number: number): PackedBlock | undefined {
    if (number < this.#packed.length) return this.#packed[number];
    this.#seen ??= this.#openNow();
    return this.#seen[number - this.#packed.length];
  }

  #openNow(): readonly PackedBlock[] {
    const finder = new KindFinder();
    return this.#open.map((block, k, { length }) => {
      const first = (this.#packed.length + k) * BLOCK;
      const end = k + 1 < length ? (this.#open[k + 1]?.base ?? 0) : this.#end;
      return new PackedBlock(block, first, Math.min(BLOCK, this.#count - first), end, finder);
    });
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
