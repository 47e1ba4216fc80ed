import { BlockWatch, wordItems } from './block-watch';
import type { ImageItem } from './image';

const CYCLE_US = 100_000;
const word = (value: number): readonly number[] => [(value >> 8) & 0xff, value & 0xff];

/** A block of words over so many cycles, one every 100 ms; null is an answer that did not come. */
function watched(cycles: number, words: (cycle: number) => readonly number[] | null, items?: readonly ImageItem[]) {
  const size = 2 * (words(0) ?? words(1) ?? []).length;
  const watch = new BlockWatch(items ?? wordItems(size), 'big');
  for (let i = 0; i < cycles; i++) {
    const own = words(i);
    watch.add(i * CYCLE_US, own && Uint8Array.from(own.flatMap(word)));
  }
  return watch.told();
}

it('a word that counts is a sign of life, also round its end; where it stood is told with its time', () => {
  const { items, findings } = watched(1000, (i) => [(i < 400 ? i : Math.max(400, i - 30)) % 256]);
  expect(items[0]!.lives).toMatchObject({ how: 'it counts by 1' });
  expect(findings).toEqual([
    'word 0 is a sign of life: it counts by 1; it stood still for 3.10 s, 31 cycles, from 40.00 s on',
  ]);
  const fine = watched(1000, (i) => [i % 16 === 0 ? 1 : i % 16]);
  expect(fine.findings).toEqual(['word 0 is a sign of life: it counts by 1']);
});

it('a bit that toggles beside others is found in its word', () => {
  const { findings } = watched(200, (i) => [0x0400 | ((i % 2) << 3), 7]);
  expect(findings).toEqual(['word 0 is a sign of life: its bit 3 toggles', 'never changed: word 1']);
});

it('a value that jumps is told once, one that only moves is not', () => {
  const ramp = (i: number): number => 1000 + 2 * Math.round(100 * Math.sin(i / 20));
  const jump = watched(500, (i) => [i === 321 ? 30_000 : ramp(i)]);
  expect(jump.findings).toEqual([
    expect.stringMatching(/^word 0 jumps from \d+ to 30000 at 32\.10 s; otherwise it goes by /) as string,
  ]);
  expect(watched(500, (i) => [ramp(i)]).findings).toEqual([]);
  expect(jump.items[0]).toMatchObject({ least: 800, most: 30_000 });
});

it('tells how the cycle goes: lost ones, the longest and when, late ones', () => {
  const watch = new BlockWatch(wordItems(2), 'big');
  const times = [0, 100, 200, 290, 520, 600, 700];
  times.forEach((ms, i) => watch.add(1000 * ms, i === 3 ? null : Uint8Array.of(0, 1)));
  expect(watch.told().facts).toEqual({
    cycles: 7,
    lost: 1,
    meanUs: 700_000 / 6,
    leastUs: 80_000,
    worstUs: 230_000,
    worstAtUs: 290_000,
    late: 1,
  });
  expect(watch.told().findings).toEqual(['nothing in it ever changed']);
});

it('times that go back are named', () => {
  const watch = new BlockWatch(wordItems(2), 'big');
  for (const ms of [0, 100, 50]) watch.add(1000 * ms, Uint8Array.of(0, 1));
  expect(watch.told().findings[0]).toMatch(/^the times of the capture go back/);
});

it('a source without times tells everything but times', () => {
  const watch = new BlockWatch(wordItems(2), 'big');
  for (let i = 0; i < 100; i++) watch.add(NaN, Uint8Array.of(0, i < 50 ? i : Math.max(50, i - 20)));
  const { facts, findings } = watch.told();
  expect(facts).toMatchObject({ cycles: 100, lost: 0, meanUs: NaN, worstUs: NaN });
  expect(findings).toEqual(['word 0 is a sign of life: it counts by 1; it stood still for 21 cycles']);
});

it('a long series is laid together, and loses neither its least nor its most', () => {
  const { items } = watched(30_000, (i) => [i === 12_345 ? 65_535 : i === 23_456 ? 0 : 100 + (i % 7)]);
  const { series } = items[0]!;
  expect(series.length).toBeLessThanOrEqual(400);
  expect(Math.min(...series.map(({ least }) => least))).toBe(0);
  expect(Math.max(...series.map(({ most }) => most))).toBe(65_535);
  expect([...series].sort((a, b) => a.atUs - b.atUs)).toEqual(series);
  // The peak stands where it was, within one point.
  const peak = series.findIndex(({ most }) => most === 65_535);
  expect(series[peak]!.atUs).toBeLessThanOrEqual(12_345 * CYCLE_US);
  expect(series[peak + 1]!.atUs).toBeGreaterThan(12_345 * CYCLE_US);
});

it('items of a layout are read, and what nobody sent is nothing', () => {
  const { items } = watched(30, (i) => [0x0001, i], [
    { name: 'position', type: 'int32', byte: 0 },
    { name: 'beyond', type: 'uint16', byte: 8 },
  ]);
  expect(items[0]).toMatchObject({ name: 'position', least: 65_536, last: 65_536 + 29, changes: 29 });
  expect(items[1]).toMatchObject({ changes: 0, last: NaN, stood: null, step: null });
});

it('an odd byte at the end has a place of its own', () => {
  expect(wordItems(5).map(({ name, byte }) => [name, byte])).toEqual([
    ['word 0', 0],
    ['word 1', 2],
    ['byte 4', 4],
  ]);
});
