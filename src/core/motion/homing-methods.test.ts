import { planHoming } from '../../standin/homing';
import type { Plant } from '../../standin/plant';
import { ACTIVE, HOMING_METHODS, homingPaths, homingText } from './homing-methods';

it('lists the numbers that the standard gives a meaning, and no reserved one', () => {
  const numbers = [...HOMING_METHODS.keys()];
  const range = (from: number, to: number): readonly number[] =>
    Array.from({ length: to - from + 1 }, (_, i) => from + i);
  // IEC 61800-7-201, the object “homing method”: 15, 16, 31, 32 and 36 are reserved (from memory).
  expect(numbers).toEqual([...range(1, 14), ...range(17, 30), 33, 34, 35, 37]);
});

/** The drawn axis as a machine: the stand-in's own homing on it turns round and ends where the drawing does. */
const PLANT: Plant = { low: ACTIVE['lower-end'][1], high: ACTIVE['upper-end'][0], homeEdge: 50, perTurn: 1000 };

it.each([17, 18, 19, 20])('method %i is drawn as the stand-in, which has its own table, travels', (number) => {
  for (const path of homingPaths(HOMING_METHODS.get(number)!)) {
    const plan = planHoming(PLANT, path[0]!, number, { search: 4, creep: 1, acceleration: 20 })!;
    const turns: number[] = [];
    let last = 0;
    for (let t = 0; t < plan.seconds; t += 0.005) {
      const sign = Math.sign(plan.speedAt(t));
      if (sign !== 0 && last !== 0 && sign !== last) turns.push(plan.at(t));
      if (sign !== 0) last = sign;
    }
    const home = path[path.length - 1]!;
    expect(plan.at(plan.seconds)).toBeCloseTo(home, 6);
    // The way back to the edge that it crossed last is not drawn.
    const drawn = path.slice(1, -1);
    expect(turns.length - 1).toBe(drawn.length);
    drawn.forEach((turn, i) => expect(Math.sign(turn - home)).toBe(Math.sign((turns[i] ?? 0) - home)));
  }
});

it.each<[number, readonly (readonly number[])[]]>([
  // A switch between 44 and 60: from below, on it, above it (CiA 402, the drawings of methods 23 to 30, from memory).
  [
    23,
    [
      [25, 49, 44],
      [52, 44],
      [75, 88, 44],
    ],
  ],
  [
    24,
    [
      [25, 44],
      [52, 39, 44],
      [75, 88, 39, 44],
    ],
  ],
  [
    25,
    [
      [25, 65, 60],
      [52, 65, 60],
      [75, 88, 60],
    ],
  ],
  [
    26,
    [
      [25, 60],
      [52, 60],
      [75, 88, 55, 60],
    ],
  ],
  [
    27,
    [
      [25, 12, 60],
      [52, 60],
      [75, 55, 60],
    ],
  ],
  [
    30,
    [
      [25, 12, 49, 44],
      [52, 44],
      [75, 44],
    ],
  ],
  [
    1,
    [
      [60, 7, 16],
      [5, 16],
    ],
  ],
  [33, [[50, 46]]],
  [37, [[50, 50]]],
])('method %i goes %j', (number, paths) => {
  expect(homingPaths(HOMING_METHODS.get(number)!)).toEqual(paths);
});

it('says each method in a sentence of its own', () => {
  const texts = [...HOMING_METHODS].map(([, method]) => homingText(method));
  expect(new Set(texts).size).toBe(texts.length - 1);
  expect(homingText(HOMING_METHODS.get(17)!)).toBe(
    'It looks for the lower end switch, going down first; home is its edge, crossed going up.',
  );
});
