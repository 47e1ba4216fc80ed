import type { LineProtocol } from '../protocol/line-protocol';
import type { SheetIndex } from '../sheet/index-sheet';
import type { TraceBlock } from './block';
import { DIRECTIONS, type TraceEntry } from './entry';
import { KeptTexts } from './kept-texts';
import { blockOf, entryOf, REQUEST_WITHIN, requestOf, type TraceRecord } from './record';
import { textOf } from './text';

/** What the line of an entry spoke, and the sheet by which its station is read. */
export type Speaks = (entry: TraceEntry) => {
  readonly protocol: LineProtocol | null;
  readonly index: SheetIndex | null;
};

/** What stands for how lines were set up at a moment: the same for two moments at which entries are read alike. */
export type SetUp = (moment: Pick<TraceEntry, 'session' | 'sequence'>) => unknown;

/** Entries that another one is compared with, a power of two; where another one takes its place the same meaning is read, and kept, once more. */
const PLACES = 1 << 18;
const SENT = DIRECTIONS.indexOf('sent');

/** An entry whose meaning is known: by its columns, so that nothing is copied. */
interface Known {
  readonly block: TraceBlock;
  readonly i: number;
  /** Where its request stands in the block; -1 where it has none. */
  readonly request: number;
  readonly setUp: unknown;
  /** The number of its kept text. */
  readonly text: number;
}

const UNREAD = 0;

/**
 * The meanings of a record's entries in small letters, for searches: a line that is polled says the same over and over, and one search follows the
 * other with every letter that is typed. So each meaning is read once, from the columns, and kept; an entry keeps its number. What it gives is
 * what `textOf` gives.
 */
export class Meanings {
  readonly #speaks: Speaks;
  readonly #setUp: SetUp;
  readonly #texts = new KeptTexts();
  readonly #known: (Known | undefined)[] = new Array<Known | undefined>(PLACES);
  /** The numbers of the texts of a block's entries, `UNREAD` before they are. */
  readonly #numbers = new WeakMap<TraceBlock, Uint32Array>();

  constructor(speaks: Speaks, setUp: SetUp) {
    this.#speaks = speaks;
    this.#setUp = setUp;
  }

  /** Tells of the entry at a place whether its meaning has these words, in small letters. */
  saying(words: string): (record: TraceRecord, place: number) => boolean {
    const has = this.#texts.having(words);
    let block: TraceBlock | undefined;
    let start = 0;
    let numbers: Uint32Array = new Uint32Array(0);
    return (record, place) => {
      // A search goes through a block entry by entry.
      if (!block || place < start || place >= start + block.count) {
        const at = blockOf(record, place);
        block = record.blocks[at];
        if (!block) return this.#read(record, place).includes(words);
        start = record.starts[at] ?? 0;
        numbers = this.#numbersOf(block);
      }
      const i = place - start;
      const number = numbers[i] as number;
      if (number !== UNREAD) return has(number);
      const request = requestIn(block, i);
      // What is not known yet, or finds no room, is read again the next time.
      if (request === ELSEWHERE) return this.#read(record, place).includes(words);
      const text = this.#numberOf(record, place, block, i, request);
      if (typeof text === 'string') return text.includes(words);
      numbers[i] = text;
      return has(text);
    };
  }

  #numbersOf(block: TraceBlock): Uint32Array {
    const known = this.#numbers.get(block);
    if (known) return known;
    const fresh = new Uint32Array(block.count);
    this.#numbers.set(block, fresh);
    return fresh;
  }

  /** The number of an entry's meaning; the meaning itself where it finds no room. */
  #numberOf(record: TraceRecord, place: number, block: TraceBlock, i: number, request: number): number | string {
    const hash = hashOf(block, i) ^ (request < 0 ? 0 : Math.imul(hashOf(block, request), 31));
    const slot = hash & (PLACES - 1);
    const known = this.#known[slot];
    const setUp = this.#setUp({ session: block.session, sequence: block.first + i });
    if (known && known.setUp === setUp && isSame(known, block, i, request)) return known.text;
    const meaning = this.#read(record, place);
    const text = this.#texts.add(meaning);
    if (text === UNREAD) return meaning;
    this.#known[slot] = { block, i, request, setUp, text };
    return text;
  }

  #read(record: TraceRecord, place: number): string {
    const entry = entryOf(record, place);
    if (!entry) return '';
    const { protocol, index } = this.#speaks(entry);
    return textOf(entry, requestOf(record, place), index, protocol).toLowerCase();
  }
}

const beginOf = ({ ends }: TraceBlock, i: number): number => (i === 0 ? 0 : (ends[i - 1] as number));

/** Of an entry's station, outcome and bytes: equal ones have the same. */
function hashOf(block: TraceBlock, i: number): number {
  const { bytes, ends } = block;
  let hash = ((block.station[i] as number) << 8) | (block.outcome[i] as number);
  for (let at = beginOf(block, i); at < (ends[i] as number); at++)
    hash = Math.imul(hash ^ (bytes[at] as number), 0x01000193);
  return hash ^ (hash >>> 15);
}

/** Whether all else that a meaning depends on is the same: line, station, direction, outcome, faults, cause, and the bytes of both. */
function isSame(kept: Known, block: TraceBlock, i: number, request: number): boolean {
  const { block: other, i: at } = kept;
  return (
    other.station[at] === block.station[i] &&
    other.direction[at] === block.direction[i] &&
    other.outcome[at] === block.outcome[i] &&
    other.lineFaults[at] === block.lineFaults[i] &&
    other.texts[other.line[at] as number] === block.texts[block.line[i] as number] &&
    other.texts[other.cause[at] as number] === block.texts[block.cause[i] as number] &&
    haveSameBytes(other, at, block, i) &&
    (kept.request < 0 || request < 0
      ? kept.request < 0 && request < 0
      : haveSameBytes(other, kept.request, block, request))
  );
}

function haveSameBytes(one: TraceBlock, i: number, other: TraceBlock, k: number): boolean {
  let [a, b] = [beginOf(one, i), beginOf(other, k)];
  const end = one.ends[i] as number;
  if (end - a !== (other.ends[k] as number) - b) return false;
  while (a < end) if (one.bytes[a++] !== other.bytes[b++]) return false;
  return true;
}

/** The request may lie in the block before. */
const ELSEWHERE = -2;

/** The request of a reply within its block; -1 where it has none near. */
function requestIn({ direction, exchange, line }: TraceBlock, i: number): number {
  if (direction[i] === SENT || exchange[i] === 0) return -1;
  const first = i - REQUEST_WITHIN;
  for (let back = i - 1; back >= Math.max(0, first); back--)
    if (direction[back] === SENT && exchange[back] === exchange[i] && line[back] === line[i]) return back;
  return first < 0 ? ELSEWHERE : -1;
}
