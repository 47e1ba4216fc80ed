import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';

/** An exact fraction in lowest terms; `den` is always positive. */
export interface Rational {
  readonly num: bigint;
  readonly den: bigint;
}

const abs = (value: bigint): bigint => (value < 0n ? -value : value);

function gcd(a: bigint, b: bigint): bigint {
  while (b !== 0n) [a, b] = [b, a % b];
  return a;
}

/** A fraction from two integers; a zero denominator is a bug of the caller, who must have checked it. */
export function ratio(num: bigint, den = 1n): Rational {
  if (den === 0n) throw new RangeError('expected a denominator other than 0');
  const divisor = gcd(abs(num), abs(den)) || 1n;
  const sign = den < 0n ? -1n : 1n;
  return { num: (sign * num) / divisor, den: (sign * den) / divisor };
}

/** The exact sum. */
export const add = (a: Rational, b: Rational): Rational => ratio(a.num * b.den + b.num * a.den, a.den * b.den);
/** The exact difference. */
export const subtract = (a: Rational, b: Rational): Rational => ratio(a.num * b.den - b.num * a.den, a.den * b.den);
/** The exact product. */
export const multiply = (a: Rational, b: Rational): Rational => ratio(a.num * b.num, a.den * b.den);
/** The exact quotient; throws a `RangeError` for a divisor of 0, which a caller rules out. */
export const divide = (a: Rational, b: Rational): Rational => ratio(a.num * b.den, a.den * b.num);
/** Without its sign. */
export const magnitude = ({ num, den }: Rational): Rational => ratio(num < 0n ? -num : num, den);

/** -1, 0 or 1, as `a` is below, equal to or above `b`. */
export const compare = (a: Rational, b: Rational): number => {
  const difference = a.num * b.den - b.num * a.den;
  return difference < 0n ? -1 : difference > 0n ? 1 : 0;
};

/** Longest number that is read, in characters; a longer one is a slip, not a speed. */
const LONGEST = 60;
const DECIMAL = /^([+-]?)(\d*)(?:[.,](\d*))?(?:e([+-]?\d{1,2}))?$/i;

/**
 * Reads a decimal (`17.5`, `-0,01`, `1e3`) or a fraction (`12287/4`) exactly, without a binary float in between.
 * Faults: `empty`, `bad-token` (characters), `value-out-of-range` for a denominator of 0 or an absurd length.
 */
export function parseRational(text: string): Result<Rational, Fault> {
  const trimmed = text.trim().replace(/^[\u2212\u2013]/, '-');
  if (trimmed === '') return failed(fault('empty', 0, text.length, 'a number is missing'));
  if (trimmed.length > LONGEST)
    return failed(fault('value-out-of-range', 0, text.length, `more than ${LONGEST} characters is no number for this`));
  const slash = trimmed.indexOf('/');
  if (slash < 0) return parseDecimal(trimmed);
  const above = parseDecimal(trimmed.slice(0, slash).trim());
  const below = parseDecimal(trimmed.slice(slash + 1).trim());
  if (!above.ok) return above;
  if (!below.ok) return below;
  if (below.value.num === 0n)
    return failed(fault('value-out-of-range', slash + 1, text.length, 'the number under the line is 0'));
  return done(divide(above.value, below.value));
}

function parseDecimal(text: string): Result<Rational, Fault> {
  const parts = DECIMAL.exec(text);
  const [, sign = '', whole = '', decimals = '', exponent = '0'] = parts ?? [];
  if (!parts || whole + decimals === '') {
    const at = Math.max(0, text.search(/[^0-9+\-.,]/));
    return failed(
      fault('bad-token', at, at + 1, `“${text}” is no number; it stops making sense at character ${at + 1}`),
    );
  }
  const power = BigInt(exponent) - BigInt(decimals.length);
  const digits = BigInt(sign + whole + decimals);
  return done(power >= 0n ? ratio(digits * 10n ** power) : ratio(digits, 10n ** -power));
}

/** `12287/4`, or `3071` where it is whole. */
/** A fraction as people read it: with more than a few digits above or below it says nothing, and its decimals are told. */
export const readableFraction = (value: Rational): string => {
  const digits = (part: bigint): number => part.toString().replace('-', '').length;
  return digits(value.num) <= 6 && digits(value.den) <= 6 ? fractionText(value) : decimalText(value, 12);
};

/** A fraction in lowest terms, or a whole number. */
export const fractionText = ({ num, den }: Rational): string => (den === 1n ? `${num}` : `${num}/${den}`);

/** True when the decimal notation ends within `decimals` places. */
export const isShortDecimal = (value: Rational, decimals: number): boolean =>
  (value.num * 10n ** BigInt(decimals)) % value.den === 0n;

/**
 * Decimal text with at most `decimals` places, rounded half away from zero, without trailing zeros; `≈` when it is not exact.
 * @example decimalText(ratio(12287n, 4n), 3) // '3071.75'
 */
export function decimalText(value: Rational, decimals: number, mark = true): string {
  const scale = 10n ** BigInt(decimals);
  const scaled = abs(value.num) * scale;
  const whole = (2n * scaled + value.den) / (2n * value.den);
  const digits = whole.toString().padStart(decimals + 1, '0');
  const cut = digits.length - decimals;
  const fraction = digits.slice(cut).replace(/0+$/, '');
  const sign = value.num < 0n && whole !== 0n ? '−' : '';
  const about = mark && !isShortDecimal(value, decimals) ? '≈ ' : '';
  return `${about}${sign}${digits.slice(0, cut)}${fraction === '' ? '' : `.${fraction}`}`;
}

/** What a field holds: a decimal where it ends within six places, else the fraction; exact either way, and read back by `parseRational`. */
export function exactText(value: Rational): string {
  const text = isShortDecimal(value, 6) ? decimalText(value, 6).replace('−', '-') : fractionText(value);
  // No field reads more than that; what is cut here is beyond the twelfth place.
  return text.length <= LONGEST ? text : decimalText(value, 12, false).replace('−', '-').slice(0, LONGEST);
}
