import { pick, seededRandom } from '../random/random';
import { fitScale, rawBeside, type Fit } from './fit';
import { compare, decimalText, ratio } from './rational';

const fit = (...pairs: readonly (readonly [string, number])[]): Fit | string => {
  const found = fitScale(pairs.map(([display, raw]) => ({ display, raw: BigInt(raw) })));
  return found.ok ? found.value : found.error.text;
};
const scalesOf = (found: Fit | string): readonly string[] =>
  typeof found === 'string' ? [] : found.scales.map(({ text }) => text);

it('three pairs of the sheet Tern give 12287 = 55', () => {
  const found = fit(['17.5', 3909], ['40.0', 8935], ['50.0', 11170]);
  expect(scalesOf(found)).toContain('12287 = 55');
  expect(typeof found === 'object' && found.sure).toMatch(/3 pairs, a scale through 0; 2 of them confirm it/);
});

it.each<[string, readonly (readonly [string, number])[], string]>([
  [
    '0.01 Hz a count',
    [
      ['12.34', 1234],
      ['50.00', 5000],
      ['7.05', 705],
    ],
    '0.01 a count',
  ],
  [
    '0.1 rpm a count',
    [
      ['1455.0', 14550],
      ['90.0', 900],
    ],
    '0.1 a count',
  ],
  [
    '0x4000 = 100',
    [
      ['50.0', 8192],
      ['25.0', 4096],
      ['-75.0', -12288],
    ],
    '16384 = 100',
  ],
  [
    '12287 = 55',
    [
      ['13.75', 3071],
      ['41.25', 9215],
      ['55', 12287],
    ],
    '12287 = 55',
  ],
])('%s', (_, pairs, text) => {
  expect(scalesOf(fit(...pairs))).toContain(text);
});

it('finds an offset once a third pair shows that there is one', () => {
  const pairs = [
    ['0', 4000],
    ['50', 12000],
  ] as const;
  expect(fit(...pairs)).toMatch(/observe a third/);
  const found = fit(...pairs, ['25', 8000]);
  expect(typeof found === 'object' && [decimalText(found.offset, 0, false), found.sure]).toEqual([
    '4000',
    expect.stringMatching(/with an offset of about 4000 counts; 1 of them confirms/),
  ]);
});

it.each<[string, bigint, bigint]>([
  ['-17.5', 0xf0bbn, -3909n],
  ['\u22125', 0xfffffffbn, -5n],
  ['-17.5', 3909n, 3909n],
  ['17.5', 0xf0bbn, 0xf0bbn],
  ['-1', -1n, -1n],
])('beside %s the pattern %i is %i', (display, pattern, raw) => {
  expect(rawBeside(display, pattern)).toBe(raw);
});

it('says so when nothing straight explains them, and when one pair is all there is', () => {
  expect(fit(['10', 1000], ['20', 1500], ['30', 6000])).toMatch(/no straight scale/);
  expect(fit(['10', 1000])).toMatch(/two pairs/);
  expect(fit(['10', 1000], ['ten', 2000])).toMatch(/pair 2: “ten” is no number/);
});

it('the true counts per unit always lie within the bounds (1,000 seeded scales)', () => {
  const random = seededRandom(31);
  for (let run = 0; run < 1000; run++) {
    const full = 1 + pick(random, 200);
    const counts = 1000 + pick(random, 60_000);
    const pairs = Array.from({ length: 3 }, (): [string, number] => {
      const display = (1 + pick(random, 10 * full)) / 10;
      return [display.toFixed(1), Math.floor((display * counts) / full)];
    });
    const found = fit(...pairs);
    if (typeof found === 'string') throw new Error(`run ${run}: ${found}, ${JSON.stringify({ full, counts, pairs })}`);
    const truth = ratio(BigInt(counts), BigInt(full));
    expect([compare(found.low, truth) <= 0, compare(truth, found.high) <= 0]).toEqual([true, true]);
  }
});

it('the scale of the user’s own pair is never left out, and each pair shows how it fits', () => {
  const found = fit(['55', 12_287], ['17.5', 3909], ['41.7', 9316]);
  expect(scalesOf(found)).toContain('12287 = 55');
  const odd = fit(['61.3', 13_517], ['20.0', 4410]);
  expect(scalesOf(odd)).toContain('13517 = 61.3');
  if (typeof odd === 'string') throw new Error(odd);
  expect(odd.residuals.map(({ display, seen }) => [display, seen])).toEqual([
    ['61.3', 13_517n],
    ['20.0', 4410n],
  ]);
  for (const { seen, by } of odd.residuals)
    expect(Math.abs(Number(decimalText(by, 3, false)) - Number(seen))).toBeLessThan(12);
});
