import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';

/** Numbers as drives keep them over two, four or eight bytes, in every order that is met (registers are high byte first by the standard). */
export const NUMBER_TYPES = ['int16', 'uint16', 'int32', 'uint32', 'float32', 'int64', 'uint64', 'float64'] as const;
export type NumberType = (typeof NUMBER_TYPES)[number];

const SIZES: Readonly<Record<NumberType, 2 | 4 | 8>> = {
  int16: 2,
  uint16: 2,
  int32: 4,
  uint32: 4,
  float32: 4,
  int64: 8,
  uint64: 8,
  float64: 8,
};

/** Orders by size, the plain one first. A letter is a byte of the number, A the highest; they stand as on the wire. */
const BYTE_ORDERS: Readonly<Record<2 | 4 | 8, readonly string[]>> = {
  2: ['AB', 'BA'],
  4: ['ABCD', 'CDAB', 'BADC', 'DCBA'],
  8: ['ABCDEFGH', 'GHEFCDAB', 'BADCFEHG', 'HGFEDCBA'],
};

/** Bytes that a number of this type takes. */
export const sizeOfNumber = (type: NumberType): 2 | 4 | 8 => SIZES[type];
/** The orders in which its bytes may stand, as letters with A the highest. */
export const ordersOf = (type: NumberType): readonly string[] => BYTE_ORDERS[SIZES[type]];

export interface StoredNumber {
  /** Exactly what the bytes hold: an integer, the whole decimal expansion of a float, `NaN`, `Infinity`, `-Infinity`. */
  readonly value: string;
  /** For floats, the shortest decimal that reads back as the same number. */
  readonly short?: string;
}

/** Bytes on the wire put into the order of the number, and back: each letter says which byte stands there. */
const reorder = (bytes: Uint8Array, order: string, toWire: boolean): Uint8Array => {
  const out = new Uint8Array(bytes.length);
  for (let i = 0; i < bytes.length; i++) {
    const rank = order.charCodeAt(i) - 65;
    if (toWire) out[i] = bytes[rank] as number;
    else out[rank] = bytes[i] as number;
  }
  return out;
};

const problem = (text: string): { readonly ok: false; readonly error: Fault } =>
  failed(fault('value-out-of-range', 0, 0, text));

/** What the bytes hold. Faults: `value-out-of-range` for a wrong number of bytes or an order that this size does not have. */
export function decodeNumber(type: NumberType, order: string, bytes: Uint8Array): Result<StoredNumber, Fault> {
  const size = SIZES[type];
  if (!BYTE_ORDERS[size].includes(order)) return problem(`order ${order}: ${type} has ${BYTE_ORDERS[size].join(', ')}`);
  if (bytes.length !== size) return problem(`${bytes.length} bytes; ${type} takes ${size}`);
  const plain = reorder(bytes, order, false);
  const view = new DataView(plain.buffer);
  switch (type) {
    case 'float32':
      return done(floatText(view.getFloat32(0), shortFloat32));
    case 'float64':
      return done(floatText(view.getFloat64(0), String));
    default: {
      const unsigned = plain.reduce((sum, byte) => (sum << 8n) | BigInt(byte), 0n);
      return done({
        value: String(type.startsWith('u') ? BigInt.asUintN(8 * size, unsigned) : BigInt.asIntN(8 * size, unsigned)),
      });
    }
  }
}

/** The bytes of a number as text. Integers must fit exactly; a decimal is rounded to the nearest float, ties to even (IEEE 754). */
export function encodeNumber(type: NumberType, order: string, text: string): Result<Uint8Array, Fault> {
  const size = SIZES[type];
  if (!BYTE_ORDERS[size].includes(order)) return problem(`order ${order}: ${type} has ${BYTE_ORDERS[size].join(', ')}`);
  const plain = new Uint8Array(size);
  const view = new DataView(plain.buffer);
  const bare = text.trim();
  if (type === 'float32' || type === 'float64') {
    if (!/^[+-]?(?:\d+\.?\d*(?:e[+-]?\d{1,4})?|\.\d+(?:e[+-]?\d{1,4})?|Infinity|NaN)$/i.test(bare))
      return problem(`“${text}” is no decimal number`);
    if (type === 'float64') view.setFloat64(0, Number(bare));
    else view.setFloat32(0, nearestFloat32(bare));
    return done(reorder(plain, order, true));
  }
  if (!/^[+-]?(?:\d{1,40}|0x[0-9a-f]{1,16})$/i.test(bare)) return problem(`“${text}” is no whole number`);
  const sign = bare.startsWith('-') ? -1n : 1n;
  const value = sign * BigInt(bare.replace(/^[+-]/, ''));
  const [low, high] = type.startsWith('u')
    ? [0n, (1n << BigInt(8 * size)) - 1n]
    : [-(1n << BigInt(8 * size - 1)), (1n << BigInt(8 * size - 1)) - 1n];
  if (value < low || value > high) return problem(`${bare} does not fit ${type}: ${low} to ${high}`);
  const bits = BigInt.asUintN(8 * size, value);
  for (let i = 0; i < size; i++) plain[i] = Number((bits >> BigInt(8 * (size - 1 - i))) & 0xffn);
  return done(reorder(plain, order, true));
}

