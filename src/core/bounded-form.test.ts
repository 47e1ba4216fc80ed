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
