import { hexNumber } from '../bytes/hex';
import { fault, type Fault } from '../fault';
import { failed, done, type Result } from '../result';
import type { ScalingChain, ScalingStep, WireWord } from './chain';
import {
  compare,
  decimalText,
  divide,
  fractionText,
  multiply,
  parseRational,
  ratio,
  subtract,
  type Rational,
} from './rational';
import { round, ROUNDING_TEXT } from './rounding';

/** A value turned into the number on the wire, with everything that happened on the way. */
export interface Scaled {
  /** The integer before it is put into the word; may be negative. */
  readonly raw: bigint;
  /** The pattern on the wire, 0 to 2^bits - 1. */
  readonly wire: number;
  readonly hex: string;
  /** What the counts would be before rounding. */
  readonly exact: Rational;
  /** raw - exact, in counts. */
  readonly error: Rational;
  /** The value that the raw number stands for. */
  readonly sent: Rational;
  readonly working: readonly string[];
  readonly faults: readonly Fault[];
}

/** What one step does: the counts (or next unit) are the value times this factor. */
interface Factor {
  readonly factor: Rational;
  readonly show: (input: string, output: string) => string;
}

const DECIMALS = 6;
const show = (value: Rational): string => decimalText(value, DECIMALS);

/** The factor of a step, or the fault that makes it impossible (a zero full scale, text that is no number). */
function factorOf(step: ScalingStep): Result<Factor, Fault> {
  switch (step.kind) {
    case 'full-scale': {
      const value = positive(step.value, 'the full scale in units');
      const raw = positive(step.raw, 'the full scale in counts');
      if (!value.ok) return value;
      if (!raw.ok) return raw;
      return done({
        factor: divide(raw.value, value.value),
        show: (input, output) => `${input} / ${step.value} × ${step.raw} = ${output}`,
      });
    }
    case 'resolution': {
      const value = positive(step.value, 'the size of one count');
      if (!value.ok) return value;
      return done({
        factor: divide(ratio(1n), value.value),
        show: (input, output) => `${input} / ${step.value} = ${output}`,
      });
    }
    case 'motor-poles': {
      if (!Number.isInteger(step.poles) || step.poles < 2 || step.poles % 2 === 1)
        return failed(fault('value-out-of-range', 0, 0, `${step.poles} poles: a motor has 2, 4, 6 … poles`));
      return done({
        factor: ratio(BigInt(step.poles), 120n),
        show: (input, output) => `${input} × ${step.poles} poles / 120 = ${output}`,
      });
    }
  }
}

function positive(text: string, what: string): Result<Rational, Fault> {
  const parsed = parseRational(text);
  if (!parsed.ok) return failed({ ...parsed.error, text: `${what}: ${parsed.error.text}` });
  if (parsed.value.num <= 0n)
    return failed(fault('value-out-of-range', 0, text.length, `${what} is ${text}, it must be more than 0`));
  return parsed;
}

/** All factors of a chain, or its first fault; a sheet's cross-field check calls this before anyone scales. */
export function factorsOf(chain: ScalingChain): Result<readonly Factor[], Fault> {
  const factors: Factor[] = [];
  for (const step of chain.steps) {
    const factor = factorOf(step);
    if (!factor.ok) return factor;
    factors.push(factor.value);
  }
  return done(factors);
}

/** The raw numbers that a word can hold. */
export function rangeOf({ bits, signed }: WireWord): { readonly min: bigint; readonly max: bigint } {
  const span = 1n << BigInt(bits);
  return signed ? { min: -span / 2n, max: span / 2n - 1n } : { min: 0n, max: span - 1n };
}

/** The pattern of a raw number on the wire (two's complement); a number that does not fit is cut to the word's bits. */
export const toWire = (raw: bigint, { bits }: WireWord): bigint => BigInt.asUintN(bits, raw);

/** The raw number that a pattern stands for. */
export const fromWire = (wire: bigint, { bits, signed }: WireWord): bigint =>
  signed ? BigInt.asIntN(bits, wire) : BigInt.asUintN(bits, wire);

/** BigInt to number for patterns of at most 32 bits, which a double holds exactly. */
const small = (wire: bigint): number => parseInt(wire.toString(), 10);

/**
 * From the value that was said to the number on the wire. A result that the word cannot hold is a `value-out-of-range` fault,
 * and `wire` then shows what a careless cut would send.
 */
export function toRaw(chain: ScalingChain, value: Rational): Result<Scaled, Fault> {
  const factors = factorsOf(chain);
  if (!factors.ok) return factors;
  const working: string[] = [];
  let exact = value;
  for (const { factor, show: line } of factors.value) {
    const next = multiply(exact, factor);
    working.push(line(show(exact), show(next)));
    exact = next;
  }
  const raw = round(exact, chain.rounding);
  const error = subtract(ratio(raw), exact);
  working.push(
    error.num === 0n ? `${raw}, nothing to round` : `${show(exact)} ${ROUNDING_TEXT[chain.rounding]} = ${raw}`,
  );
  const wire = small(toWire(raw, chain.word));
  const hex = hexNumber(wire, chain.word.bits / 4);
  working.push(raw < 0n ? `${raw} as ${chain.word.bits}-bit two's complement = ${hex}` : `${raw} = ${hex}`);
  return done({
    raw,
    wire,
    hex,
    exact,
    error,
    sent: scaleBack(factors.value, raw),
    working,
    faults: faultsOfRange(raw, chain.word),
  });
}

function faultsOfRange(raw: bigint, word: WireWord): readonly Fault[] {
  const { min, max } = rangeOf(word);
  if (raw >= min && raw <= max) return [];
  return [
    fault(
      'value-out-of-range',
      0,
      word.bits / 8,
      `${raw} does not fit a ${word.signed ? 'signed' : 'plain'} ${word.bits}-bit word (${min} to ${max})`,
    ),
  ];
}

const scaleBack = (factors: readonly Factor[], raw: bigint): Rational =>
  factors.reduceRight((value, { factor }) => divide(value, factor), ratio(raw));

/** From a pattern on the wire to the value that it stands for, with the working. */
export function toValue(
  chain: ScalingChain,
  wire: bigint,
): Result<{ readonly value: Rational; readonly raw: bigint; readonly working: readonly string[] }, Fault> {
  const factors = factorsOf(chain);
  if (!factors.ok) return factors;
  const raw = fromWire(wire, chain.word);
  const value = scaleBack(factors.value, raw);
  const sign =
    raw < 0n ? [`${hexNumber(small(toWire(wire, chain.word)), chain.word.bits / 4)} as two's complement = ${raw}`] : [];
  return done({ value, raw, working: [...sign, `${raw} = ${show(value)} ${chain.unit}${fractionNote(value)}`] });
}

const fractionNote = (value: Rational): string =>
  decimalText(value, DECIMALS).startsWith('≈') ? `, exactly ${fractionText(value)}` : '';

/** Synchronous speed n = 120 f / poles in rpm, slip left out (common practice). */
export const synchronousSpeedRpm = (frequencyHz: Rational, poles: number): Rational =>
  divide(multiply(frequencyHz, ratio(120n)), ratio(BigInt(poles)));

export const isBetween = (value: Rational, min: Rational, max: Rational): boolean =>
  compare(value, min) >= 0 && compare(value, max) <= 0;
