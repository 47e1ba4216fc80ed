import type { Direction } from '../direction';
import { BLOCK, FLAG, NOBODY, type Block } from './frame-block';

/** What is known of a frame whatever its bytes are. */
export interface FrameOutline {
  readonly direction: Direction | 'junk';
  readonly fault: boolean;
  readonly exception: boolean;
  /** It came over a TCP connection of a packet file, whatever the serial bytes beside it speak. */
  readonly tcp: boolean;
  /** In bytes. */
  readonly length: number;
}

/**
 * What a frame is, whatever it carries. Frames that differ in nothing of it and are as far from their partners are of one kind: a line is asked the same things
 * over and over, and of its frames only some hundreds differ.
 */
export interface FrameTraits extends FrameOutline {
  readonly unit: number;
  readonly fc: number;
  /** First register, and how many; 0 of them where the frame names none. Of a response: those of its request. */
  readonly address: number;
  readonly quantity: number;
}

/** A kind is three numbers of 32 bits: its bytes with the distance to the partner above them, address and quantity, length. */
const NUMBERS = 3;
/** Memory of one kind, in bytes. */
export const KIND_BYTES = NUMBERS * Int32Array.BYTES_PER_ELEMENT;
const NO_PARTNER = 0;
const FAR_PARTNER = 255;
const DISTANCE_ZERO = 128;
const FARTHEST = 126;

/** So many kinds have numbers of their own; with more begins another list of them. As many as a block has frames at least. */
const MOST_KINDS = 2 * BLOCK;
const FEWEST_KINDS = 256;
/** Slots in which kinds are looked for by their numbers: a power of two, twice as many as there can be. */
const SLOT_BITS = 14;
/** After so many frames in a row that were of no known kind only each eighth is looked for, until one is known again. */
const STRANGE = 256;
const NOW_AND_THEN = 7;

/** A list of kinds, which blocks that follow each other share. It grows, and what is in it stays as it is. */
export class Kinds {
  numbers: Int32Array<ArrayBuffer>;
  count = 0;

  /** With room for so many kinds at first. */
  constructor(room = FEWEST_KINDS) {
    this.numbers = new Int32Array(NUMBERS * room);
  }

  /** Adds a kind that differs from one of another list in station, function and registers: `traitsOf` it without flags, and `registersOf` it. */
  addLike(other: Kinds, id: number, traits: number, registers: number): void {
    const { numbers } = this;
    const at = NUMBERS * this.count++;
    numbers[at] = (other.numbers[NUMBERS * id] as number) | traits;
    numbers[at + 1] = registers;
    numbers[at + 2] = other.length(id);
  }

  outline(id: number): FrameOutline {
    const flags = this.flags(id);
    return {
      direction: flags & FLAG.junk ? 'junk' : flags & FLAG.response ? 'response' : 'request',
      fault: (flags & FLAG.fault) !== 0,
      exception: (flags & FLAG.exception) !== 0,
      tcp: (flags & FLAG.tcp) !== 0,
      length: this.length(id),
    };
  }

  unit(id: number): number {
    return (this.numbers[NUMBERS * id] as number) & 255;
  }

  fc(id: number): number {
    return ((this.numbers[NUMBERS * id] as number) >>> 8) & 255;
  }

  /** As in `FLAG`. */
  flags(id: number): number {
    return ((this.numbers[NUMBERS * id] as number) >>> 16) & 255;
  }

  isRequest(id: number): boolean {
    return (this.flags(id) & (FLAG.response | FLAG.junk)) === 0;
  }

  /** As of `registersOf`. */
  registers(id: number): number {
    return this.numbers[NUMBERS * id + 1] as number;
  }

  address(id: number): number {
    return this.registers(id) & 0xffff;
  }

  quantity(id: number): number {
    return this.registers(id) >>> 16;
  }

  /** In bytes. */
  length(id: number): number {
    return this.numbers[NUMBERS * id + 2] as number;
  }

  /** Places from a frame of this kind to its partner; 0 where it has none, NaN where it is too far off to be told here. */
  distance(id: number): number {
    const code = (this.numbers[NUMBERS * id] as number) >>> 24;
    return code === NO_PARTNER ? 0 : code === FAR_PARTNER ? NaN : code - DISTANCE_ZERO;
  }

  /** Room for twice as many. */
  grow(): Int32Array<ArrayBuffer> {
    const { numbers } = this;
    this.numbers = new Int32Array(2 * numbers.length);
    this.numbers.set(numbers);
    return this.numbers;
  }
}

/** Asked of each kind in a list by its number. */
export type KindTest = (kinds: Kinds, id: number) => boolean;

