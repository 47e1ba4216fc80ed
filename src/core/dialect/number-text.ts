import { failed, done, type Result } from '../result';
import type { DialectField } from './dialect';

type Shape = Pick<DialectField, 'base' | 'width' | 'sign' | 'decimals'>;

const POINT = '.';

/** How far a number in this form reaches in `text` from `at` on; equal to `at` where none begins. */
export function numberEnd(text: string, at: number, { base, width, sign, decimals }: Shape): number {
  const digit = base === 'hex' ? /[0-9A-Fa-f]/ : /[0-9]/;
  let end = at;
  if ((sign === 'minus' || sign === 'always') && (text[end] === '-' || text[end] === '+')) end++;
  const first = end;
  const most = width === undefined ? Infinity : first + width + (decimals ? 1 : 0);
  while (end < most && (digit.test(text[end] ?? '') || (decimals !== undefined && text[end] === POINT))) end++;
  return end === first ? at : end;
}

/** The number that a piece of text says in this form, or why it says none. */
export function readNumber(text: string, shape: Shape): Result<number, string> {
  const { base, width, sign, decimals } = shape;
  const body = text.replace(/^[+-]/, '');
  const signed = body.length < text.length;
  if (text === '') return failed('a number is missing');
  if (signed && sign !== 'minus' && sign !== 'always') return failed('this number has no sign');
  if (!signed && sign === 'always') return failed('a sign must stand before this number');
  if (signed && text.startsWith('+') && sign === 'minus') return failed('a plus sign is not written here');
  const form = base === 'hex' ? /^[0-9A-Fa-f]+$/ : decimals ? new RegExp(`^\\d+\\.\\d{${decimals}}$`) : /^\d+$/;
  if (!form.test(body))
    return failed(
      decimals ? `a number with ${decimals} digits behind the point is wanted` : `“${text}” is no ${base} number`,
    );
  const digits = body.replace(POINT, '');
  if (width !== undefined && digits.length !== width)
    return failed(`${width} digits are wanted, ${digits.length} are there`);
  const value = parseInt(digits, base === 'hex' ? 16 : 10);
  if (!Number.isSafeInteger(value)) return failed('this number is too long');
  const bits = sign === 'twos' && width !== undefined ? 4 * width : 0;
  if (bits > 0 && value >= 2 ** (bits - 1)) return done(value - 2 ** bits);
  return done(text.startsWith('-') ? -value : value);
}

/** A number in this form, or why it does not fit. */
export function writeNumber(value: number, { base, width, sign, decimals }: Shape): Result<string, string> {
  if (!Number.isSafeInteger(value)) return failed(`${value} is no whole number`);
  if (value < 0 && sign === undefined) return failed(`${value} is negative, and this number has no sign`);
  const bits = sign === 'twos' ? 4 * (width ?? 8) : 0;
  if (bits > 0 && (value < -(2 ** (bits - 1)) || value >= 2 ** (bits - 1)))
    return failed(`${value} does not fit ${bits} bits`);
  const magnitude = bits > 0 && value < 0 ? value + 2 ** bits : Math.abs(value);
  const digits = magnitude
    .toString(base === 'hex' ? 16 : 10)
    .toUpperCase()
    .padStart(Math.max(width ?? 1, (decimals ?? 0) + 1), '0');
  if (width !== undefined && digits.length > width) return failed(`${value} needs more than ${width} digits`);
  const pointed = decimals ? `${digits.slice(0, -decimals)}${POINT}${digits.slice(-decimals)}` : digits;
  if (bits > 0) return done(pointed);
  return done(`${value < 0 ? '-' : sign === 'always' ? '+' : ''}${pointed}`);
}
