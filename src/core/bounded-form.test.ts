import * as v from 'valibot';
import { readForm } from './bounded-form';
import { loadJob } from './job/load-job';
import { loadSheet } from './sheet/load-sheet';

const schema = v.array(v.number());

it('tells faults with their paths, some hundred at most', () => {
  const read = readForm(
    schema,
    Array.from({ length: 5_000 }, () => 'x'),
  );
  expect(read.ok ? 0 : read.error.length).toBe(201);
  expect(read.ok ? '' : read.error[200]?.text).toBe('and 4800 more');
});

it.each<[string, unknown]>([
  ['a million values', Array.from({ length: 1_000_000 }, () => 0)],
  ['levels without end', Array.from({ length: 100 }).reduce<unknown>((inner) => [inner], 1)],
])('%s are refused before they are looked at one by one', (_, value) => {
  for (const read of [
    readForm(schema, value),
    loadJob({ format: 1, lines: value }),
    loadSheet({ format: 1, words: value }),
  ])
    expect(read.ok ? '' : read.error[0]?.text).toMatch(/no file of this kind/);
});

it('in a large file the first fault is told', () => {
  const read = readForm(
    schema,
    Array.from({ length: 30_000 }, () => 'x'),
  );
  expect(read.ok ? 0 : read.error.length).toBe(1);
});

it('a sheet of the oldest format with values that cannot be written down is a fault and no throw', () => {
  const crafted: unknown = JSON.parse(
    '{"format":0,"id":"x","title":"x","fullScale":{"hz":{"toString":5,"valueOf":5},"counts":{"toString":1}}}',
  );
  expect(() => loadSheet(crafted)).not.toThrow();
  expect(loadSheet(crafted).ok).toBe(false);
});

it('a file with too many values, or values that lie too deep, is refused at its size; at the limit it is read', () => {
  const many = (count: number): unknown => Array<number>(count - 1).fill(0);
  const deep = (levels: number): unknown => Array.from({ length: levels }).reduce<unknown>((inner) => ({ inner }), 0);
  for (const good of [many(400_000), deep(40)]) expect(readForm(v.unknown(), good)).toEqual({ ok: true, value: good });
  for (const bad of [many(400_001), { one: many(200_000), other: many(200_001) }, deep(41)])
    expect(readForm(v.unknown(), bad)).toMatchObject({
      ok: false,
      error: [{ path: '', text: 'more than 400000 values, or more than 40 levels: no file of this kind has that' }],
    });
});