/** For each kind that is in a list by now: 1 where it is so, else 0. */
export function ofEachKind(kinds: Kinds, test: KindTest): Uint8Array<ArrayBuffer> {
  const told = new Uint8Array(kinds.count);
  for (let id = 0; id < told.length; id++) told[id] = Number(test(kinds, id));
  return told;
}

/** The frames of a block as numbers of their kinds. */
export interface Numbered {
  readonly kinds: Kinds;
  readonly ids: Uint8Array | Uint16Array;
  /** Partners that are too far off, by the frame's place in the block. */
  readonly far: ReadonlyMap<number, number>;
}

const slotOf = (bytes: number, registers: number, length: number): number =>
  (Math.imul(bytes, 0x9e3779b1) ^ Math.imul(registers, 0x85ebca6b) ^ Math.imul(length, 0xc2b2ae35)) >>>
  (32 - SLOT_BITS);

/** What the kinds of one list are found by: that of whoever looked last, since captures are read one after the other, and a short one is over before such room is made. */
export class KindRoom {
  /** The kind that is looked for at a slot, counted from 1. */
  readonly slots = new Int16Array(1 << SLOT_BITS);
  /** The kind that came behind each kind the last time: on a polled line it does so again. */
  readonly next = new Uint16Array(MOST_KINDS);
  listed: Kinds | null = null;
}

const wideIds = new Uint16Array(BLOCK);

/** Finds the kinds of one block after the other. One that comes in between another one's blocks makes that begin a list anew, and nothing else. */
export class KindFinder {
  readonly #room: KindRoom;
  #kinds = new Kinds();
  #last = 0;
  /** Frames in a row that were of no known kind. */
  #strange = 0;
  #brought = 0;

  constructor(room: KindRoom) {
    this.#room = room;
  }

  /** Kinds that the last block brought. */
  get brought(): number {
    return this.#brought;
  }

  /** Numbers the first `size` frames of a block, the first of which is frame number `first` of the capture; the last one ends at `end`. */
  number(block: Block, first: number, size: number, end: number): Numbered {
    const far = new Map<number, number>();
    // What would be full within this block is not begun with.
    if (this.#room.listed !== this.#kinds || this.#kinds.count + this.#brought > MOST_KINDS) this.#beginList();
    let widest = this.#fill(block, first, size, end, far);
    if (widest < 0) {
      this.#beginList();
      widest = this.#fill(block, first, size, end, far);
    }
    const ids = widest < 256 ? new Uint8Array(wideIds.subarray(0, size)) : wideIds.slice(0, size);
    return { kinds: this.#kinds, ids, far };
  }

  #beginList(): void {
    this.#kinds = new Kinds();
    this.#room.listed = this.#kinds;
    this.#room.slots.fill(0);
  }

  /** All bits of the numbers that were given; -1 where there are too many kinds. */
  #fill(block: Block, first: number, size: number, end: number, far: Map<number, number>): number {
    const { base, offset: offsets, partner: partners, traits, registers: registersOfAll } = block;
    const { slots, next } = this.#room;
    const kinds = this.#kinds;
    const before = kinds.count;
    let { numbers, count } = kinds;
    let last = this.#last;
    let strange = this.#strange;
    let until = 0;
    let widest = 0;
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
      const looks = strange < STRANGE || (i & NOW_AND_THEN) === 0;
      let kind = looks ? (next[last] as number) : count;
      if (
        kind >= count ||
        numbers[NUMBERS * kind] !== bytes ||
        numbers[NUMBERS * kind + 1] !== registers ||
        numbers[NUMBERS * kind + 2] !== length
      ) {
        let slot = slotOf(bytes, registers, length);
        kind = looks ? (slots[slot] as number) - 1 : -1;
        while (
          kind >= 0 &&
          (numbers[NUMBERS * kind] !== bytes ||
            numbers[NUMBERS * kind + 1] !== registers ||
            numbers[NUMBERS * kind + 2] !== length)
        ) {
          slot = (slot + 1) & ((1 << SLOT_BITS) - 1);
          kind = (slots[slot] as number) - 1;
        }
        if (kind >= 0) strange = 0;
        else {
          if (count === MOST_KINDS) return -1;
          if (NUMBERS * count === numbers.length) numbers = kinds.grow();
          strange++;
          kind = count++;
          slots[slot] = count;
          numbers[NUMBERS * kind] = bytes;
          numbers[NUMBERS * kind + 1] = registers;
          numbers[NUMBERS * kind + 2] = length;
        }
        if (looks) next[last] = kind;
      } else strange = 0;
      last = kind;
      wideIds[i] = kind;
      widest |= kind;
    }
    this.#last = last;
    this.#strange = strange;
    this.#brought = count - before;
    kinds.count = count;
    return widest;
  }
}
