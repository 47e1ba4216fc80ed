import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';
import { multiply, parseRational, ratio, type Rational } from './rational';

/** Ways in which people write one unit; the first is the one that they are compared by. */
const SAME: readonly (readonly string[])[] = [
  ['rpm', 'r/min', '1/min', 'min-1', 'min⁻¹', 'u/min', 'tr/min'],
  ['s', 'sec'],
  ['°c', 'degc'],
  ['%', 'percent', 'pct'],
  ['°', 'deg'],
  ['ohm', 'ω'],
];
/** SI prefixes (ISO 80000-1) that are met at drives; letters differ by case, so these are not folded. */
const PREFIXES: Readonly<Record<string, Rational>> = {
  k: ratio(1000n),
  M: ratio(1_000_000n),
  m: ratio(1n, 1000n),
  µ: ratio(1n, 1_000_000n),
  μ: ratio(1n, 1_000_000n),
};

/** Characters of a number with its unit. */
const MOST = 100;

const folded = (unit: string): string => {
  const plain = unit.toLowerCase().replace(/\s/g, '').replace('\u2212', '-');
  return SAME.find((names) => names.includes(plain))?.[0] ?? plain;
};

/** What turns a number in a typed unit into the field’s; null where they are two kinds of thing. */
function factorOf(typed: string, unit: string): Rational | null {
  if (folded(typed) === folded(unit)) return ratio(1n);
  const prefix = PREFIXES[typed.charAt(0)];
  return prefix && typed.slice(1) === unit ? prefix : null;
}

/**
 * Reads a number as `parseRational` does, with or without its unit behind it: `15`, `15 Hz`, `0.015 kHz` in a field of Hz. Exact.
 * Faults: those of `parseRational`; `not-allowed` over the characters of a unit that is another one than the field’s.
 * @param unit unit of the field; empty where it has none, and then no unit may stand behind the number
 */
export function parseQuantity(text: string, unit: string): Result<Rational, Fault> {
  // Nothing that people type is so long; what is pasted must not be searched for a unit.
  if (text.length > MOST) return parseRational(text);
  const [, number = '', typed = ''] = /^([\s\d+\-\u2212\u2013.,/]*(?:e[+-]?\d+)?)\s*(.*?)\s*$/i.exec(text) ?? [];
  const value = typed === '' || number.trim() === '' ? parseRational(text) : parseRational(number);
  if (!value.ok || typed === '' || number.trim() === '') return value;
  const factor = factorOf(typed, unit);
  if (factor) return done(multiply(value.value, factor));
  const at = text.indexOf(typed, number.trimEnd().length);
  return failed(
    fault(
      'not-allowed',
      at,
      at + typed.length,
      unit === '' ? `“${typed}” stands behind a plain number` : `“${typed}” is not the unit of this field, ${unit}`,
    ),
  );
}
