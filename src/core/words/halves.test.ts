import { joinHalves, splitHalves } from './halves';

it.each([
  [0, 0, 0],
  [196_608, 3, 0],
  [-1, 0xffff, 0xffff],
  [-(2 ** 31), 0x8000, 0],
  [2 ** 31 - 1, 0x7fff, 0xffff],
])('%i is %i and %i', (value, high, low) => {
  expect(splitHalves(value)).toEqual([high, low]);
  expect(joinHalves(high, low)).toBe(value);
});

it.each([2 ** 31, -(2 ** 31) - 1, 1.5, NaN])('%d does not fit', (value) => {
  expect(splitHalves(value)).toBeNull();
});
