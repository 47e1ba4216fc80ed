import type { LineProtocol } from '../protocol/line-protocol';
import type { SheetIndex } from '../sheet/index-sheet';
import type { TraceBlock } from './block';
import { DIRECTIONS, type TraceEntry } from './entry';
import { blockOf, entryOf, REQUEST_WITHIN, requestOf, type TraceRecord } from './record';
import { textOf } from './text';

/** What the line of an entry spoke, and the sheet by which its station is read. */
export type Speaks = (entry: TraceEntry) => {
  readonly protocol: LineProtocol | null;
  readonly index: SheetIndex | null;
};

/** What stands for how lines were set up at a moment: the same for two moments at which entries are read alike. */
export type SetUp = (moment: Pick<TraceEntry, 'session' | 'sequence'>) => unknown;

/** Meanings that are kept, a power of two; one that another one takes the place of is read anew. */
const PLACES = 1 << 16;
const SENT = DIRECTIONS.indexOf('sent');

/** An entry whose meaning is kept: by its columns, so that nothing is copied. */
interface Kept {
  readonly block: TraceBlock;
  readonly i: number;
  /** Where its request stands in the block; -1 where it has none. */
  readonly request: number;
  readonly setUp: unknown;
  readonly text: string;
}

/**
 * The meanings of a record's entries in small letters, for a search: a line that is polled says the same over and over, and what was said twice is kept.
 * It gives what `textOf` gives, from the columns, and unpacks an entry only where its meaning is not kept.
 */
export class Meanings {
  readonly #speaks: Speaks;
  readonly #setUp: SetUp;
  readonly #kept: (Kept | undefined)[] = new Array<Kept | undefined>(PLACES);
  /** The hash that came last at each place: what comes once only is not worth keeping. */
  readonly #seen = new Int32Array(PLACES);

  constructor(speaks: Speaks, setUp: SetUp) {
    this.#speaks = speaks;
    this.#setUp = setUp;
  }

  /** The meaning of the entry at a place; empty where there is none. */
  of(record: TraceRecord, place: number): string {
    const at = blockOf(record, place);
    const block = record.blocks[at];
    if (!block) return this.#read(record, place);
    const i = place - (record.starts[at] ?? 0);
    const request = requestIn(block, i);
    if (request === ELSEWHERE) return this.#read(record, place);
    const hash = hashOf(block, i) ^ (request < 0 ? 0 : Math.imul(hashOf(block, request), 31));
    const slot = hash & (PLACES - 1);
    const known = this.#kept[slot];
    const setUp = this.#setUp({ session: block.session, sequence: block.first + i });
    if (known && known.setUp === setUp && isSame(known, block, i, request)) return known.text;
    const text = this.#read(record, place);
    if (this.#seen[slot] === hash) this.#kept[slot] = { block, i, request, setUp, text };
    this.#seen[slot] = hash;
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
function isSame(kept: Kept, block: TraceBlock, i: number, request: number): boolean {
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
