import { rowsAround } from './use-even-rows';

it.each([
  ['at its top', 1000, 0, [0, 17]],
  ['in its midst', 1000, 500, [494, 517]],
  ['at its end', 1000, 990, [984, 1000]],
  ['that became shorter than where it stood', 20, 900, [4, 20]],
  ['of which all is in sight', 4, 0, [0, 4]],
  ['of nothing', 0, 0, [0, 0]],
] as const)('draws the rows in sight and a few around them of a list %s', (_, count, first, rows) => {
  expect(rowsAround(count, first, 10, 6)).toEqual(rows);
});
