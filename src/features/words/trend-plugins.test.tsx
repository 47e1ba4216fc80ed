import { bitRows, widened, type BitRow } from './trend-plugins';

/** The names that were drawn last, and where. */
const names: string[] = [];

/** What the plugin draws on a plot of 100 by 30 pixels that shows the seconds 10 to 20: each line as the corners that it goes through. */
function drawn(rows: ReadonlyMap<number, BitRow['points']>): readonly string[] {
  const lines: string[] = [];
  names.length = 0;
  const ctx = {
    save: () => undefined,
    restore: () => undefined,
    beginPath: () => undefined,
    rect: () => undefined,
    clip: () => undefined,
    stroke: () => undefined,
    fillText: (name: string, x: number, y: number) => void names.push(`${name} ${x},${y}`),
    moveTo: (x: number, y: number) => void lines.push(`${x},${y}`),
    lineTo: (x: number, y: number) => void (lines[lines.length - 1] += ` ${x},${y}`),
  };
  const x = { min: 10, max: 20, getPixelForValue: (second: number) => 10 * (second - 10) };
  const bits = { getPixelForValue: (level: number) => 30 - 10 * level };
  const chart = { ctx, chartArea: { left: 0, right: 100, top: 0, bottom: 30 }, scales: { x, bits } };
  const named = new Map([...rows].map(([bit, points]) => [bit, { name: `bit ${bit}`, points }]));
  bitRows.beforeDatasetsDraw?.(chart as never, { cancelable: true }, { rows: named });
  return lines;
}

it('a level is held until the next reading, and the first bit has the uppermost row', () => {
  const rows = new Map([
    [
      7,
      [
        { x: 12, y: 0 },
        { x: 15, y: 1 },
        { x: 18, y: 1 },
      ],
    ],
    [2, [{ x: 11, y: 1 }]],
  ]);
  expect(drawn(rows)).toEqual(['20,20 50,20 50,13 80,13', '10,23']);
  expect(names).toEqual(['bit 7 -10,16.5', 'bit 2 -10,26.5']);
});

it('nothing is drawn through a gap', () => {
  const points = [
    { x: 11, y: 1 },
    { x: 12, y: 1 },
    { x: 13, y: null },
    { x: 16, y: 0 },
    { x: 17, y: 0 },
  ];
  expect(drawn(new Map([[0, points]]))).toEqual(['10,23 20,23', '60,30 70,30']);
});

it('of what lies outside the picture only the points on either side of it are drawn', () => {
  const points = Array.from({ length: 40 }, (_, i) => ({ x: i + 0.5, y: i % 2 }));
  const [line, ...others] = drawn(new Map([[0, points]]));
  expect(others).toEqual([]);
  const across = line!.split(' ').map((corner) => parseFloat(corner));
  expect(Math.min(...across)).toBe(-5);
  expect(Math.max(...across)).toBe(105);
});

it.each([
  ['a hundredth of 25 Hz', 25, 25.01, 24.3799, 25.6302],
  ['the same backwards', -25.01, -25, -25.6302, -24.3799],
  ['a start', 0, 25, 0, 25],
  ['standstill', 0, 0, 0, 0],
])('a scale does not swing with noise: %s', (_, min, max, low, high) => {
  const axis = { min, max };
  widened(axis);
  expect(axis.min).toBeCloseTo(low, 3);
  expect(axis.max).toBeCloseTo(high, 3);
});
