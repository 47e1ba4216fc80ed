import { bitChanges } from './bit-changes';

const track = (bit: number, ...points: readonly (readonly [number, number | null])[]) => ({
  bit,
  name: `bit ${bit}`,
  points: points.map(([x, y]) => ({ x, y })),
});

it('tells when a bit rose or fell, newest first, and since when that was not known', () => {
  expect(bitChanges([track(0, [1, 0], [2, 1], [3, 1], [4, 0]), track(3, [1, 0], [2, 0], [3, 1])])).toEqual([
    { x: 4, bit: 0, name: 'bit 0', rose: false, afterX: 3 },
    { x: 3, bit: 3, name: 'bit 3', rose: true, afterX: 2 },
    { x: 2, bit: 0, name: 'bit 0', rose: true, afterX: 1 },
  ]);
});

it('tells a change over a gap with the reading before the gap, and no change where none was', () => {
  expect(bitChanges([track(2, [1, 0], [1.5, null], [9, 1])])).toEqual([
    { x: 9, bit: 2, name: 'bit 2', rose: true, afterX: 1 },
  ]);
  expect(bitChanges([track(2, [1, 0], [1.5, null], [9, 0]), track(4)])).toEqual([]);
});
