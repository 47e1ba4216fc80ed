import { frameIndexOf } from '../../../tests/harness/frame-index';
import { pick, seededRandom, type Random } from '../random/random';
import type { FrameEntry, FrameFilter, FrameIndex } from './frame-index';
import { Selection } from './selection';

type Times = 'none' | 'whole' | 'fractions' | 'from a fraction' | 'some';

const TIMES: Readonly<Record<Times, (i: number) => number>> = {
  none: () => NaN,
  whole: (i) => 1e15 + i * 1500,
  fractions: (i) => i * 1000.25,
  'from a fraction': (i) => 0.1 + i * 1_000_003,
  some: (i) => (i % 3 === 0 ? NaN : i * 10),
};

/** Frames of every kind: exchanges and lost answers, answers near and far, noise of any length, registers over the whole range. */
function anyEntries(random: Random, count: number, times: Times): readonly FrameEntry[] {
  const entries: FrameEntry[] = [];
  const open: number[] = [];
  let offset = pick(random, 1000);
  for (let i = 0; i < count; i++) {
    const length = pick(random, 50) === 0 ? 1 + pick(random, 70_000) : 8 + pick(random, 4);
    const base = { offset, length, timeUs: TIMES[times](i), tcp: pick(random, 9) === 0, partner: -1 };
    offset += length;
    const kind = pick(random, 10);
    if (kind === 0) {
      const nothing = { unit: 0, fc: 0, address: 0, quantity: 0 };
      entries.push({ ...base, ...nothing, direction: 'junk', fault: true, exception: false });
      continue;
    }
    // Mostly the last open request is answered, now and then one from long ago.
    const asked = kind < 5 ? open.splice(pick(random, 30) === 0 ? 0 : -1, 1)[0] : undefined;
    const request = asked === undefined ? undefined : entries[asked];
    if (asked !== undefined && request) {
      entries[asked] = { ...request, partner: i };
      const { unit, fc, address, quantity } = request;
      const exception = pick(random, 5) === 0;
      entries.push({
        ...base,
        unit,
        fc,
        address,
        quantity,
        direction: 'response',
        fault: false,
        exception,
        partner: asked,
      });
      continue;
    }
    open.push(i);
    const addresses = pick(random, 4) === 0 ? 65_536 : 20;
    entries.push({
      ...base,
      unit: pick(random, 256),
      fc: pick(random, 128),
      address: pick(random, addresses),
      quantity: pick(random, 126),
      direction: 'request',
      fault: pick(random, 20) === 0,
      exception: false,
    });
  }
  return entries;
}

const all = (index: FrameIndex): readonly (FrameEntry | null)[] =>
  Array.from({ length: index.count }, (_, place) => index.at(place));
const placesOf = (found: Selection): readonly number[] => [...found.slice(0, found.count)];

/** The same question, asked of each entry by itself. */
function lets({ unit, fc, register, only, fromUs, toUs }: FrameFilter, entry: FrameEntry): boolean {
  const isFrame = entry.direction !== 'junk';
  return (
    (unit === undefined || (isFrame && entry.unit === unit)) &&
    (fc === undefined || (isFrame && entry.fc === fc)) &&
    (register === undefined || (isFrame && entry.address <= register && register < entry.address + entry.quantity)) &&
    (only !== 'faults' || entry.fault) &&
    (only !== 'exceptions' || entry.exception) &&
    (only !== 'unanswered' || (entry.direction === 'request' && entry.partner < 0)) &&
    (fromUs === undefined || entry.timeUs >= fromUs) &&
    (toUs === undefined || entry.timeUs <= toUs)
  );
}

/** Two full blocks and a part of a third. */
const COUNT = 10_000;

const FILTERS: readonly FrameFilter[] = [
  {},
  { unit: 2 },
  { fc: 3 },
  { register: 10 },
  { register: 65_535 },
  { only: 'faults' },
  { only: 'exceptions' },
  { only: 'unanswered' },
  { unit: 0, only: 'unanswered' },
  { fromUs: 100_000, toUs: 9_000_000 },
  { fromUs: 1e15 + 3_000_000, only: 'exceptions' },
];

