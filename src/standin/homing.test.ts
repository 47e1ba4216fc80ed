import { planHoming } from './homing';
import type { Plant } from './plant';

/** Ends at 0 and 1000, the home switch active from 250 on, an index pulse every 100. */
const PLANT: Plant = { low: 0, high: 1000, homeEdge: 250, perTurn: 100 };
const PACE = { search: 200, creep: 20, acceleration: 400 };

/** Where the axis turns round, and where it ends, to a count. */
function stations(method: number, from: number): readonly number[] {
  const plan = planHoming(PLANT, from, method, PACE)!;
  const turns: number[] = [];
  let last = 0;
  for (let t = 0; t < plan.seconds; t += 0.001) {
    const sign = Math.sign(plan.speedAt(t));
    if (sign !== 0 && last !== 0 && sign !== last) turns.push(Math.round(plan.at(t)));
    if (sign !== 0) last = sign;
  }
  return [...turns, Math.round(plan.at(plan.seconds)) + 0];
}

/**
 * IEC 61800-7-201 (CiA 402), the drawings of the homing methods, from memory of the published text. Braking from 200 at 400 takes 50 counts, from 20 half a
 * count; after the edge the axis goes back to it.
 */
it.each<[method: number, from: number, stations: readonly number[], what: string]>([
  [1, 600, [-50, 101, 100], 'down to the lower switch, up off it, home at the first index pulse above'],
  [1, -30, [101, 100], 'on the switch already: up only'],
  [2, 600, [1050, 900, 900], 'up to the upper switch, down off it, home at the first index pulse below'],
  [3, 100, [300, 200, 200], 'below the home switch: up to it, down off it, home at the index pulse below its edge'],
  [3, 600, [200, 200], 'on the home switch: down only'],
  [4, 100, [301, 300], 'below the home switch: up only, home at the index pulse above its edge'],
  [4, 600, [250, 301, 300], 'on the home switch: down off it, then up'],
  [17, 600, [-50, 1, 0], 'as 1, home where the lower switch lets go'],
  [18, 600, [1050, 1000, 1000], 'as 2, home where the upper switch lets go'],
  [19, 100, [300, 250, 250], 'as 3, home where the home switch lets go'],
  [20, 100, [251, 250], 'as 4, home where the home switch comes'],
  [20, 600, [250, 251, 250], 'on the home switch: down off it, then up'],
  [33, 230, [200, 200], 'the next index pulse below'],
  [34, 230, [301, 300], 'the next index pulse above'],
  [33, 200, [100, 100], 'not the pulse on which it stands'],
  [35, 230, [230], 'here'],
  [37, 230, [230], 'here, the newer number'],
])('method %i from %i turns round and ends at %j: %s', (method, from, expected) => {
  const seen = stations(method, from);
  expect(seen.at(-1)).toBe(expected.at(-1));
  expect(seen).toHaveLength(expected.length);
  // Where it turns round it has braked from creeping: within a count of the edge.
  seen.forEach((at, i) => expect(Math.abs(at - (expected[i] ?? NaN))).toBeLessThanOrEqual(1));
});

it('a method that the drive does not know moves nothing', () => {
  for (const method of [0, 5, 16, 21, 36, 38]) expect(planHoming(PLANT, 500, method, PACE)).toBeNull();
});

it('speed is the slope of the way all along, and never above what is set', () => {
  for (const method of [1, 2, 3, 4, 17, 18, 19, 20, 33, 34]) {
    const plan = planHoming(PLANT, 610, method, PACE)!;
    for (let t = 0.01; t < plan.seconds - 0.01; t += 0.0137) {
      const slope = (plan.at(t + 1e-6) - plan.at(t - 1e-6)) / 2e-6;
      expect(Math.abs(slope - plan.speedAt(t))).toBeLessThan(0.05);
      expect(Math.abs(slope)).toBeLessThanOrEqual(200 + 1e-6);
    }
  }
});
