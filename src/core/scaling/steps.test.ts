import fc from 'fast-check';
import type { ScalingChain, ScalingStep, WireWord } from './chain';
import { SCALE_PRESETS } from './presets';
import { compare, decimalText, fractionText, multiply, parseRational, ratio, type Rational } from './rational';
import { ROUNDINGS } from './rounding';
import { notCanonical, signTrouble, toRaw, toValue } from './scale';
import { fromWire, rangeOf, toWire, wireBytes } from './wire';

const exact = (text: string): Rational => {
  const parsed = parseRational(text);
  if (!parsed.ok) throw new Error(parsed.error.text);
  return parsed.value;
};
const chainOf = (steps: readonly ScalingStep[], word: WireWord = { bits: 32, signed: true }): ScalingChain => ({
  unit: 'u',
  steps,
  rounding: 'nearestHalfUp',
  word,
});
const rawOf = (chain: ScalingChain, value: string): bigint | string => {
  const made = toRaw(chain, exact(value));
  return made.ok ? made.value.raw : made.error.text;
};
const presetOf = (id: string): ScalingChain => SCALE_PRESETS.find((preset) => preset.id === id)!.chain;

describe('published and usual figures', () => {
  it.each<[string, string, bigint]>([
    // IEC 61800-7-203: N2 and N4.
    ['n2', '100', 0x4000n],
    ['n2', '-50', -0x2000n],
    ['n4', '100', 0x4000_0000n],
    ['n4', '-100', -0x4000_0000n],
    // 60 rpm are one turn of 2^17 counts a second; 1000 rpm 131072 × 1000 / 60, rounded.
    ['counts-per-second', '60', 131_072n],
    ['counts-per-second', '1000', 2_184_533n],
    // The sheet Pipit: 10 mm/s are 10/8 × 7/2 turns of 2^17 counts, in sixteenths.
    ['screw', '10', 9_175_040n],
    ['rpm-through-poles', '900', 3000n],
    ['rotary-table', '450', 9000n],
    ['rotary-table', '-90', 27_000n],
    // 4095 counts of an input are full scale there and 16384 here.
    ['analogue', '4095', 16384n],
    ['analogue', '2048', 8194n],
  ])('%s: %s gives %i', (id, value, raw) => {
    expect(rawOf(presetOf(id), value)).toBe(raw);
  });

  it.each([
    [2, 3000n],
    [4, 1500n],
    [6, 1000n],
    [8, 750n],
    [10, 600n],
    [12, 500n],
  ])('%i poles turn with %i rpm at 50 Hz (120 f / p)', (poles, rpm) => {
    const chain = chainOf([
      { kind: 'motor-poles', poles },
      { kind: 'resolution', value: '1' },
    ]);
    expect(rawOf(chain, `${rpm}`)).toBe(50n);
  });

  it('a motor with 3 % slip needs more frequency for its shaft speed', () => {
    // 1455 rpm at 50 Hz with 4 poles: the nameplate of the hoist.
    const chain = chainOf([
      { kind: 'motor-poles', poles: 4, slip: '0.03' },
      { kind: 'resolution', value: '0.01' },
    ]);
    expect(rawOf(chain, '1455')).toBe(5000n);
  });

  it('a copied analogue count says what an unscaled copy would do', () => {
    // 2048 of 4095 stands for half; copied as it is, 2048 of 16384 means an eighth.
    const [, own] = presetOf('analogue').steps;
    const back = toValue(chainOf([own!]), 2048n);
    expect(back.ok && fractionText(back.value.value)).toBe('25/2');
  });
});

