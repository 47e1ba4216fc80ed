import { benchAt } from '../../../tests/harness/bench';
import { exchangeOf } from '../../../tests/harness/streams';
import { pick, seededRandom } from '../../core/random/random';
import { packBlock } from '../../core/trace/block';
import type { TraceEntry } from '../../core/trace/entry';
import {
  EMPTY_RECORD,
  endOf,
  entryOf,
  firstOf,
  requestOf,
  withNewer,
  withOlder,
  type TraceRecord,
} from '../../core/trace/record';
import { traceTerms, TraceSearch } from '../../core/trace/search';
import { textOf } from '../../core/trace/text';
import type { TraceSearchAnswer } from '../../messages/trace-search';
import { SearchHost } from '../../workers/search-host';
import { protocolOn } from '../hooks/line-protocol';
import { indexOf } from '../state/bench-state';
import { TraceSearcher } from './trace-searcher';

const random = seededRandom(8);

function entries(line: string, session: string, from: number, count: number): readonly TraceEntry[] {
  return Array.from({ length: count / 2 }, (_, i) => {
    const station = pick(random, 2) === 0 ? 3 : 7;
    const common = { session, line, station, lineFaults: [], exchange: from + i + 1, cause: 'poll' };
    return exchangeOf(random)
      .slice(0, 2)
      .map((bytes, k): TraceEntry => ({
        ...common,
        sequence: from + 2 * i + k,
        atUs: from + i,
        direction: k === 0 ? 'sent' : 'received',
        bytes,
        outcome: k === 0 ? 'none' : 'answered',
      }));
  }).flat();
}

/** So many older blocks of a line, and what came since. */
function recordOf(blocks: number): { readonly lineId: string; readonly record: TraceRecord } {
  const { lineId } = benchAt('K1', 3).bench.state.getState();
  const older = Array.from({ length: blocks }, (_, i) => packBlock(entries(lineId, 'earlier', 40 * i, 40)));
  return { lineId, record: withNewer(withOlder(EMPTY_RECORD, older), entries(lineId, 'now', 0, 30)) };
}

/** A page and its worker in one place; a turn of either is a step of the timers. */
function both(record: TraceRecord) {
  const { bench } = benchAt('K1', 3);
  bench.state.setState({ record });
  const found: { older: number[]; newer: number[]; looked: number } = { older: [], newer: [], looked: 0 };
  let now = 0;
  let searcher: TraceSearcher | null = null;
  const host = new SearchHost(
    (answer: TraceSearchAnswer) => searcher?.answered(answer),
    () => new Promise((resolve) => setTimeout(resolve)),
    // Each look at the clock is a long time: a slice is one stretch.
    () => (now += 100),
  );
  searcher = new TraceSearcher(
    { post: (question) => void host.take(question), end: () => undefined },
    bench.state.getState,
  );
  const search = (text: string): void => {
    Object.assign(found, { older: [], newer: [], looked: 0 });
    searcher?.search(text, ({ older, newer, looked }) => {
      found.older.push(...older);
      found.newer.push(...newer);
      found.looked = looked;
    });
  };
  return { bench, searcher, search, found };
}

const plainly = (record: TraceRecord, text: string, bench: ReturnType<typeof both>['bench']): readonly number[] => {
  const search = new TraceSearch(traceTerms(text), record, {
    saying: (words) => (own, place) => {
      const entry = entryOf(own, place)!;
      const state = bench.state.getState();
      const { line, station } = entry;
      const meaning = textOf(entry, requestOf(own, place), indexOf(state, line, station), protocolOn(state, line));
      return meaning.toLowerCase().includes(words);
    },
    beganAt: () => 0,
  });
  search.step(record, () => false);
  return [...[...search.older].reverse(), ...search.newer];
};

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

it('finds what a plain search finds, newest first, while older blocks are handed over and new entries come', async () => {
  const { lineId, record } = recordOf(45);
  const { bench, searcher, search, found } = both(record);
  search('coil');
  await jest.advanceTimersByTimeAsync(1);
  expect(found.looked).toBeLessThan(1830);
  const grown = withNewer(record, entries(lineId, 'now', 30, 2100));
  bench.state.setState({ record: grown });
  searcher.feed();
  await jest.advanceTimersByTimeAsync(1000);
  expect(found.looked).toBe(endOf(grown) - firstOf(grown));
  expect(found.older).toEqual([...found.older].sort((a, b) => b - a));
  expect([...[...found.older].reverse(), ...found.newer]).toEqual(plainly(grown, 'coil', bench));
  expect(found.older.length + found.newer.length).toBeGreaterThan(10);
  // Another filter ends the first, over what is there already.
  search('station 7, write');
  await jest.advanceTimersByTimeAsync(1000);
  expect([...[...found.older].reverse(), ...found.newer]).toEqual(plainly(grown, 'station 7, write', bench));
  searcher.end();
});

it('a search that begins later finds what came since the worker was given the record', async () => {
  const { lineId, record } = recordOf(25);
  const { bench, searcher, search, found } = both(record);
  await jest.advanceTimersByTimeAsync(1000);
  const grown = withNewer(record, entries(lineId, 'now', 30, 200));
  bench.state.setState({ record: grown });
  await jest.advanceTimersByTimeAsync(1000);
  search('coil');
  await jest.advanceTimersByTimeAsync(1000);
  expect(found.looked).toBe(endOf(grown) - firstOf(grown));
  expect([...[...found.older].reverse(), ...found.newer]).toEqual(plainly(grown, 'coil', bench));
  expect(found.older.some((place) => place >= endOf(record))).toBe(true);
  searcher.end();
});

it('what a search still finds is not told once another kind of filter took its place', async () => {
  const { searcher, search, found } = both(recordOf(45).record);
  search('coil');
  await jest.advanceTimersByTimeAsync(1);
  searcher.forget();
  const then = found.looked;
  await jest.advanceTimersByTimeAsync(1000);
  expect(found.looked).toBe(then);
  search('coil');
  await jest.advanceTimersByTimeAsync(1000);
  expect(found.looked).toBe(45 * 40 + 30);
  searcher.end();
});
