import { deviationText, type SpeedPoint } from './deviation';

const ASKED = [375, 750, 1125] as const;
const seen = (of: (asked: number) => number): readonly SpeedPoint[] => ASKED.map((asked) => [asked, of(asked)]);

// A motor of four poles at 50 Hz: 1500 rpm, rated 1450 rpm, so 50 rpm of slip at its rated torque (n = 120 f / p; slip goes with torque; textbooks, from memory).
it.each<[string, (asked: number) => number, RegExp]>([
  ['nothing is off', (n) => n, /^scale and zero agree$/],
  ['a tachometer trembles', (n) => n + (n === 750 ? 4 : -2), /^scale and zero agree$/],
  [
    'a conveyor, half its torque',
    (n) => n - 25,
    /^the scale agrees: it lags by 25\.0 rpm at every speed, as slip under a load that stays/,
  ],
  [
    'a fan, its torque by the square of the speed',
    (n) => n - 50 * (n / 1500) ** 2,
    /as slip under the load of a fan or a pump does$/,
  ],
  [
    'a scale that is 3 % short',
    (n) => 0.97 * n,
    /^the scale is off by −3\.0 %: what is missing grows with the speed, which slip does not$/,
  ],
  ['a scale that is 5 % long', (n) => 1.05 * n, /^the scale is off by 5\.0 %: what is too much grows with the speed$/],
  ['a zero that is 20 rpm up', (n) => n + 20, /^it is ahead by 20\.0 rpm at every speed: its zero is off$/],
  [
    'a fan whose slip does not show at its lowest speed',
    (n) => n - (n === 375 ? 0 : 12.5 * (n / 750) ** 2),
    /as slip under the load of a fan/,
  ],
  [
    'a fan whose tachometer is 2 rpm ahead there',
    (n) => (n === 375 ? 377 : n - 12.5 * (n / 750) ** 2),
    /as slip under the load of a fan/,
  ],
  ['a scale that is 1 % short', (n) => 0.99 * n, /^the scale is off by −1\.0 %/],
  ['one speed only', (n) => (n === 1125 ? 1100 : n), /^it is off by 25\.0 rpm at one speed only/],
  ['one that was misread', (n) => (n === 750 ? 790 : n - 30), /^it is behind at one speed and ahead at another/],
])('%s', (_, of, said) => {
  expect(deviationText(seen(of), 'rpm')).toMatch(said);
  // Backward it is the same.
  expect(
    deviationText(
      seen(of).map(([asked, came]) => [-asked, -came]),
      'rpm',
    ),
  ).toMatch(said);
});

it('two points, points close together, or standstill say nothing', () => {
  expect(deviationText(seen((n) => 0.9 * n).slice(0, 2), 'rpm')).toBe('');
  expect(deviationText([[0, 0], ...seen((n) => 0.9 * n)], 'rpm')).toBe('');
  expect(
    deviationText(
      [
        [1000, 970],
        [1010, 980],
        [1020, 990],
      ],
      'rpm',
    ),
  ).toBe('');
});
