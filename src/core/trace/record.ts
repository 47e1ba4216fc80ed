import { entryAt, packBlock, type TraceBlock } from './block';
import type { TraceEntry } from './entry';

/** Entries that wait unpacked before they become a block. */
const PACK_AT = 2000;
/** Entries that are held, packed; a list of more could not be scrolled in a browser. Older ones stay in the database. */
export const RECORD_MOST = 1_500_000;
/** A reply is looked for its request so far back: other lines' entries may lie between. */
export const REQUEST_WITHIN = 200;

/**
 * Everything that was recorded, in columns: about 40 bytes an entry, so that a million of them fit a page.
 * A place names an entry for good: it counts from the first entry of this start of the page, and earlier ones are
 * negative, for older blocks are read while new entries come in.
 */
export interface TraceRecord {
  /** Oldest first. */
  readonly blocks: readonly TraceBlock[];
  /** The place of each block's first entry. */
  readonly starts: readonly number[];
  /** The newest entries, not packed yet. */
  readonly tail: readonly TraceEntry[];
  readonly tailStart: number;
}

export const EMPTY_RECORD: TraceRecord = { blocks: [], starts: [], tail: [], tailStart: 0 };

/** The place of the oldest entry; the record is empty where it equals `endOf`. */
export const firstOf = ({ starts, tailStart }: TraceRecord): number => starts[0] ?? tailStart;

/** The place after the newest entry. */
export const endOf = ({ tailStart, tail }: TraceRecord): number => tailStart + tail.length;

/** How many entries a record holds. */
export const sizeOf = (record: TraceRecord): number => endOf(record) - firstOf(record);

/** The record with newer entries of this start of the page, in their order. */
export function withNewer(record: TraceRecord, entries: readonly TraceEntry[]): TraceRecord {
  if (entries.length === 0) return record;
  const tail = [...record.tail, ...entries];
  if (tail.length < PACK_AT) return { ...record, tail };
  return {
    blocks: [...record.blocks, packBlock(tail)],
    starts: [...record.starts, record.tailStart],
    tail: [],
    tailStart: record.tailStart + tail.length,
  };
}

/** The record with blocks from before its first entry, oldest first. */
export function withOlder(record: TraceRecord, blocks: readonly TraceBlock[]): TraceRecord {
  let start = firstOf(record) - blocks.reduce((sum, { count }) => sum + count, 0);
  const starts = blocks.map(({ count }) => {
    start += count;
    return start - count;
  });
  return { ...record, blocks: [...blocks, ...record.blocks], starts: [...starts, ...record.starts] };
}

/** The record without its oldest blocks, so that at most `most` entries are left. */
export function withoutOldest(record: TraceRecord, most: number): TraceRecord {
  let gone = 0;
  for (let size = sizeOf(record); size > most && gone < record.blocks.length; gone++)
    size -= record.blocks[gone]?.count ?? 0;
  return gone === 0 ? record : { ...record, blocks: record.blocks.slice(gone), starts: record.starts.slice(gone) };
}

/** The block that holds a place; -1 for the tail and for what is not in the record. */
export function blockOf({ starts, tailStart }: TraceRecord, place: number): number {
  if (place >= tailStart) return -1;
  let [low, high] = [0, starts.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((starts[middle] ?? 0) <= place) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** The entry at a place, or null where there is none. */
export function entryOf(record: TraceRecord, place: number): TraceEntry | null {
  if (place >= record.tailStart) return record.tail[place - record.tailStart] ?? null;
  const at = blockOf(record, place);
  const block = record.blocks[at];
  return block ? entryAt(block, place - (record.starts[at] ?? 0)) : null;
}

/** The request that the entry at a place belongs to, or null where none is near. */
export function requestOf(record: TraceRecord, place: number): TraceEntry | null {
  const entry = entryOf(record, place);
  if (!entry || entry.exchange === 0 || entry.direction === 'sent') return null;
  for (let back = place - 1; back >= place - REQUEST_WITHIN; back--) {
    const other = entryOf(record, back);
    if (!other || other.session !== entry.session) return null;
    // Each line counts its exchanges for itself.
    if (other.direction === 'sent' && other.line === entry.line && other.exchange === entry.exchange) return other;
  }
  return null;
}

/** The places of one session's entries; they lie together. */
export function rangeOf(record: TraceRecord, session: string): { readonly from: number; readonly until: number } {
  const { blocks, starts, tail, tailStart } = record;
  const first = blocks.findIndex((block) => block.session === session);
  const last = blocks.findLastIndex((block) => block.session === session);
  const isInTail = tail[0]?.session === session;
  const from = first >= 0 ? (starts[first] as number) : tailStart;
  if (isInTail) return { from, until: endOf(record) };
  return { from, until: first < 0 ? from : (starts[last] as number) + (blocks[last]?.count ?? 0) };
}

/** The entry of a session with a number, and where it stands; null where it is not in the record. Sessions are numbered without gaps. */
export function entryNumbered(
  record: TraceRecord,
  session: string,
  sequence: number,
): { readonly place: number; readonly entry: TraceEntry } | null {
  const { from, until } = rangeOf(record, session);
  const first = entryOf(record, from);
  const place = from + sequence - (first?.sequence ?? 0);
  const entry = place >= from && place < until ? entryOf(record, place) : null;
  return entry?.session === session && entry.sequence === sequence ? { place, entry } : null;
}

/** The entries of one station between two places; what is not its own is passed over in the columns. */
export function entriesOf(
  record: TraceRecord,
  from: number,
  until: number,
  line: string,
  station: number,
): readonly TraceEntry[] {
  const found: TraceEntry[] = [];
  // What is not in the record any more is passed over.
  for (let place = Math.max(from, firstOf(record)); place < until;) {
    const at = blockOf(record, place);
    const block = record.blocks[at];
    if (!block) {
      const rest = record.tail.slice(place - record.tailStart, until - record.tailStart);
      found.push(...rest.filter((entry) => entry.line === line && entry.station === station));
      break;
    }
    const start = record.starts[at] ?? 0;
    const end = Math.min(until, start + block.count);
    const own = block.texts.indexOf(line);
    for (let i = place - start; i < end - start; i++) {
      if (block.station[i] !== station || block.line[i] !== own) continue;
      const entry = entryAt(block, i);
      if (entry) found.push(entry);
    }
    place = end;
  }
  return found;
}
