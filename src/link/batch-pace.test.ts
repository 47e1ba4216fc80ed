import { BatchPace } from './batch-pace';

/** Times at which a page that draws for so long gets its batches within a second; the worker looks each 50 ms. */
function times(drawMs: number, entries: number): readonly number[] {
  const pace = new BatchPace();
  const posted: number[] = [];
  let drawnAt = Infinity;
  for (let ms = 0; ms <= 1000; ms += 50) {
    if (ms >= drawnAt) pace.drawn(drawnAt, posted.length - 1);
    if (!pace.isDue(ms) || (entries === 0 && !pace.isQuietTooLong(ms))) continue;
    pace.posted(ms, posted.length, entries);
    posted.push(ms);
    drawnAt = ms + drawMs;
  }
  return posted;
}

it.each([
  ['a quick page on a calm line', 5, 1, 21],
  ['a quick page on a busy line', 5, 7, 11],
  ['a page with nothing to show', 5, 0, 6],
  ['a page that draws for 40 ms', 40, 7, 7],
  ['a page that draws for 120 ms', 120, 7, 3],
  ['a page that draws for 340 ms', 340, 7, 2],
])(
  '%s gets its batches when it has drawn the last one, and had twice as long for everything else',
  (_, drawMs, entries, batches) => {
    expect(times(drawMs, entries)).toHaveLength(batches);
  },
);

it('a page that never says so is given the next batch after a second', () => {
  expect(times(Infinity, 7)).toEqual([0, 1000]);
});

it('the word that an older batch was drawn does not let the next one through', () => {
  const pace = new BatchPace();
  pace.posted(0, 1, 1);
  pace.posted(1000, 2, 1);
  pace.drawn(1005, 1);
  expect(pace.isDue(1100)).toBe(false);
  pace.drawn(1010, 2);
  expect(pace.isDue(1100)).toBe(true);
});

it('one drawing that took very long holds the next batch up for 0.2 s and no longer', () => {
  const pace = new BatchPace();
  pace.posted(0, 1, 1);
  pace.drawn(900, 1);
  expect([pace.isDue(1050), pace.isDue(1100)]).toEqual([false, true]);
});
