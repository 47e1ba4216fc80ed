import { countText, dateText, momentText } from './format';

// The reference is the runtime's own Unicode CLDR data (ECMA-402).
const GROUPED = new Intl.NumberFormat('en-GB');

it.each([0, 7, 999, 1000, 12_345, 999_999, 1_000_000, 86_500_000, 2 ** 53])(
  '%s is grouped as CLDR does it',
  (count) => {
    expect(countText(count)).toBe(GROUPED.format(count));
  },
);

it('a moment is told by day and clock of this computer', () => {
  const wallMs = new Date(2026, 10, 3, 9, 4, 7, 45).getTime();
  expect(momentText(wallMs)).toBe('2026-11-03 09:04:07.045');
  expect(dateText(wallMs)).toBe('2026-11-03 09:04');
});
