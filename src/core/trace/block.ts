import { DIRECTIONS, LINE_FAULTS, OUTCOMES, type LineFault, type TraceEntry } from './entry';

/**
 * Many entries as columns beside their raw bytes: one database row instead of hundreds. Texts stand once each in a dictionary.
 * Column names are persisted; changing one needs a migration.
 */
export interface TraceBlock {
  readonly session: string;
  /** Sequence number of the first entry; the others follow without gaps. */
  readonly first: number;
  readonly count: number;
  readonly atUs: Float64Array;
  readonly exchange: Uint32Array;
  readonly station: Uint8Array;
  readonly direction: Uint8Array;
  readonly outcome: Uint8Array;
  /** A bit per kind of character fault. */
  readonly lineFaults: Uint8Array;
  readonly line: Uint16Array;
  readonly cause: Uint16Array;
  readonly texts: readonly string[];
  /** Where each entry's bytes end in `bytes`. */
  readonly ends: Uint32Array;
  readonly bytes: Uint8Array;
}

const maskOfFaults = (faults: readonly LineFault[]): number =>
  faults.reduce((mask, name) => mask | (1 << LINE_FAULTS.indexOf(name)), 0);
/** The faults of each mask; nearly all entries have none, and every one that is shown or searched asks. */
const FAULTS_OF_MASK: readonly (readonly LineFault[])[] = Array.from({ length: 1 << 8 }, (_, mask) =>
  LINE_FAULTS.filter((_, i) => mask & (1 << i)),
);

/** Packs entries of one session with consecutive sequence numbers; at least one. */
export function packBlock(entries: readonly TraceEntry[]): TraceBlock {
  const [head] = entries;
  if (!head) throw new RangeError('expected at least one entry');
  const count = entries.length;
  const texts: string[] = [];
  const places = new Map<string, number>();
  const place = (text: string): number => {
    const known = places.get(text);
    if (known !== undefined) return known;
    places.set(text, texts.push(text) - 1);
    return texts.length - 1;
  };
  const bytes = new Uint8Array(entries.reduce((total, entry) => total + entry.bytes.length, 0));
  const block: TraceBlock = {
    session: head.session,
    first: head.sequence,
    count,
    atUs: new Float64Array(count),
    exchange: new Uint32Array(count),
    station: new Uint8Array(count),
    direction: new Uint8Array(count),
    outcome: new Uint8Array(count),
    lineFaults: new Uint8Array(count),
    line: new Uint16Array(count),
    cause: new Uint16Array(count),
    texts,
    ends: new Uint32Array(count),
    bytes,
  };
  // Entry by entry: the page does this in the midst of its work, and a pass for each column takes several times as long.
  let at = 0;
  for (let i = 0; i < count; i++) {
    const entry = entries[i] as TraceEntry;
    block.atUs[i] = entry.atUs;
    block.exchange[i] = entry.exchange;
    block.station[i] = entry.station;
    block.direction[i] = DIRECTIONS.indexOf(entry.direction);
    block.outcome[i] = OUTCOMES.indexOf(entry.outcome);
    if (entry.lineFaults.length > 0) block.lineFaults[i] = maskOfFaults(entry.lineFaults);
    block.line[i] = place(entry.line);
    block.cause[i] = place(entry.cause);
    bytes.set(entry.bytes, at);
    at += entry.bytes.length;
    block.ends[i] = at;
  }
  return block;
}

/** One entry of a block, or null beyond its end. */
export function entryAt(block: TraceBlock, i: number): TraceEntry | null {
  if (i < 0 || i >= block.count) return null;
  const start = i === 0 ? 0 : (block.ends[i - 1] ?? 0);
  return {
    session: block.session,
    sequence: block.first + i,
    line: block.texts[block.line[i] ?? 0] ?? '',
    station: block.station[i] ?? 0,
    atUs: block.atUs[i] ?? 0,
    direction: DIRECTIONS[block.direction[i] ?? 0] ?? 'event',
    bytes: block.bytes.slice(start, block.ends[i] ?? start),
    lineFaults: FAULTS_OF_MASK[block.lineFaults[i] ?? 0] ?? [],
    exchange: block.exchange[i] ?? 0,
    outcome: OUTCOMES[block.outcome[i] ?? 0] ?? 'none',
    cause: block.texts[block.cause[i] ?? 0] ?? '',
  };
}

/** The entries of a packed block; what cannot be unpacked is left out. */
export const unpackBlock = (block: TraceBlock): readonly TraceEntry[] =>
  Array.from({ length: block.count }, (_, i) => entryAt(block, i)).filter((entry) => entry !== null);