describe('the index of a capture', () => {
  it.each(['none', 'whole', 'fractions', 'from a fraction', 'some'] as const)(
    'gives back every frame as it was put in, and filters as a plain comparison does (times: %s)',
    (times) => {
      const entries = anyEntries(seededRandom(8), COUNT, times);
      const index = frameIndexOf(entries);
      expect(all(index)).toEqual(entries);
      expect([index.at(-1), index.at(COUNT)]).toEqual([null, null]);
      for (const filter of FILTERS) {
        const wanted = entries.flatMap((entry, place) => (lets(filter, entry) ? [place] : []));
        expect([filter, placesOf(index.filter(filter))]).toEqual([filter, wanted]);
      }
    },
  );

  it('ties an answer to its request however long ago that was, while frames go on coming', () => {
    const entries = anyEntries(seededRandom(9), 20_000, 'none').map((entry) => ({ ...entry, partner: -1 }));
    const index = frameIndexOf(entries);
    const requests = entries.flatMap(({ direction }, place) => (direction === 'request' ? [place] : []));
    const [first = 0, last = 0] = [requests[0], requests.at(-1)];
    index.tie(first, 19_998);
    index.tie(last, 30_000);
    expect([index.at(first)?.partner, index.at(last)?.partner]).toEqual([19_998, 30_000]);
    expect(placesOf(index.filter({ only: 'unanswered' }))).toEqual(requests.slice(1, -1));
  });

  it('gives back frames of which hardly two are alike, and filters them, over several lists of kinds', () => {
    const entries = anyEntries(seededRandom(10), 30_000, 'none').map((entry, i) =>
      entry.direction === 'request' ? { ...entry, address: (i * 7919) % 65_536 } : entry,
    );
    const index = frameIndexOf(entries);
    const lists = new Set([...index.blocks()].map(({ kinds }) => kinds));
    expect(lists.size).toBeGreaterThan(2);
    expect(all(index)).toEqual(entries);
    for (const filter of FILTERS) {
      const wanted = entries.flatMap((entry, place) => (lets(filter, entry) ? [place] : []));
      expect([filter, placesOf(index.filter(filter))]).toEqual([filter, wanted]);
    }
  });

  it('two captures that are read in turns keep apart', () => {
    const [entries, others] = [11, 12].map((seed) => anyEntries(seededRandom(seed), 20_000, 'none')) as [
      readonly FrameEntry[],
      readonly FrameEntry[],
    ];
    function* inTurns() {
      for (const [i, entry] of entries.entries()) {
        if (i % 6000 === 5999) expect(all(frameIndexOf(others))).toEqual(others);
        yield entry;
      }
    }
    expect(all(frameIndexOf(inTurns()))).toEqual(entries);
  });

  /** So many exchanges, one after the other, over and over. */
  const polled = (exchanges: number, times: Times): FrameIndex =>
    frameIndexOf(
      Array.from({ length: 100_000 }, (_, i): FrameEntry => {
        const n = (i >> 1) % exchanges;
        const isRequest = i % 2 === 0;
        return {
          offset: 10 * i,
          length: 10,
          timeUs: TIMES[times](i),
          unit: 1 + (n % 247),
          fc: 3,
          direction: isRequest ? 'request' : 'response',
          fault: false,
          exception: false,
          tcp: false,
          address: 10 * n,
          quantity: 2,
          partner: isRequest ? i + 1 : i - 1,
        };
      }),
    );

  it('costs two bytes a frame of a line that is polled, six with times', () => {
    expect(polled(72, 'none').bytes / 100_000).toBeLessThan(2);
    expect(polled(72, 'whole').bytes / 100_000).toBeLessThan(6);
  });

  it('costs hardly more where thousands of different exchanges go round', () => {
    expect(polled(3000, 'none').bytes / 100_000).toBeLessThan(4);
  });
});

it('what is put into a selection while it is gone through is not among its batches', () => {
  const selection = new Selection(100);
  for (const place of [3, 5, 8]) selection.add(place);
  const batches: number[][] = [];
  for (const batch of selection.batches(2)) {
    batches.push([...batch]);
    selection.add(20 + batches.length);
  }
  expect([batches, selection.count]).toEqual([[[3, 5], [8]], 5]);
});

it('a selection gives its places from anywhere, in any portions', () => {
  const random = seededRandom(4);
  for (const share of [1, 40, 9000]) {
    const places = Array.from({ length: 60_000 }, (_, place) => place).filter(() => pick(random, share) === 0);
    const selection = new Selection(60_000);
    for (const place of places) selection.add(place);
    expect(selection.count).toBe(places.length);
    for (let i = 0; i < 200; i++) {
      const [from, count] = [pick(random, places.length + 2), pick(random, 5000)];
      expect([...selection.slice(from, count)]).toEqual(places.slice(from, from + count));
    }
    expect([...selection.batches(777)].flatMap((batch) => [...batch])).toEqual(places);
  }
});
