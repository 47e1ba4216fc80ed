import { pick, seededRandom } from '../random/random';
import { countUpTo, extremesOf, SETTING_GAP_S, thinnedMost, Track, valueAt, type TrendPoint } from './track';

const DAY_S = 86_400;
/** Readings as a drive on a fast line gives them. */
const EACH_S = 0.1;

/** A track whose value is never the same twice in a row, with what was put into it. */
function watched(seconds: number, lost: (i: number) => boolean = () => false) {
  const random = seededRandom(5);
  const track = new Track();
  const all: TrendPoint[] = [];
  for (let i = 0; i * EACH_S < seconds; i++) {
    const point = { x: i * EACH_S, y: lost(i) ? null : 2 * pick(random, 5000) + (i & 1) };
    if (point.y === null) track.cut(point.x);
    else track.put(point.x, point.y);
    all.push(point);
  }
  return { track, all };
}

const levels = (points: readonly TrendPoint[]): readonly number[] => points.flatMap(({ y }) => (y === null ? [] : [y]));

it('keeps every reading as long as a picture can show them', () => {
  const { track, all } = watched(800);
  expect(track.points()).toEqual(all);
  expect(track.thinned).toBeNull();
});

it('has a bound after a day too, and still tells of all of it', () => {
  const { track, all } = watched(DAY_S);
  const day = track.points();
  expect(day.length).toBeLessThanOrEqual(2 * 8192);
  expect(day[0]!.x).toBeLessThan(track.thinned!.eachS);
  expect(day[day.length - 1]).toEqual(all[all.length - 1]);
  expect(Math.max(...levels(day))).toBe(levels(all).reduce((a, b) => Math.max(a, b)));
  expect(Math.min(...levels(day))).toBe(levels(all).reduce((a, b) => Math.min(a, b)));
});

it('says from when on each reading is there, and of how long stretches the extremes are', () => {
  const { track, all } = watched(3600);
  const { beforeS, eachS } = track.thinned!;
  const points = track.points();
  expect(points.slice(countUpTo(points, beforeS) - 1)).toEqual(all.filter(({ x }) => x >= beforeS));
  const older = points.slice(0, countUpTo(points, beforeS) - 1);
  const alone = extremesOf(
    all.filter(({ x }) => x < beforeS),
    eachS,
  );
  // However often it was thinned on the way, it is what one look at all of it gives.
  expect(older).toEqual(alone);
});

it('of several tracks it says what is true of all of them', () => {
  const [long, late, whole] = [
    { thinned: { beforeS: 100, eachS: 8 } },
    { thinned: { beforeS: 900, eachS: 2 } },
    { thinned: null },
  ];
  expect(thinnedMost([whole, long, late])).toEqual({ beforeS: 900, eachS: 8 });
  expect(thinnedMost([whole])).toBeNull();
});

it('draws nothing through a moment at which nobody knew, thinned or not', () => {
  const { track, all } = watched(3600, (i) => i % 40 >= 30);
  const points = track.points();
  expect(track.thinned).not.toBeNull();
  for (let i = 1; i < points.length; i++) {
    const [from, to] = [points[i - 1]!, points[i]!];
    if (from.y === null || to.y === null) continue;
    const between = all.slice(countUpTo(all, from.x), countUpTo(all, to.x) - 1);
    expect(between.every(({ y }) => y !== null)).toBe(true);
  }
});

it('what is read every three seconds is one line, and none goes through a pause of more than two of them', () => {
  const track = new Track(SETTING_GAP_S);
  for (const x of [0, 3, 6, 12, 15, 22]) track.put(x, 5);
  const lines = track.points().map(({ y }) => (y === null ? '/' : '.'));
  expect(lines.join('')).toBe('../.');
});

it('what stood still for a day is two points', () => {
  const track = new Track();
  for (let x = 0; x < DAY_S; x++) track.put(x, 7);
  expect(track.points()).toEqual([
    { x: 0, y: 7 },
    { x: DAY_S - 1, y: 7 },
  ]);
});

it('a level that is held is held to the end of its stretch', () => {
  const held = [0, 1, 2, 3].map((x) => ({ x, y: 4 }));
  expect(extremesOf(held, 10)).toEqual([held[0], held[3]]);
  expect(extremesOf([], 10)).toEqual([]);
});

it('a track is asked for any moment: its last reading before it, and nothing in a gap', () => {
  const points = [
    { x: 1, y: 0 },
    { x: 2, y: 10 },
    { x: 3, y: null },
    { x: 5, y: 4 },
  ];
  expect([0, 1, 1.9, 2, 2.5, 3.5, 5, 99].map((x) => valueAt(points, x))).toEqual([null, 0, 0, 10, 10, null, 4, 4]);
  expect(valueAt([], 1)).toBeNull();
});