describe('steps', () => {
  it.each<[string, ScalingStep, string, bigint]>([
    ['gear', { kind: 'gear', motor: '7', load: '2' }, '4', 14n],
    ['inverted gear', { kind: 'gear', motor: '7', load: '2', inverted: true }, '4', -14n],
    ['lead', { kind: 'lead', perTurn: '8' }, '20', 3n],
    ['circumference', { kind: 'circumference', perTurn: '0.5' }, '3', 6n],
    ['counts a turn', { kind: 'counts-per-turn', counts: '4096' }, '1/2', 2048n],
    ['factor', { kind: 'factor', by: '-3/2' }, '4', -6n],
    ['offset', { kind: 'offset', add: '-4' }, '20', 16n],
    ['limit', { kind: 'limit', min: '-5', max: '5' }, '20', 5n],
    ['modulo', { kind: 'modulo', turn: '360' }, '-10', 350n],
    ['minutes', { kind: 'minutes-to-seconds' }, '120', 2n],
  ])('%s', (_, step, value, raw) => {
    expect(rawOf(chainOf([step]), value)).toBe(raw);
  });

  it('names a cut by a limit, with the numbers', () => {
    const made = toRaw(chainOf([{ kind: 'limit', min: '0', max: '50' }]), exact('60'));
    expect(made.ok && made.value.faults).toMatchObject([{ code: 'clipped', text: /60 .*0 to 50.* 50/ }]);
  });

  it.each<[string, ScalingStep, string]>([
    ['a full scale of 0 in units', { kind: 'full-scale', value: '0', raw: '100' }, 'full scale in units is 0'],
    ['a full scale of 0 in counts', { kind: 'full-scale', value: '50', raw: '0' }, 'full scale in counts is 0'],
    ['a count of 0', { kind: 'resolution', value: '0' }, 'size of one count is 0'],
    ['no lead', { kind: 'lead', perTurn: '0' }, 'the lead is 0'],
    ['a load that does not turn', { kind: 'gear', motor: '1', load: '0' }, 'turns of the load is 0'],
    ['a factor of 0', { kind: 'factor', by: '0' }, 'a factor of 0'],
    ['limits the wrong way round', { kind: 'limit', min: '5', max: '4' }, 'lower limit 5 is above'],
    ['three poles', { kind: 'motor-poles', poles: 3 }, '3 poles'],
    ['all slip', { kind: 'motor-poles', poles: 4, slip: '1' }, 'a slip of 1'],
    ['a turn of 0', { kind: 'modulo', turn: '0' }, 'one turn is 0'],
    ['no number', { kind: 'offset', add: 'x' }, 'the offset: “x” is no number'],
  ])('%s is named', (_, step, text) => {
    expect(rawOf(chainOf([step]), '1')).toContain(text);
  });
});

describe('sign forms', () => {
  it.each<[WireWord, bigint, bigint]>([
    [{ bits: 16, signed: true }, -2n, 0xfffen],
    [{ bits: 16, signed: true, form: 'sign-magnitude' }, -2n, 0x8002n],
    [{ bits: 16, signed: true, form: 'direction-bit' }, -2n, 2n],
    [{ bits: 8, signed: true }, -128n, 0x80n],
    [{ bits: 32, signed: true, form: 'sign-magnitude' }, -1n, 0x8000_0001n],
  ])('%j holds %i as %i', (word, raw, wire) => {
    expect(toWire(raw, word)).toBe(wire);
    if (word.form !== 'direction-bit') expect(fromWire(wire, word)).toBe(raw);
  });

  it.each<[WireWord, number, readonly number[]]>([
    [{ bits: 16, signed: true }, 0x0f45, [0x0f, 0x45]],
    [{ bits: 16, signed: true, order: 'BA' }, 0x0f45, [0x45, 0x0f]],
    [{ bits: 32, signed: true }, 0x01020304, [1, 2, 3, 4]],
    [{ bits: 32, signed: true, order: 'CDAB' }, 0x01020304, [3, 4, 1, 2]],
    [{ bits: 32, signed: true, order: 'BADC' }, 0x01020304, [2, 1, 4, 3]],
    [{ bits: 32, signed: true, order: 'DCBA' }, 0x01020304, [4, 3, 2, 1]],
    [{ bits: 8, signed: true }, 0x7f, [0x7f]],
  ])('%j puts %i out as %j', (word, wire, bytes) => {
    expect(wireBytes(BigInt(wire), word)).toEqual(bytes);
  });

  it('names a negative zero and a sign that is read the other way', () => {
    const chain = chainOf([{ kind: 'resolution', value: '1' }], { bits: 16, signed: true, form: 'sign-magnitude' });
    expect(notCanonical(chain, 0x8000n)).toMatch(/negative zero.*0x0000/);
    expect(notCanonical(chain, 0x8001n)).toBe('');
    expect(signTrouble(chainOf([], { bits: 16, signed: true }), 0xfffen)).toMatch(/plain number it would be 65534/);
    expect(signTrouble(chainOf([], { bits: 16, signed: true }), 0x7ffen)).toBe('');
  });

  it('says that a word without a sign cannot hold a negative number', () => {
    const made = toRaw(chainOf([], { bits: 16, signed: false }), ratio(-5n));
    expect(made.ok && made.value.faults[0]?.text).toMatch(/negative, and this word has no sign/);
  });
});

