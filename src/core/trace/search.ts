import { hexToBytes } from '../bytes/hex';
import { packBlock, type TraceBlock } from './block';
import { DIRECTIONS, OUTCOMES } from './entry';
import { blockOf, endOf, firstOf, type TraceRecord } from './record';
import { FAULTY } from './text';
import { daySpan, isInSpan, type DaySpan } from './time-term';

/** One thing that an entry must have. Words are looked for in its outcome, its cause, its bytes and its meaning. */
export type TraceTerm =
  | { readonly kind: 'station'; readonly station: number }
  | { readonly kind: 'faults' }
  /** What was not sent over and over by itself; a poll that went wrong is shown all the same. */
  | { readonly kind: 'no-polls' }
  | { readonly kind: 'time'; readonly span: DaySpan }
  | { readonly kind: 'words'; readonly words: string; readonly bytes: Uint8Array | null };

type Words = Extract<TraceTerm, { readonly kind: 'words' }>;
type Glance = Exclude<TraceTerm, Words>;

/** The term that leaves out what repeats by itself. */
export const NO_POLLS = 'no polls';
const REPEATED: ReadonlySet<string> = new Set(['poll', 'keep-alive', 'kept alive']);
const BYTES = /^[0-9a-f]{2}( [0-9a-f]{2})*$/;

/** What a filter asks for: terms between commas, all of which must hold. `station 3, late`; `02 C3`; `faults`; `no polls`; `10:15-10:20`. */
export function traceTerms(text: string): readonly TraceTerm[] {
  return text
    .toLowerCase()
    .split(',')
    .map((term) => term.trim())
    .filter((term) => term !== '')
    .map((words): TraceTerm => {
      const station = /^station (\d{1,3})$/.exec(words)?.[1];
      if (station !== undefined) return { kind: 'station', station: parseInt(station, 10) };
      if (words === 'faults') return { kind: 'faults' };
      if (words === NO_POLLS) return { kind: 'no-polls' };
      const span = daySpan(words);
      if (span) return { kind: 'time', span };
      const bytes = BYTES.test(words) ? hexToBytes(words) : null;
      return { kind: 'words', words, bytes: bytes?.ok ? bytes.value : null };
    });
}

/** What only others know of an entry. */
export interface TraceKnowledge {
  /** Tells of the entry at a place whether its meaning has these words, in small letters; asked only where nothing else has them. */
  readonly saying: (words: string) => (record: TraceRecord, place: number) => boolean;
  /** The second of the day in which a session began. */
  readonly beganAt: (session: string) => number;
}

/** Entries gone through between two looks at the clock: columns alone, and where meanings are read too. */
const COLUMNS_AT_ONCE = 2000;
const MEANINGS_AT_ONCE = 100;

/**
 * The entries of a record that have all terms, found newest first, so that the end of the list shows at once.
 * It goes on from call to call: new entries first, then older ones, also those that the record got meanwhile.
 */
export class TraceSearch {
  /** Places found: of what was there when the search began, newest first, and of what came since, oldest first. */
  readonly older: number[] = [];
  readonly newer: number[] = [];
  readonly #glances: readonly Glance[];
  /** What takes a glance leaves less for what must be read. */
  readonly #words: readonly (Words & { readonly isSaid: (record: TraceRecord, place: number) => boolean })[];
  readonly #knowledge: TraceKnowledge;
  readonly #atOnce: number;
  #low: number;
  #high: number;
  #kept = new Uint32Array(COLUMNS_AT_ONCE);

  constructor(terms: readonly TraceTerm[], record: TraceRecord, knowledge: TraceKnowledge) {
    this.#glances = terms.filter((term) => term.kind !== 'words');
    this.#words = terms
      .filter((term) => term.kind === 'words')
      .map((term) => ({ ...term, isSaid: knowledge.saying(term.words) }));
    this.#knowledge = knowledge;
    this.#atOnce = this.#words.length > 0 ? MEANINGS_AT_ONCE : COLUMNS_AT_ONCE;
    this.#low = this.#high = endOf(record);
  }

  /** Entries gone through so far. */
  get looked(): number {
    return this.#high - this.#low;
  }

