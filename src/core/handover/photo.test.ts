import { LONGEST_SIDE, sameOf, SIZES, sizeWithin } from './photo';

it.each([
  [4000, 3000, 1600, 1600, 1200],
  [3000, 4000, 1600, 1200, 1600],
  [640, 480, 1600, 640, 480],
  [10_000, 1, 1600, 1600, 1],
])('%i × %i within %i is %i × %i', (width, height, most, ...size) => {
  const { width: w, height: h } = sizeWithin(width, height, most);
  expect([w, h]).toEqual(size);
});

it('each way of making it smaller is smaller than the one before, and none is beyond what a record takes', () => {
  expect(SIZES.every(({ most }) => most <= LONGEST_SIDE)).toBe(true);
  SIZES.slice(1).forEach(({ most, quality }, i) =>
    expect(most * quality).toBeLessThan(SIZES[i]!.most * SIZES[i]!.quality),
  );
});

it('two things are the same by what they are, a line is no drive on it', () => {
  const drive = { of: 'drive', line: 'k1', station: 'fan' } as const;
  expect(sameOf(drive, { ...drive })).toBe(true);
  expect(sameOf(drive, { of: 'line', line: 'k1' })).toBe(false);
  expect(sameOf({ of: 'plant' }, { of: 'plant' })).toBe(true);
});
