import { breaths } from './breathe';

/** Notes what waits for the next task, at whichever part of a work it has its turn; each part takes `partMs`. */
async function partsBefore(partMs: number): Promise<number> {
  let [parts, seen] = [0, Infinity];
  setTimeout(() => (seen = parts));
  const breath = breaths();
  for (; parts < 20 && seen === Infinity; parts++) {
    const beganMs = performance.now();
    while (performance.now() - beganMs < partMs);
    await breath();
  }
  return seen;
}

it('lets what waits have its turn once a work has taken its time, and not with each of many short parts', async () => {
  expect(await partsBefore(10)).toBe(0);
  // 8 ms are at least six of 1.25, and no more than a few parts later somebody else has had a turn.
  const parts = await partsBefore(1.25);
  expect(parts).toBeGreaterThan(0);
  expect(parts).toBeLessThan(8);
});
