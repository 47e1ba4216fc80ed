import { bytesOfEntries, frameIndexOf, nothingAgain, type WholeEntry } from '../../../tests/harness/frame-index';
import { roundsOf } from './rounds';

const LENGTH = 8;

/** Requests that nobody answers, one every millisecond. */
const requests = (count: number, registersOf: (i: number) => Pick<WholeEntry, 'unit' | 'address'>) =>
  Array.from({ length: count }, (_, i): WholeEntry => ({
    offset: LENGTH * i,
    length: LENGTH,
    timeUs: 1000 * i,
    fc: 3,
    quantity: 1,
    direction: 'request',
    fault: false,
    exception: false,
    tcp: false,
    partner: -1,
    ...registersOf(i),
  }));

/** So few, that short captures have more. */
const COUNTED = 10_000;
const whenever = (): boolean => true;

it('what goes round is found among more different requests than are counted at once', async () => {
  const EACH = 10;
  const entries = requests(240_000, (i) =>
    i % EACH === 0 ? { unit: 9, address: 7 } : { unit: 1 + (i >> 16), address: i & 0xffff },
  );
  const found = await roundsOf(frameIndexOf(entries), nothingAgain, whenever, COUNTED);
  expect(found).toHaveLength(1);
  expect(found![0]).toMatchObject({ unit: 9, address: 7, cycles: entries.length / EACH, lost: entries.length / EACH });
  expect(found![0]!.meanUs).toBe(1000 * EACH);
});

it('of more requests that go round than are counted at once some are told, with all their cycles', async () => {
  const [DIFFERENT, CYCLES] = [3 * COUNTED, 9];
  const entries = requests(DIFFERENT * CYCLES, (i) => ({ unit: 1, address: i % DIFFERENT }));
  const found = await roundsOf(frameIndexOf(entries), nothingAgain, whenever, COUNTED);
  expect(found).toHaveLength(60);
  expect(found!.map(({ cycles }) => cycles)).toEqual(Array(60).fill(CYCLES));
});

it('what went round often stays while others come and go, and letting go ends however often it went', async () => {
  const OFTEN = 6_000;
  const entries = requests(300_000, (i) =>
    i < 240_000 ? { unit: 1, address: i % OFTEN } : { unit: 2 + (i >> 16), address: i & 0xffff },
  );
  const found = await roundsOf(frameIndexOf(entries), nothingAgain, whenever, COUNTED);
  expect(found!.map(({ unit, cycles }) => [unit, cycles])).toEqual(Array(60).fill([1, 240_000 / OFTEN]));
});

it('rounds of frames of which only outlines are kept are those of frames that are kept whole', async () => {
  const entries = requests(60_000, (i) => ({ unit: 1 + (i % 3), address: i % 3 === 0 ? 40 : (i * 7919) % 2000 }));
  const whole = await roundsOf(frameIndexOf(entries), nothingAgain);
  const index = frameIndexOf(entries, 0);
  expect([...index.outlines()].some(({ block }) => !block.isWhole)).toBe(true);
  expect(whole![0]).toMatchObject({ unit: 1, address: 40, cycles: 20_000 });
  expect(whole!.length).toBeGreaterThan(20);
  expect(await roundsOf(index, bytesOfEntries(entries))).toEqual(whole);
});
