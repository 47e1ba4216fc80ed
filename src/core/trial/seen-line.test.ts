import { beginRun, endRun, type RunState } from '../procedure/run-state';
import type { Procedure } from '../procedure/procedure';
import { lastSecond, lineOf, NO_LINE, sampleCount, seenAt, sinceBegin, thinned, withSample } from './seen-line';

const PAUSE: Procedure = {
  kind: 'trial',
  title: 'a',
  station: 1,
  steps: [{ kind: 'pause', us: 1, text: 'a' }],
  rounds: 1,
  standsStill: false,
};
const ran = (fromUs: number, toUs: number): RunState => ({
  ...beginRun(PAUSE, 'a', 0),
  records: [{ step: 0, good: true, seen: null, fromUs, toUs, notYetUs: null, exchange: 0, said: '' }],
});
const TENFOLD = lineOf([0.5, 1, 2, 3, 4].map((x) => ({ x, y: 10 * x })));

it('a line grows by one sample at a time, and the one before stays as it was', () => {
  const one = withSample(NO_LINE, { x: 1, y: 10 });
  const two = withSample(one, { x: 2, y: 20 });
  expect([...one]).toEqual([1, 10]);
  expect([...two]).toEqual([1, 10, 2, 20]);
  expect([sampleCount(two), lastSecond(two), lastSecond(NO_LINE)]).toEqual([2, 2, null]);
});

it('at a second it tells what was seen last', () => {
  expect([0, 0.5, 1.9, 4, 99].map((x) => seenAt(TENFOLD, x))).toEqual([null, 5, 10, 40, 40]);
});

it('a run is told from its first step on; once it is over, to its last one', () => {
  const run = ran(1e6, 3e6);
  expect([...sinceBegin(TENFOLD, run)]).toEqual([0, 10, 1, 20, 2, 30, 3, 40]);
  expect([...sinceBegin(TENFOLD, endRun(run, 'done', ''))]).toEqual([0, 10, 1, 20, 2, 30]);
  expect(sinceBegin(TENFOLD, beginRun(PAUSE, 'a', 0))).toHaveLength(0);
  expect(sinceBegin(TENFOLD, null)).toHaveLength(0);
});

describe('a line that is thinned', () => {
  const peaks = new Map([
    [0, 3],
    [4711, 90],
    [4712, -90],
    [71_999, 5],
  ]);
  const samples = Array.from({ length: 72_000 }, (_, i) => ({ x: i / 20, y: peaks.get(i) ?? 0 }));
  const hour = lineOf(samples);

  it('keeps its ends, its order and every peak that stands alone', () => {
    const kept = thinned(hour, 400);
    expect(kept.length).toBeLessThanOrEqual(402);
    for (const at of peaks.keys()) expect(kept).toContainEqual(samples[at]);
    expect(kept.map(({ x }) => x)).toEqual([...new Set(kept.map(({ x }) => x))].sort((a, b) => a - b));
  });

  it('is whole where it is short, and shows what is looked at, with one on either side', () => {
    expect(thinned(TENFOLD, 400).map(({ x }) => x)).toEqual([0.5, 1, 2, 3, 4]);
    expect(thinned(TENFOLD, 400, { min: 1, max: 2.5 }).map(({ x }) => x)).toEqual([0.5, 1, 2, 3]);
    expect(thinned(hour, 400, { min: 235, max: 236 })).toHaveLength(23);
    expect(thinned(NO_LINE, 400)).toEqual([]);
  });
});
