import { RTU } from '../src/core/modbus/framing';
import { modbusProtocol } from '../src/core/protocol/modbus-protocol';
import { pick, seededRandom } from '../src/core/random/random';
import { packBlock } from '../src/core/trace/block';
import type { TraceEntry } from '../src/core/trace/entry';
import { EMPTY_RECORD, entryOf, requestOf, withOlder, type TraceRecord } from '../src/core/trace/record';
import { traceTerms, TraceSearch } from '../src/core/trace/search';
import { textOf } from '../src/core/trace/text';
import { exchangeOf } from '../tests/harness/streams';
import { claim, note, race } from './measure';

const COUNT = 1_000_000;
const BLOCK = 2000;
/** Rows on a tall screen. */
const SCREEN = 40;

/** A record of exchanges with forty stations. */
function recordOf(count: number): TraceRecord {
  const random = seededRandom(11);
  const blocks = [];
  for (let first = 0; first < count; first += BLOCK) {
    const entries: TraceEntry[] = [];
    while (entries.length < BLOCK) {
      const station = pick(random, 40);
      for (const [i, bytes] of exchangeOf(random).slice(0, 2).entries())
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
  const search = (text: string): TraceSearch =>
    new TraceSearch(traceTerms(text), record, {
      meaning: (whole, place) => {
        const entry = entryOf(whole, place);
        return entry ? textOf(entry, requestOf(whole, place), null, protocol) : '';
      },
      beganAt: () => 0,
    });
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
        const own = search('station 7');
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
  const words = search('coil');
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
