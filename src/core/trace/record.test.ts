import fc from 'fast-check';
import { packBlock } from './block';
import type { TraceEntry } from './entry';
import {
  EMPTY_RECORD,
  endOf,
  entriesOf,
  entryOf,
  firstOf,
  rangeOf,
  requestOf,
  sizeOf,
  withNewer,
  withoutOldest,
  withOlder,
} from './record';

const entry = (session: string, sequence: number, part: Partial<TraceEntry> = {}): TraceEntry => ({
  session,
  sequence,
  line: 'K1',
  station: 3,
  atUs: sequence,
  direction: sequence % 2 === 0 ? 'sent' : 'received',
  bytes: Uint8Array.of(sequence & 0xff),
  lineFaults: [],
  exchange: 1 + (sequence >> 1),
  outcome: 'none',
  cause: 'poll',
  ...part,
});

const run = (session: string, from: number, count: number): readonly TraceEntry[] =>
  Array.from({ length: count }, (_, i) => entry(session, from + i));

it('holds every entry at one place for good, whatever comes before and after it', () => {
  fc.assert(
    fc.property(
      fc.array(fc.record({ older: fc.boolean(), count: fc.integer({ min: 1, max: 700 }) }), { maxLength: 12 }),
      (steps) => {
        let record = EMPTY_RECORD;
        const reference = new Map<number, string>();
        let [next, before] = [0, 0];
        for (const { older, count } of steps) {
          if (older) {
            // Two blocks of an earlier session, whose numbers count down from a million.
            const all = run('earlier', 1e6 - before - count, count);
            const middle = count >> 1;
            const blocks = [all.slice(0, middle), all.slice(middle)].filter((part) => part.length > 0).map(packBlock);
            record = withOlder(record, blocks);
            before += count;
            all.forEach(({ sequence }, i) => reference.set(i - before, `earlier ${sequence}`));
          } else {
            record = withNewer(record, run('now', next, count));
            for (let i = 0; i < count; i++) reference.set(next + i, `now ${next + i}`);
            next += count;
          }
        }
        expect([firstOf(record), endOf(record), sizeOf(record)]).toEqual([0 - before, next, next + before]);
        const places = [...reference.keys()];
        const found = places.map((place) => entryOf(record, place));
        expect(found.map((one) => `${one?.session} ${one?.sequence}`)).toEqual([...reference.values()]);
        expect([entryOf(record, -before - 1), entryOf(record, next)]).toEqual([null, null]);
      },
    ),
    { numRuns: 200, seed: 5 },
  );
});

it('packs what has waited, and gives it back as it was', () => {
  const entries = run('now', 0, 2100);
  const record = withNewer(withNewer(EMPTY_RECORD, entries.slice(0, 1990)), entries.slice(1990));
  expect([record.blocks.length, record.tail.length]).toEqual([1, 0]);
  expect(entries.map((_, place) => entryOf(record, place))).toEqual(entries);
});

it('lets go of its oldest blocks only, and every place left is what it was', () => {
  const record = withNewer(
    withOlder(EMPTY_RECORD, [packBlock(run('earlier', 0, 300)), packBlock(run('earlier', 300, 500))]),
    run('now', 0, 40),
  );
  expect(withoutOldest(record, 840)).toBe(record);
  const shorter = withoutOldest(record, 839);
  expect([firstOf(shorter), endOf(shorter)]).toEqual([-500, 40]);
  for (const place of [-500, -1, 0, 39]) expect(entryOf(shorter, place)).toEqual(entryOf(record, place));
  expect(entryOf(shorter, -501)).toBeNull();
  expect(sizeOf(withoutOldest(record, 0))).toBe(40);
});

it('finds the request of a reply over other lines’ entries and over a block’s edge, and none in another session', () => {
  const sent = entry('now', 0, { exchange: 9 });
  const between = Array.from({ length: 100 }, (_, i) => entry('now', i + 1, { exchange: 500 + i }));
  const reply = entry('now', 101, { exchange: 9, direction: 'received' });
  const far = entry('now', 201, { exchange: 9, direction: 'received' });
  const others = Array.from({ length: 99 }, (_, i) => entry('now', 102 + i, { exchange: 700 + i }));
  const record = withNewer(withOlder(EMPTY_RECORD, [packBlock([sent, ...between])]), [reply, ...others, far]);
  expect(requestOf(record, 0)).toEqual(sent);
  expect(requestOf(record, -101)).toBeNull();
  expect(requestOf(record, 100)).toBeNull();
  const foreign = withNewer(withOlder(EMPTY_RECORD, [packBlock([entry('earlier', 0, { exchange: 9 })])]), [
    entry('now', 0, { exchange: 9, direction: 'received' }),
  ]);
  expect(requestOf(foreign, 0)).toBeNull();
});

it('tells where a session lies, and gives one station’s entries between two places', () => {
  const mixed = (session: string, count: number) =>
    run(session, 0, count).map((one) => ({
      ...one,
      line: one.sequence % 3 === 0 ? 'K2' : 'K1',
      station: one.sequence % 5,
    }));
  const [earlier, last, now] = [mixed('earlier', 900), mixed('last', 500), mixed('now', 2300)];
  let record = withOlder(EMPTY_RECORD, [last].map(packBlock));
  record = withOlder(record, [earlier.slice(0, 400), earlier.slice(400)].map(packBlock));
  record = withNewer(withNewer(record, now.slice(0, 2100)), now.slice(2100));
  expect([rangeOf(record, 'earlier'), rangeOf(record, 'last'), rangeOf(record, 'now')]).toEqual([
    { from: -1400, until: -500 },
    { from: -500, until: 0 },
    { from: 0, until: 2300 },
  ]);
  const { from, until } = rangeOf(record, 'nobody');
  expect(until - from).toBe(0);
  const all = [...earlier, ...last, ...now];
  const own = (one: TraceEntry) => one.line === 'K1' && one.station === 2;
  expect(entriesOf(record, -1400, 2300, 'K1', 2)).toEqual(all.filter(own));
  expect(entriesOf(record, -1010, 2205, 'K1', 2)).toEqual(all.slice(390, 3605).filter(own));
  expect(entriesOf(record, -5000, 2300, 'K1', 2)).toEqual(all.filter(own));
  expect(entriesOf(record, -1400, 2300, 'K9', 2)).toEqual([]);
});

it('a reply finds the request of its own line: each line counts its exchanges for itself', () => {
  const record = withNewer(EMPTY_RECORD, [
    entry('s', 0, { line: 'K1', exchange: 1, direction: 'sent' }),
    entry('s', 1, { line: 'K2', exchange: 1, direction: 'sent' }),
    entry('s', 2, { line: 'K1', exchange: 1, direction: 'received' }),
  ]);
  expect(requestOf(record, 2)?.line).toBe('K1');
});
