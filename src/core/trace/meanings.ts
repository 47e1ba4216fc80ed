import type { LineProtocol } from '../protocol/line-protocol';
import type { SheetIndex } from '../sheet/index-sheet';
import { entryAt, type TraceBlock } from './block';
import { ByteKeys } from './byte-keys';
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

const SENT = DIRECTIONS.indexOf('sent');

/** Bytes of a key before those of the request and of the entry itself: of three numbers, four columns and the request’s length. */
const KEY_HEAD = 3 * 4 + 4 + 2;
/** Longer entries are read each time: they are texts of a menu, hardly two of them alike. */
const KEY_MOST = 1 << 11;
const NO_REQUEST = 0xffff;

/** A block that is gone through, with what its entries share. */
interface Stretch {
  readonly block: TraceBlock;
  readonly start: number;
  /** The numbers of the texts of its entries, `UNREAD` before they are. */
  readonly numbers: Uint32Array;
  /** What stands in keys for each text of its dictionary. */
  readonly texts: Uint32Array;
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
  /** The texts by all that a meaning depends on. */
  readonly #known = new ByteKeys();
  readonly #key = new Uint8Array(KEY_MOST);
  readonly #view = new DataView(this.#key.buffer);
  /** What stands in keys for a line, a cause and a set-up. */
  readonly #stands = new Map<unknown, number>();
  readonly #numbers = new WeakMap<TraceBlock, Uint32Array>();

  constructor(speaks: Speaks, setUp: SetUp) {
    this.#speaks = speaks;
    this.#setUp = setUp;
  }

  /** Tells of the entry at a place whether its meaning has these words, in small letters. */
  saying(words: string): (record: TraceRecord, place: number) => boolean {
    const has = this.#texts.having(words);
    let stretch: Stretch | null = null;
    return (record, place) => {
      // A search goes through a block entry by entry.
      if (!stretch || place < stretch.start || place >= stretch.start + stretch.block.count)
        stretch = this.#stretchAt(record, place);
      if (!stretch) return this.#read(record, place).includes(words);
      const { block, start, numbers } = stretch;
      const i = place - start;
      const number = numbers[i] as number;
      if (number !== UNREAD) return has(number);
      const request = requestIn(block, i);
      // What is not known yet, or finds no room, is read again the next time.
      if (request === ELSEWHERE) return this.#read(record, place).includes(words);
      const text = this.#numberOf(stretch, i, request);
      if (typeof text === 'string') return text.includes(words);
      numbers[i] = text;
      return has(text);
    };
  }

  #stretchAt(record: TraceRecord, place: number): Stretch | null {
    const at = blockOf(record, place);
    const block = record.blocks[at];
    if (!block) return null;
    let numbers = this.#numbers.get(block);
    if (!numbers) {
      numbers = new Uint32Array(block.count);
      this.#numbers.set(block, numbers);
    }
    const texts = Uint32Array.from(block.texts, (text) => this.#standsFor(text));
    return { block, start: record.starts[at] ?? 0, numbers, texts };
  }

  #standsFor(what: unknown): number {
    const known = this.#stands.get(what);
    if (known !== undefined) return known;
    this.#stands.set(what, this.#stands.size);
    return this.#stands.size - 1;
  }

  /** The number of an entry's meaning; the meaning itself where it finds no room. */
  #numberOf(stretch: Stretch, i: number, request: number): number | string {
    const length = this.#keyOf(stretch, i, request);
    const known = length > 0 ? this.#known.find(this.#key, length) : UNREAD;
    if (known !== UNREAD) return known;
    const { block } = stretch;
    const meaning = this.#meaningOf(entryAt(block, i), entryAt(block, request));
    const text = this.#texts.add(meaning);
    if (text === UNREAD) return meaning;
    if (length > 0) this.#known.keep(this.#key, length, text);
    return text;
  }

  /** Writes down all that a meaning depends on; how many bytes it takes, 0 where there are too many. */
  #keyOf({ block, texts }: Stretch, i: number, request: number): number {
    const key = this.#key;
    const view = this.#view;
    const { bytes, ends } = block;
    const from = beginOf(block, i);
    const end = ends[i] as number;
    const asked = request < 0 ? 0 : beginOf(block, request);
    const askedEnd = request < 0 ? 0 : (ends[request] as number);
    const length = KEY_HEAD + askedEnd - asked + end - from;
    if (length > KEY_MOST) return 0;
    const setUp = this.#setUp({ session: block.session, sequence: block.first + i });
    view.setUint32(0, this.#standsFor(setUp));
    view.setUint32(4, texts[block.line[i] as number] as number);
    view.setUint32(8, texts[block.cause[i] as number] as number);
    key[12] = block.station[i] as number;
    key[13] = block.direction[i] as number;
    key[14] = block.outcome[i] as number;
    key[15] = block.lineFaults[i] as number;
    view.setUint16(16, request < 0 ? NO_REQUEST : askedEnd - asked);
    let to = KEY_HEAD;
    for (let at = asked; at < askedEnd; at++) key[to++] = bytes[at] as number;
    for (let at = from; at < end; at++) key[to++] = bytes[at] as number;
    return length;
  }

  #read(record: TraceRecord, place: number): string {
    return this.#meaningOf(entryOf(record, place), requestOf(record, place));
  }

  #meaningOf(entry: TraceEntry | null, request: TraceEntry | null): string {
    if (!entry) return '';
    const { protocol, index } = this.#speaks(entry);
    return textOf(entry, request, index, protocol).toLowerCase();
  }
}

const beginOf = ({ ends }: TraceBlock, i: number): number => (i === 0 ? 0 : (ends[i - 1] as number));

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
