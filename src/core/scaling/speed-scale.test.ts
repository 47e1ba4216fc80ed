import type { ScalingChain } from './chain';
import { fractionText, parseRational, type Rational } from './rational';
import { toRaw } from './scale';
import { readingText, READINGS, speedScaleOf, stepCounts, ticksOf, wantedFrom, type ReadingKind } from './speed-scale';

const CHAIN: ScalingChain = {
  unit: 'Hz',
  steps: [{ kind: 'full-scale', value: '55', raw: '12287' }],
  rounding: 'down',
  word: { bits: 16, signed: true },
};
const scale = speedScaleOf(CHAIN, 4)!;

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
  expect(readings(exact('17.5'))).toEqual(['17.498', '524.93', '31.81', '3909', '0x0F45']);
});

it('backward', () => {
  expect(readings(exact('-10'))).toEqual(['−10', '−300', '−18.18', '−2234', '0xF746']);
});

// 120 f / p: 900 rpm are 30 Hz with four poles (common practice, no source).
it.each<[ReadingKind, string, string]>([
  ['unit', '17.5', '35/2'],
  ['rpm', '900', '30'],
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
  ['rpm', ''],
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
  expect(up.ok && readings(up.value)[3]).toBe('3910');
  const down = stepCounts(scale, exact('17.5'), -1n);
  expect(down.ok && readings(down.value)[3]).toBe('3908');
  expect(stepCounts(scale, exact('146.6'), 40_000n).ok).toBe(false);
});

it('every raw number is its own reading: typed back it gives itself', () => {
  for (let raw = -12287; raw <= 12287; raw += 37) {
    const wanted = wantedFrom(scale, 'decimal', String(raw));
    if (!wanted.ok) throw new Error(wanted.error.text);
    expect(readings(wanted.value)[3]).toBe(String(raw).replace('-', '−'));
  }
});

it('a chain without a full scale has no scales', () => {
  expect(speedScaleOf({ ...CHAIN, steps: [{ kind: 'resolution', value: '0.1' }] }, 4)).toBeNull();
  expect(speedScaleOf({ ...CHAIN, steps: [{ kind: 'full-scale', value: '0', raw: '1' }] }, 4)).toBeNull();
});

it.each([
  [55n, 12, 'ten', 5n],
  [1650n, 12, 'ten', 200n],
  [100n, 10, 'ten', 10n],
  [12287n, 8, 'ten', 2000n],
  [12287n, 8, 'sixteen', 0x800n],
  [0n, 8, 'ten', undefined],
] as const)('marks from 0 to %s, at most %i: steps of %s', (end, most, base, step) => {
  const major = ticksOf(end, most, base).filter((tick) => tick.major);
  expect(major[1]?.value).toBe(step);
  expect(major.length).toBeLessThanOrEqual(most + 1);
});
