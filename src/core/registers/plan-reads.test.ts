import fc from 'fast-check';
import { planReads } from './plan-reads';

const all = (): boolean => true;

it.each([
  [[], all, []],
  [[5], all, [[5, 1]]],
  [[5, 6, 7], all, [[5, 3]]],
  [[7, 5, 6, 6], all, [[5, 3]]],
  [[5, 9], all, [[5, 5]]],
  [
    [5, 9],
    (address: number) => address !== 7,
    [
      [5, 1],
      [9, 1],
    ],
  ],
  [
    [5, 50],
    all,
    [
      [5, 1],
      [50, 1],
    ],
  ],
  [
    [0, 65535],
    all,
    [
      [0, 1],
      [65535, 1],
    ],
  ],
])('reads %j', (wanted, exists, plans) => {
  expect(planReads(wanted, exists).map(({ address, quantity }) => [address, quantity])).toEqual(plans);
});

it('covers every wanted register, touches no missing one, and never asks for more than 125', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.integer({ min: 0, max: 600 }), { maxLength: 300 }),
      fc.integer({ min: 2, max: 9 }),
      (wanted, hole) => {
        const there = wanted.filter((address) => address % hole !== 0);
        const exists = (address: number): boolean => address % hole !== 0;
        const plans = planReads(there, exists);
        const covered = plans.flatMap(({ address, quantity }) =>
          Array.from({ length: quantity }, (_, i) => address + i),
        );
        expect(there.every((address) => covered.includes(address))).toBe(true);
        expect(covered.every(exists)).toBe(true);
        expect(plans.every(({ quantity }) => quantity <= 125)).toBe(true);
      },
    ),
    { seed: 9, numRuns: 200 },
  );
});