function floatText(value: number, short: (value: number) => string): StoredNumber {
  if (!Number.isFinite(value)) return { value: String(value), short: String(value) };
  if (Object.is(value, -0)) return { value: '-0', short: '-0' };
  return { value: exactDecimal(value), short: short(value) };
}

/** The fewest digits that read back as the same float. */
function shortFloat32(value: number): string {
  for (let digits = 1; digits < 9; digits++) {
    const text = value.toPrecision(digits);
    if (nearestFloat32(text) === value) return String(Number(text));
  }
  return String(Number(value.toPrecision(9)));
}

/** A finite double as mantissa and power of two. */
function partsOf(value: number): { readonly mantissa: bigint; readonly power: number } {
  const view = new DataView(new ArrayBuffer(8));
  view.setFloat64(0, value);
  const bits = view.getBigUint64(0);
  const exponent = Number((bits >> 52n) & 0x7ffn);
  const fraction = bits & 0xfffffffffffffn;
  const mantissa = exponent === 0 ? fraction : fraction | (1n << 52n);
  return { mantissa: bits >> 63n === 1n ? -mantissa : mantissa, power: Math.max(exponent, 1) - 1075 };
}

/** A finite double with all its digits. Every binary fraction ends as a decimal: m / 2^n = m × 5^n / 10^n. */
export function exactDecimal(value: number): string {
  const { mantissa, power } = partsOf(value);
  if (power >= 0) return String(mantissa << BigInt(power));
  const places = -power;
  const sign = mantissa < 0n ? '-' : '';
  const digits = String((mantissa < 0n ? -mantissa : mantissa) * 5n ** BigInt(places)).padStart(places + 1, '0');
  const fraction = digits.slice(-places).replace(/0+$/, '');
  return `${sign}${digits.slice(0, -places)}${fraction === '' ? '' : `.${fraction}`}`;
}

/**
 * A decimal rounded once to single precision. By way of a double it is rounded twice, which goes wrong only where the double lies exactly between
 * two floats: there the text decides.
 */
function nearestFloat32(text: string): number {
  const double = Number(text);
  const first = Math.fround(double);
  const [below, above] = neighbours(double, first);
  if (below === null || above === null || (below + above) / 2 !== double) return first;
  const order = compare(text, double);
  return order < 0 ? below : order > 0 ? above : first;
}

function neighbours(double: number, first: number): readonly [number | null, number | null] {
  if (!Number.isFinite(first) || first === double) return [null, null];
  const view = new DataView(new ArrayBuffer(4));
  view.setFloat32(0, first);
  const bits = view.getInt32(0);
  const away = (step: number): number => {
    view.setInt32(0, bits + step);
    return view.getFloat32(0);
  };
  if (first === 0) return [null, null];
  const outward = away(1);
  const inward = away(-1);
  const [lower, upper] = first > 0 ? [inward, outward] : [outward, inward];
  return double < first ? [lower, first] : [first, upper];
}

/** A decimal text against a double, exactly. */
function compare(text: string, double: number): number {
  const match = /^([+-]?)(\d*)\.?(\d*)(?:e([+-]?\d+))?$/i.exec(text.trim());
  if (!match) return 0;
  const [, sign, whole = '', fraction = '', exponent = '0'] = match;
  const digits = BigInt(`${whole}${fraction}` || '0') * (sign === '-' ? -1n : 1n);
  const tens = parseInt(exponent, 10) - fraction.length;
  const { mantissa, power } = partsOf(double);
  const left = digits * (tens > 0 ? 10n ** BigInt(tens) : 1n) * (power < 0 ? 1n << BigInt(-power) : 1n);
  const right = mantissa * (power > 0 ? 1n << BigInt(power) : 1n) * (tens < 0 ? 10n ** BigInt(-tens) : 1n);
  return left < right ? -1 : left > right ? 1 : 0;
}
