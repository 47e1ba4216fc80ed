import {
  bytesOfEntries,
  frameIndexOf,
  nothingAgain,
  wholeEntries,
  type WholeEntry,
} from '../../../tests/harness/frame-index';
import { pick, seededRandom, type Random } from '../random/random';
import { filterFrames, type FrameFilter } from './frame-filter';
import { BLOCK } from './frame-block';
import type { FrameIndex, ReadAgain } from './frame-index';
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
function anyEntries(random: Random, count: number, times: Times): readonly WholeEntry[] {
  const entries: WholeEntry[] = [];
  const open: number[] = [];
  let offset = pick(random, 1000);
  for (let i = 0; i < count; i++) {
    const length = pick(random, 50) === 0 ? 8 + pick(random, 70_000) : 8 + pick(random, 4);
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

const placesOf = (found: Selection): readonly number[] => [...found.slice(0, found.count)];

/** The same question, asked of each entry by itself. */
function lets({ unit, fc, register, only, fromUs, toUs }: FrameFilter, entry: WholeEntry): boolean {
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

/** An index gives back these frames, and filters them as a plain comparison does. */
async function expectAll(index: FrameIndex, entries: readonly WholeEntry[], readAgain: ReadAgain): Promise<void> {
  expect(await wholeEntries(index, readAgain)).toEqual(entries);
  for (const filter of FILTERS) {
    const wanted = entries.flatMap((entry, place) => (lets(filter, entry) ? [place] : []));
    const found = await filterFrames(index, filter, readAgain);
    expect([filter, placesOf(found!)]).toEqual([filter, wanted]);
  }
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

/** So many exchanges, one after the other, over and over. */
const polledEntries = (exchanges: number, times: Times, count: number, offset = 0, place = 0): readonly WholeEntry[] =>
  Array.from({ length: count }, (_, i): WholeEntry => {
    const n = (i >> 1) % exchanges;
    const isRequest = i % 2 === 0;
    return {
      offset: offset + 10 * i,
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
      partner: place + (isRequest ? i + 1 : i - 1),
    };
  });

describe('the index of a capture', () => {
  it.each(['none', 'whole', 'fractions', 'from a fraction', 'some'] as const)(
    'gives back every frame as it was put in, and filters as a plain comparison does (times: %s)',
    async (times) => {
      const entries = anyEntries(seededRandom(8), COUNT, times);
      const index = frameIndexOf(entries);
      await expectAll(index, entries, nothingAgain);
      expect([index.at(-1), index.at(COUNT)]).toEqual([null, null]);
    },
  );

  it('ties an answer to its request however long ago that was, while frames go on coming', async () => {
    const entries = anyEntries(seededRandom(9), 20_000, 'none').map((entry) => ({ ...entry, partner: -1 }));
    const index = frameIndexOf(entries);
    const requests = entries.flatMap(({ direction }, place) => (direction === 'request' ? [place] : []));
    const [first = 0, last = 0] = [requests[0], requests.at(-1)];
    index.tie(first, 19_998);
    index.tie(last, 30_000);
    expect([index.at(first)?.partner, index.at(last)?.partner]).toEqual([19_998, 30_000]);
    expect(placesOf((await filterFrames(index, { only: 'unanswered' }, nothingAgain))!)).toEqual(requests.slice(1, -1));
  });

  /** Frames of which hardly two are alike. */
  const unlike = (seed: number, count: number, times: Times): readonly WholeEntry[] => {
    const entries = anyEntries(seededRandom(seed), count, times);
    const address = (place: number): number => (place * 7919) % 65_536;
    return entries.map((entry, i) => {
      if (entry.direction === 'request') return { ...entry, address: address(i) };
      return entry.partner < 0 ? entry : { ...entry, address: address(entry.partner) };
    });
  };

  it('gives back frames of which hardly two are alike, and filters them, over several lists of kinds', async () => {
    const entries = unlike(10, 30_000, 'none');
    const index = frameIndexOf(entries);
    const lists = new Set([...index.outlines()].map(({ block }) => block.kinds));
    expect(lists.size).toBeGreaterThan(2);
    await expectAll(index, entries, nothingAgain);
  });

  it.each(['none', 'whole', 'some'] as const)(
    'where their kinds may take no room it keeps outlines, and reads the rest again (times: %s)',
    async (times) => {
      const entries = unlike(13, 40_000, times);
      const index = frameIndexOf(entries, 0);
      expect([...index.outlines()].filter(({ block }) => !block.isWhole).length).toBeGreaterThan(4);
      await expectAll(index, entries, bytesOfEntries(entries));
    },
  );

  it('reads nothing again for what outlines tell', async () => {
    const entries = unlike(14, 40_000, 'whole');
    const index = frameIndexOf(entries, 0);
    for (const filter of [{}, { only: 'unanswered' }, { only: 'exceptions' }, { fromUs: 1e15 + 9e6 }] as const)
      expect((await filterFrames(index, filter, nothingAgain))?.count).toBe(
        entries.filter((entry) => lets(filter, entry)).length,
      );
    await expect(filterFrames(index, { unit: 3 }, nothingAgain)).rejects.toThrow('were asked for again');
  });

  it('reads again in pieces of some megabytes, each byte once, and hardly further when it is told to end', async () => {
    const entries = unlike(15, 50_000, 'none');
    const readAgain = bytesOfEntries(entries);
    const index = frameIndexOf(entries, 0);
    const read: [number, number][] = [];
    const noting: ReadAgain = (from, until) => {
      read.push([from, until]);
      return readAgain(from, until);
    };
    await filterFrames(index, { fc: 3 }, noting);
    expect(read.length).toBeGreaterThan(2);
    for (const [i, [from, until]] of read.entries()) {
      expect(from).toBeGreaterThanOrEqual(read[i - 1]?.[1] ?? 0);
      // A block of its own may be longer.
      expect(until - from).toBeLessThan(8 << 20);
    }
    read.length = 0;
    const last = 20_000;
    expect(await filterFrames(index, { fc: 3 }, noting, (_, looked) => looked < last)).toBeNull();
    // One stretch is read ahead.
    expect(read.at(-2)![0]).toBeLessThan(entries[last + BLOCK]!.offset);
  });

  it('goes back to whole frames when a line is polled again', async () => {
    const strange = unlike(16, 40_000, 'none');
    const last = strange.at(-1)!;
    const entries = [...strange, ...polledEntries(72, 'none', 60_000, last.offset + last.length, strange.length)];
    const index = frameIndexOf(entries, 0);
    const isWhole = [...index.outlines()].map(({ block }) => block.isWhole);
    expect(isWhole.slice(0, 9)).toContain(false);
    expect(isWhole.slice(-5)).not.toContain(false);
    expect(await wholeEntries(index, bytesOfEntries(entries))).toEqual(entries);
  });

  it('two captures that are read in turns keep apart', async () => {
    const [entries, others] = [11, 12].map((seed) => anyEntries(seededRandom(seed), 20_000, 'none')) as [
      readonly WholeEntry[],
      readonly WholeEntry[],
    ];
    const indices: FrameIndex[] = [];
    function* inTurns() {
      for (const [i, entry] of entries.entries()) {
        if (i % 6000 === 5999) indices.push(frameIndexOf(others));
        yield entry;
      }
    }
    expect(await wholeEntries(frameIndexOf(inTurns()), nothingAgain)).toEqual(entries);
    for (const index of indices) expect(await wholeEntries(index, nothingAgain)).toEqual(others);
    expect(indices).toHaveLength(3);
  });

  const polled = (exchanges: number, times: Times): FrameIndex =>
    frameIndexOf(polledEntries(exchanges, times, 100_000));

  it('costs two bytes a frame of a line that is polled, six with times', () => {
    expect(polled(72, 'none').bytes / 100_000).toBeLessThan(2);
    expect(polled(72, 'whole').bytes / 100_000).toBeLessThan(6);
  });

  it('costs hardly more where thousands of different exchanges go round', () => {
    expect(polled(3000, 'none').bytes / 100_000).toBeLessThan(4);
  });

  it('costs three bytes a frame where hardly two are alike, once there are very many', () => {
    const index = frameIndexOf(unlike(17, 100_000, 'none'), 0);
    expect(index.bytes / index.count).toBeLessThan(3.5);
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
