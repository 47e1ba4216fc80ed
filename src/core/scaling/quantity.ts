import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';
import { divide, multiply, parseRational, ratio, type Rational } from './rational';

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

/** Units of one kind, each with what it is of the first. Lengths by the international inch of 25.4 mm (ISO 80000-3). */
const KINDS: readonly Readonly<Record<string, Rational>>[] = [
  {
    mm: ratio(1n),
    cm: ratio(10n),
    m: ratio(1000n),
    µm: ratio(1n, 1000n),
    in: ratio(127n, 5n),
    ft: ratio(1524n, 5n),
  },
  { s: ratio(1n), ms: ratio(1n, 1000n), min: ratio(60n), h: ratio(3600n) },
];

const inKind = (unit: string): readonly [kind: number, factor: Rational] | null => {
  const kind = KINDS.findIndex((units) => Object.hasOwn(units, unit));
  const factor = KINDS[kind]?.[unit];
  return factor ? [kind, factor] : null;
};

/** One unit in another of its kind, such as cm in mm, or m/min in mm/s; null where they are two kinds of thing. */
export function unitFactor(typed: string, unit: string): Rational | null {
  const [a = [], b = []] = [typed, unit].map((one) => one.split('/'));
  if (a.length !== b.length || a.length > 2) return null;
  const [whole, per] = [0, 1].map((i) => {
    // A square stays with the time that it belongs to: mm/s² to mm/s² only, whatever the length.
    if (a[i] === b[i]) return ratio(1n);
    const [x, y] = [inKind(a[i] ?? ''), inKind(b[i] ?? '')];
    return x && y && x[0] === y[0] ? divide(x[1], y[1]) : null;
  });
  return whole && per ? divide(whole, per) : null;
}

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
  return prefix && typed.slice(1) === unit ? prefix : unitFactor(typed, unit);
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
