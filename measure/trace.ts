import { RTU } from '../src/core/modbus/framing';
import { modbusProtocol } from '../src/core/protocol/modbus-protocol';
import { pick, seededRandom } from '../src/core/random/random';
import { packBlock } from '../src/core/trace/block';
import type { TraceEntry } from '../src/core/trace/entry';
import { EMPTY_RECORD, withOlder, type TraceRecord } from '../src/core/trace/record';
import { traceTerms, TraceSearch } from '../src/core/trace/search';
import { Meanings } from '../src/core/trace/meanings';
import { exchangeOf } from '../tests/harness/streams';
import { claim, note, race } from './measure';

const COUNT = 1_000_000;
const BLOCK = 2000;
/** Rows on a tall screen. */
const SCREEN = 40;

/** A record of exchanges with forty stations. `different`: so many exchanges that go round; absent: each is another one. */
function recordOf(count: number, different = Infinity): TraceRecord {
  const random = seededRandom(11);
  const known: (readonly [readonly Uint8Array[], number])[] = [];
  const exchange = (): readonly [readonly Uint8Array[], number] => {
    const again = known.length < different ? undefined : known[pick(random, known.length)];
    if (again) return again;
    const made = [exchangeOf(random).slice(0, 2), pick(random, 40)] as const;
    if (different < Infinity) known.push(made);
    return made;
  };
  const blocks = [];
  for (let first = 0; first < count; first += BLOCK) {
    const entries: TraceEntry[] = [];
    while (entries.length < BLOCK) {
      const [bytesOfBoth, station] = exchange();
      for (const [i, bytes] of bytesOfBoth.entries())
        entries.push({
          session: 's',
          sequence: first + entries.length,
          line: 'K1',
          station,
          atUs: 1000 * (first + entries.length),
          direction: i === 0 ? 'sent' : 'received',
          bytes,
          lineFaults: [],
          exchange: (first + entries.length + 2) >> 1,
          outcome: i === 0 ? 'none' : 'answered',
          cause: 'poll',
        });
    }
    blocks.push(packBlock(entries.slice(0, BLOCK)));
  }
  return withOlder(EMPTY_RECORD, blocks);
}

const never = (): boolean => false;

/** Filters over the record of a million entries, as the trace panel runs them. */
export function traceBench(): void {
  const record = recordOf(COUNT);
  const protocol = modbusProtocol(RTU);
  const speaks = () => ({ protocol, index: null });
  const searchIn = (own: TraceRecord, text: string, meanings = new Meanings(speaks, () => null)): TraceSearch =>
    new TraceSearch(traceTerms(text), own, { saying: (words) => meanings.saying(words), beganAt: () => 0 });
  const [plain, ours] = race([
    {
      name: 'a plain scan',
      work: () => {
        const found: number[] = [];
        for (const { station, count } of record.blocks)
          for (let i = 0; i < count; i++) if (station[i] === 7) found.push(i);
        return found.length;
      },
    },
    {
      name: 'the filter',
      work: () => {
        const own = searchIn(record, 'station 7');
        own.step(record, never);
        return own.older.length;
      },
    },
  ]);
  claim(
    'a column filter over a trace of 1,000,000 entries against a plain scan of the column',
    (ours?.bestMs ?? NaN) / (plain?.bestMs ?? NaN),
    { atMost: 3 },
  );
  /** As the worker goes through it: for words, and then for others, as with each further letter that is typed. */
  const wordsIn = (own: TraceRecord): readonly [firstMs: number, againMs: number] => {
    const meanings = new Meanings(speaks, () => null);
    const [firstMs = NaN, againMs = NaN] = ['coil', 'register'].map((words) => {
      const begun = performance.now();
      searchIn(own, words, meanings).step(own, never);
      return performance.now() - begun;
    });
    return [firstMs, againMs];
  };
  const polled = wordsIn(recordOf(COUNT, 2000));
  const different = wordsIn(record);
  const told = ([firstMs, againMs]: typeof polled) =>
    `${firstMs.toFixed(0)} ms, the next words ${againMs.toFixed(0)} ms`;
  note(`words in 1,000,000 entries where 2000 exchanges go round: ${told(polled)}`);
  note(`words in 1,000,000 entries of which no two are alike: ${told(different)}`);
  claim('words in a trace of exchanges that go round against one where no two are alike', polled[0] / different[0], {
    atMost: 0.25,
  });
  claim('the next words where no two are alike against the first', different[1] / different[0], { atMost: 0.2 });
  const words = searchIn(record, 'coil');
  const start = performance.now();
  while (words.older.length < SCREEN && !words.step(record, () => true));
  const screenMs = performance.now() - start;
  words.step(record, never);
  const wholeMs = performance.now() - start;
  note(
    `words in the meaning of 1,000,000 entries: a screen of ${SCREEN} after ${screenMs.toFixed(1)} ms, all ${words.older.length} after ${wholeMs.toFixed(0)} ms`,
  );
  claim('the first screen of a text filter against the whole search', screenMs / wholeMs, { atMost: 0.02 });
}
