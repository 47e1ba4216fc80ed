import { besideFlag } from './scale-picture';

it.each([
  ['clear of the flag it stands at its edge', 700, 100, 400, 500, 700],
  ['under the flag it moves to its right', 450, 100, 400, 500, 506],
  ['where no room is at the right, to its left', 1000, 150, 900, 1040, 744],
])('%s', (_, edge, width, left, right, at) => {
  expect(besideFlag(edge, width, left, right)).toBe(at);
});