  /** Goes on until all is gone through, which it says, or until `isOver` says that time is up. */
  step(record: TraceRecord, isOver: () => boolean): boolean {
    const [first, end] = [firstOf(record), endOf(record)];
    while (this.#high < end) {
      const { block, start, from, until } = this.#stretch(record, this.#high, 1);
      const count = this.#narrow(record, block, start, from, until);
      for (let k = 0; k < count; k++) this.newer.push(start + (this.#kept[k] as number));
      this.#high = start + until;
      if (isOver()) return false;
    }
    while (this.#low > first) {
      const { block, start, from, until } = this.#stretch(record, this.#low - 1, -1);
      const count = this.#narrow(record, block, start, from, until);
      for (let k = count - 1; k >= 0; k--) this.older.push(start + (this.#kept[k] as number));
      this.#low = start + from;
      if (isOver()) return false;
    }
    return true;
  }

  /** The entries of one block that are gone through next, from `place` on forward or backward. */
  #stretch(record: TraceRecord, place: number, way: 1 | -1) {
    const at = blockOf(record, place);
    const known = record.blocks[at];
    const blockStart = record.starts[at] ?? record.tailStart;
    const size = known?.count ?? record.tail.length;
    const offset = place - blockStart;
    const from = way === 1 ? offset : Math.max(0, offset + 1 - this.#atOnce);
    const until = way === 1 ? Math.min(size, offset + this.#atOnce) : offset + 1;
    if (known) return { block: known, start: blockStart, from, until };
    // What is not packed yet is packed for this look: one way to go through columns is enough.
    const block = packBlock(record.tail.slice(from, until));
    return { block, start: blockStart + from, from: 0, until: until - from };
  }

  /** Leaves in `#kept` those of a block's entries that have every term; how many they are. */
  #narrow(record: TraceRecord, block: TraceBlock, start: number, from: number, until: number): number {
    const kept = this.#kept;
    let count = until - from;
    for (let k = 0; k < count; k++) kept[k] = from + k;
    for (const term of this.#glances) {
      const size = count;
      count = 0;
      if (term.kind === 'station') {
        const { station } = block;
        for (let k = 0; k < size; k++) {
          const i = kept[k] as number;
          if (station[i] === term.station) kept[count++] = i;
        }
      } else if (term.kind === 'faults') {
        const { outcome } = block;
        for (let k = 0; k < size; k++) {
          const i = kept[k] as number;
          if (FAULTY_OUTCOMES[outcome[i] as number]) kept[count++] = i;
        }
      } else if (term.kind === 'no-polls') {
        const { outcome, cause, texts } = block;
        const repeated = texts.map((text) => REPEATED.has(text));
        for (let k = 0; k < size; k++) {
          const i = kept[k] as number;
          if (!repeated[cause[i] as number] || FAULTY_OUTCOMES[outcome[i] as number]) kept[count++] = i;
        }
      } else {
        const { atUs } = block;
        const began = this.#knowledge.beganAt(block.session);
        for (let k = 0; k < size; k++) {
          const i = kept[k] as number;
          if (isInSpan(term.span, began + (atUs[i] as number) / 1e6)) kept[count++] = i;
        }
      }
    }
    for (const { words, bytes, isSaid } of this.#words) {
      const size = count;
      count = 0;
      const has = wordsIn(block, words, bytes);
      for (let k = 0; k < size; k++) {
        const i = kept[k] as number;
        if (has(i) || isSaid(record, start + i)) kept[count++] = i;
      }
    }
    return count;
  }
}

const FAULTY_OUTCOMES: readonly boolean[] = OUTCOMES.map((outcome) => FAULTY.has(outcome));

/** Whether outcome, direction, cause or bytes of a block's entry have these words; the first three are looked up once a block. */
function wordsIn(block: TraceBlock, words: string, wanted: Uint8Array | null): (i: number) => boolean {
  const outcomes = OUTCOMES.map((outcome) => outcome.includes(words));
  const directions = DIRECTIONS.map((direction) => direction.includes(words));
  const texts = block.texts.map((text) => text.toLowerCase().includes(words));
  return (i) =>
    outcomes[block.outcome[i] as number] === true ||
    directions[block.direction[i] as number] === true ||
    texts[block.cause[i] as number] === true ||
    texts[block.line[i] as number] === true ||
    (wanted !== null &&
      hasBytes(block.bytes, i === 0 ? 0 : (block.ends[i - 1] as number), block.ends[i] as number, wanted));
}

function hasBytes(bytes: Uint8Array, from: number, until: number, wanted: Uint8Array): boolean {
  for (let at = from; at + wanted.length <= until; at++) {
    let k = 0;
    while (k < wanted.length && bytes[at + k] === wanted[k]) k++;
    if (k === wanted.length) return true;
  }
  return false;
}
