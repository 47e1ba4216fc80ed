import fc from 'fast-check';
import type { ScalingChain } from './chain';
import { fractionText, parseRational, type Rational } from './rational';
import { toRaw } from './scale';
import {
  readingText,
  READINGS,
  snapped,
  speedScaleOf,
  stepCounts,
  ticksBetween,
  wantedFrom,
  type ReadingKind,
} from './speed-scale';

const CHAIN: ScalingChain = {
  unit: 'Hz',
  steps: [{ kind: 'full-scale', value: '55', raw: '12287' }],
  rounding: 'down',
  word: { bits: 16, signed: true },
};
const scale = speedScaleOf(CHAIN, 4, null, { unit: 'm/min', factor: { num: 2n, den: 1n } })!;

const exact = (text: string): Rational => {
  const parsed = parseRational(text);
  if (!parsed.ok) throw new Error(parsed.error.text);
  return parsed.value;
};

const readings = (wanted: Rational) => {
  const scaled = toRaw(CHAIN, wanted);
  return scaled.ok ? READINGS.map((kind) => readingText(scale, kind, scaled.value)) : [];
};

it('17.5 Hz in every reading: what the drive gets, not what was wanted', () => {
  expect(readings(exact('17.5'))).toEqual(['17.498', '524.93', '31.81', '35', '3909', '0x0F45']);
});

it('backward', () => {
  expect(readings(exact('-10'))).toEqual(['−10', '−300', '−18.18', '−20', '−2234', '0xF746']);
});

// 120 f / p: 900 rpm are 30 Hz with four poles (common practice, no source).
it.each<[ReadingKind, string, string]>([
  ['unit', '17.5', '35/2'],
  ['other', '900', '30'],
  ['machine', '35', '35/2'],
  ['percent', '50', '55/2'],
  ['decimal', '12287', '55'],
  ['hex', '0x2FFF', '55'],
  ['hex', '2fffh', '55'],
  ['hex', 'D001', '-55'],
])('%s “%s” is %s Hz', (kind, text, hz) => {
  const wanted = wantedFrom(scale, kind, text);
  expect(wanted.ok && fractionText(wanted.value)).toBe(hz);
});

it.each<[ReadingKind, string]>([
  ['unit', 'fast'],
  ['other', ''],
  ['decimal', '1.5'],
  ['decimal', '40000'],
  ['hex', '0xG'],
  ['hex', '0x'],
])('%s “%s” is told as what it is', (kind, text) => {
  const wanted = wantedFrom(scale, kind, text);
  expect(wanted.ok).toBe(false);
  expect(!wanted.ok && wanted.error.text).not.toBe('');
});

it('steps by one count from what would be sent, and stops at the ends of the word', () => {
  const up = stepCounts(scale, exact('17.5'), 1n);
  expect(up.ok && readings(up.value)[4]).toBe('3910');
  const down = stepCounts(scale, exact('17.5'), -1n);
  expect(down.ok && readings(down.value)[4]).toBe('3908');
  expect(stepCounts(scale, exact('146.6'), 40_000n).ok).toBe(false);
});

it('every raw number is its own reading: typed back it gives itself', () => {
  for (let raw = -12287; raw <= 12287; raw += 37) {
    const wanted = wantedFrom(scale, 'decimal', String(raw));
    if (!wanted.ok) throw new Error(wanted.error.text);
    expect(readings(wanted.value)[4]).toBe(String(raw).replace('-', '−'));
  }
});

it('a chain without a full scale is shown as far as it may go, a broken one not at all', () => {
  const tenth: ScalingChain = { ...CHAIN, steps: [{ kind: 'resolution', value: '0.1' }] };
  expect(speedScaleOf(tenth, 4)).toBeNull();
  expect(fractionText(speedScaleOf(tenth, 4, 600n)!.fullValue)).toBe('60');
  expect(speedScaleOf({ ...CHAIN, steps: [{ kind: 'full-scale', value: '0', raw: '1' }] }, 4)).toBeNull();
});

it('beside rpm stands the frequency, beside other units nothing', () => {
  expect(speedScaleOf({ ...CHAIN, unit: 'rpm' }, 4)?.other).toEqual({ unit: 'Hz', factor: { num: 1n, den: 30n } });
  expect(speedScaleOf({ ...CHAIN, unit: 'mm/s' }, 4)?.other).toBeNull();
  const none = wantedFrom({ ...scale, machine: null }, 'machine', '3');
  expect(!none.ok && none.error.text).toMatch(/no such scale/);
});

it.each([
  [0, 55, 12, 'ten', false, '5'],
  [0, 1650, 12, 'ten', false, '200'],
  [0, 12287, 8, 'ten', true, '2000'],
  [0, 12287, 8, 'sixteen', true, '0800'],
  [17.4, 17.6, 10, 'ten', false, '17.42'],
  [3900, 3916, 12, 'ten', true, '3902'],
  [-55, 0, 12, 'ten', false, '−50'],
] as const)('marks from %d to %d, at most %i, base %s', (low, high, most, base, whole, second) => {
  const major = ticksBetween(low, high, most, base, whole).filter((tick) => tick.major);
  expect(major[1]?.text).toBe(second);
  expect(major.length).toBeLessThanOrEqual(most + 1);
  expect(ticksBetween(low, high, most, base, whole).every(({ at }) => at >= low - 1e-6 && at <= high + 1e-6)).toBe(
    true,
  );
});

it('no marks where there is nothing between', () => {
  expect(ticksBetween(5, 5, 10, 'ten', false)).toEqual([]);
  expect(ticksBetween(0, Infinity, 10, 'ten', false)).toEqual([]);
});

it.each([
  // A hand that is fine to 0.06 Hz finds tenths; one that is finer than a count finds counts.
  [17.52, 0.06, '35/2'],
  [17.48, 0.06, '35/2'],
  [17.5, 0.001, '19550/1117'],
  [-10.02, 0.5, '-10'],
])('a hairline dragged to %d with a hand of %d', (value, finest, exactText) => {
  expect(fractionText(snapped(scale, value, finest))).toBe(exactText);
});

describe('marks, whatever is typed', () => {
  it.each<[number, number, boolean]>([
    [1e16 - 10, 1e16 + 10, true],
    [1e16, 1e16 + 2, false],
    [-1e300, 1e300, false],
    [0, Number.MIN_VALUE, false],
    [1e15, 1e15 + 1e-3, false],
    [0, 1e308, true],
  ])('from %d to %d they end, and are not too many', (low, high, whole) => {
    expect(ticksBetween(low, high, 10, 'ten', whole).length).toBeLessThanOrEqual(2_000);
    expect(ticksBetween(low, high, 10, 'sixteen', whole).length).toBeLessThanOrEqual(2_000);
  });

  it('any two ends', () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true }), fc.double({ noNaN: true }), fc.boolean(), (a, b, whole) => {
        const ticks = ticksBetween(Math.min(a, b), Math.max(a, b), 12, 'ten', whole);
        expect(ticks.length).toBeLessThanOrEqual(2_000);
      }),
      { numRuns: 500, seed: 4 },
    );
  });
});