/** Every pattern of 16 bits, and a spread of those of 32. */
function* patterns(bits: number): Iterable<bigint> {
  const all = 1n << BigInt(bits);
  const step = bits <= 16 ? 1n : all / 20_011n;
  for (let wire = 0n; wire < all; wire += step) yield wire;
}

it.each(SCALE_PRESETS.map((preset) => [preset.name, preset.chain] as const))(
  '%s: raw to value to raw gives the raw back, or it is named',
  (_, chain) => {
    const { min, max } = rangeOf(chain.word);
    const wrong: string[] = [];
    for (const wire of patterns(chain.word.bits)) {
      const back = toValue(chain, wire);
      if (!back.ok) throw new Error(back.error.text);
      const again = toRaw(chain, back.value.value);
      if (!again.ok) throw new Error(again.error.text);
      const same = again.value.wire === wire && again.value.raw >= min && again.value.raw <= max;
      // A pattern that comes back needs no sentence; the sentence is asked for of every one that does not, and of some that do.
      if ((!same || wire % 97n === 0n) && same !== (notCanonical(chain, wire) === '')) wrong.push(wire.toString(16));
    }
    expect(wrong).toEqual([]);
    // Only a rotary table has numbers that it never sends.
    const named = notCanonical(chain, 0xfffen);
    expect(named === '').toBe(!chain.steps.some(({ kind }) => kind === 'modulo'));
  },
);

it('rounding costs half a count at most with the nearest rules, less than one with the others', () => {
  const presets = SCALE_PRESETS.filter(({ id }) => id !== 'rotary-table');
  fc.assert(
    fc.property(
      fc.constantFrom(...presets),
      fc.constantFrom(...ROUNDINGS),
      fc.integer({ min: -100_000, max: 100_000 }),
      ({ chain }, rounding, thousandths) => {
        const made = toRaw({ ...chain, rounding }, ratio(BigInt(thousandths), 1000n));
        if (!made.ok) throw new Error(made.error.text);
        const bound = ['nearestHalfUp', 'halfEven', 'halfAwayFromZero'].includes(rounding) ? ratio(1n, 4n) : ratio(1n);
        expect(compare(multiply(made.value.error, made.value.error), bound)).toBeLessThanOrEqual(0);
      },
    ),
    { seed: 5, numRuns: 1000 },
  );
});

it('the diameter of a wheel: one turn is π times it, nearer than a double holds π', () => {
  const chain = chainOf([
    { kind: 'diameter', across: '0.2' },
    { kind: 'counts-per-turn', counts: '4096' },
  ]);
  // π·0.2 m is one turn: 4096 counts.
  const there = toRaw(chain, exact('0.628318530717958648'));
  expect(there.ok && [there.value.raw, there.value.faults]).toEqual([4096n, []]);
  const back = toValue(chain, 4096n);
  expect(back.ok && Math.abs(parseFloat(decimalText(back.value.value, 15, false)) - Math.PI * 0.2)).toBeLessThan(1e-15);
  expect(toRaw(chainOf([{ kind: 'diameter', across: '0' }]), exact('1')).ok).toBe(false);
});
