import fc from 'fast-check';
import type { ScalingChain } from './chain';
import { decimalText, fractionText, parseRational, ratio, type Rational } from './rational';
import { round, ROUNDINGS } from './rounding';
import { toRaw, toValue } from './scale';
import { rangeOf, toWire } from './wire';

const exact = (text: string): Rational => {
  const parsed = parseRational(text);
  if (!parsed.ok) throw new Error(parsed.error.text);
  return parsed.value;
};

const fullScale = (
  value: string,
  raw: string,
  rounding: ScalingChain['rounding'] = 'down',
  signed = true,
): ScalingChain => ({
  unit: 'Hz',
  steps: [{ kind: 'full-scale', value, raw }],
  rounding,
  word: { bits: 16, signed },
});

const scaled = (chain: ScalingChain, value: string) => {
  const result = toRaw(chain, exact(value));
  if (!result.ok) throw new Error(result.error.text);
  return result.value;
};

describe('facts of the trade (common practice, no source)', () => {
  it('11 Hz of 44 Hz at full scale 12287 is a quarter, 3071.75, sent as 3071 = 0x0BFF', () => {
    const { exact: counts, raw, hex, working } = scaled(fullScale('44', '12287'), '11');
    expect(fractionText(counts)).toBe('12287/4');
    expect([raw, hex]).toEqual([3071n, '0x0BFF']);
    expect(working).toEqual(['11 / 44 × 12287 = 3071.75', '3071.75 rounded down = 3071', '3071 = 0x0BFF']);
  });

  it('900 rpm with four poles go back to 30 Hz through the chain', () => {
    const chain: ScalingChain = {
      ...fullScale('60', '12287'),
      unit: 'rpm',
      steps: [
        { kind: 'motor-poles', poles: 4 },
        { kind: 'full-scale', value: '60', raw: '12287' },
      ],
    };
    expect(fractionText(scaled(chain, '900').exact)).toBe('12287/2');
  });
});

it('17.5 Hz on the sheet Tern is 3909.5, sent as 3909 = 0x0F45', () => {
  expect(scaled(fullScale('55', '12287'), '17.5')).toMatchObject({ raw: 3909n, hex: '0x0F45', faults: [] });
});

it('a negative speed is two’s complement', () => {
  const { raw, wire, hex } = scaled(fullScale('55', '12287', 'towardZero'), '-17.5');
  expect([raw, wire, hex]).toEqual([-3909n, 0xf0bbn, '0xF0BB']);
});

it.each([
  ['7/2', [3n, 4n, 3n, 4n, 4n, 4n]],
  ['5/2', [2n, 3n, 2n, 3n, 2n, 3n]],
  ['-5/2', [-3n, -2n, -2n, -2n, -2n, -3n]],
  ['-7/2', [-4n, -3n, -3n, -3n, -4n, -4n]],
  ['-9/4', [-3n, -2n, -2n, -2n, -2n, -2n]],
  ['11/4', [2n, 3n, 2n, 3n, 3n, 3n]],
  ['4', [4n, 4n, 4n, 4n, 4n, 4n]],
])('rounds %s by every rule', (value, expected) => {
  expect(ROUNDINGS.map((rule) => round(exact(value), rule))).toEqual(expected);
});

it.each([
  ['32768 counts', fullScale('1', '32767'), '32768/32767', 'value-out-of-range'],
  ['a negative value in a plain word', fullScale('1', '100', 'down', false), '-1', 'value-out-of-range'],
])('names overflow: %s', (_, chain, value, code) => {
  expect(scaled(chain, value).faults[0]?.code).toBe(code);
});

it.each<[string, ScalingChain]>([
  ['a full scale of 0', fullScale('0', '12287')],
  ['no number', fullScale('60', 'x')],
  ['a negative resolution', { ...fullScale('1', '1'), steps: [{ kind: 'resolution', value: '-1' }] }],
  ['three poles', { ...fullScale('1', '1'), steps: [{ kind: 'motor-poles', poles: 3 }] }],
])('a chain with %s is a fault, not a throw', (_, chain) => {
  expect(toRaw(chain, ratio(1n)).ok).toBe(false);
  expect(toValue(chain, 1n).ok).toBe(false);
});

it('every raw number goes to a value and back to itself, whatever the rule', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -32768, max: 32767 }),
      fc.constantFrom(...ROUNDINGS),
      fc.constantFrom(['55', '12287'], ['44', '9000'], ['100', '16384'], ['1/3', '7']),
      (raw, rounding, [value, counts]) => {
        const chain = fullScale(value, counts, rounding);
        const there = toValue(chain, toWire(BigInt(raw), chain.word));
        expect(there.ok).toBe(true);
        if (!there.ok) return;
        const back = toRaw(chain, there.value.value);
        expect(back.ok && back.value.raw).toBe(BigInt(raw));
        expect(back.ok && back.value.error).toEqual(ratio(0n));
      },
    ),
    { seed: 1, numRuns: 1000 },
  );
});

it('the error of the nearest rules is at most half a count', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -500, max: 500 }),
      fc.integer({ min: 1, max: 97 }),
      fc.constantFrom('nearestHalfUp', 'halfEven', 'halfAwayFromZero'),
      (num, den, rounding) => {
        const { error } = scaled(fullScale('55', '12287', rounding), `${num}/${den}`);
        expect(2n * (error.num < 0n ? -error.num : error.num) <= error.den).toBe(true);
      },
    ),
    { seed: 2, numRuns: 500 },
  );
});

it.each([
  ['17.5', '35/2'],
  ['17,5', '35/2'],
  ['-0.01', '-1/100'],
  ['+3', '3'],
  ['1e3', '1000'],
  ['2.5e-2', '1/40'],
  ['12287/4', '12287/4'],
  ['  7 / 2 ', '7/2'],
  ['.5', '1/2'],
  ['−4', '-4'],
])('reads %s exactly', (text, fraction) => {
  expect(fractionText(exact(text))).toBe(fraction);
});

it.each(['', 'x', '1.2.3', '1/0', '--1', '1e999', '/', '1 2', '9'.repeat(80)])(
  'says what is wrong with “%s”',
  (text) => {
    const parsed = parseRational(text);
    expect(parsed.ok).toBe(false);
    expect(!parsed.ok && parsed.error.text.length).toBeGreaterThan(5);
  },
);

it.each([
  ['12287/4', 3, '3071.75'],
  ['1/3', 4, '≈ 0.3333'],
  ['-1/3', 2, '≈ −0.33'],
  ['1/2', 0, '≈ 1'],
  ['100', 3, '100'],
])('writes %s with %i places as %s', (value, places, text) => {
  expect(decimalText(exact(value), places)).toBe(text);
});

it.each([
  [8, true, -128n, 127n],
  [16, false, 0n, 65535n],
  [32, true, -2147483648n, 2147483647n],
] as const)('%i bits, signed %s', (bits, signed, min, max) => {
  expect(rangeOf({ bits, signed })).toEqual({ min, max });
});
