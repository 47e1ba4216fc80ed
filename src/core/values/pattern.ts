import { bytesToHex } from '../bytes/hex';
import { wordsOfType, type ParameterType } from './type';

/**
 * A pattern is what one to two words of 16 bits hold, as one unsigned number with the highest byte first, whatever the order on the wire. Values of
 * more words have none; `decodeNumber` in `core/bytes` reads them exactly.
 */

const WIDEST_PATTERN = 2;

/** Bytes in the order of the value: the letters of `order` say which byte stands where on the wire, A the highest. */
const rankOf = (order: string, at: number): number => order.charCodeAt(at) - 65;

/** The bytes of a value, the highest first, from its words as they stand on the wire. */
function bytesOfWords(words: readonly number[], order: string | undefined): readonly number[] {
  const wire = words.flatMap((word) => [word >>> 8, word & 0xff]);
  if (order?.length !== wire.length) return wire;
  const bytes = wire.map(() => 0);
  wire.forEach((byte, i) => (bytes[rankOf(order, i)] = byte));
  return bytes;
}

/** The words of a value as they stand on the wire, as one pattern; null where there are more than two. */
export function patternOfWords(words: readonly number[], order: string | undefined): number | null {
  if (words.length > WIDEST_PATTERN) return null;
  return bytesOfWords(words, order).reduce((sum, byte) => sum * 256 + byte, 0);
}

/** The words of a value of any width as technicians write its pattern, the highest byte first: `0x3FF8000000000000`. */
export const hexOfWords = (words: readonly number[], order: string | undefined): string =>
  `0x${bytesToHex(bytesOfWords(words, order)).toUpperCase()}`;

/** The words on the wire that hold a pattern. */
export function wordsOfPattern(pattern: number, words: number, order: string | undefined): readonly number[] {
  const size = 2 * words;
  const bytes = Array.from({ length: size }, (_, i) => Math.floor(pattern / 2 ** (8 * (size - 1 - i))) % 256);
  const wire = order?.length === size ? bytes.map((_, i) => bytes[rankOf(order, i)] ?? 0) : bytes;
  return Array.from({ length: words }, (_, i) => (wire[2 * i] ?? 0) * 256 + (wire[2 * i + 1] ?? 0));
}

const BCD = (pattern: number): number => {
  const digits = pattern.toString(16);
  return /^\d+$/.test(digits) ? parseInt(digits, 10) : NaN;
};

/** The number that a pattern stands for by its type: signed, a float, decimal digits; NaN where it is none. */
export function numberOfPattern(type: ParameterType, pattern: number): number {
  switch (type) {
    case 'int8':
      return (pattern & 0xff) >= 128 ? (pattern & 0xff) - 256 : pattern & 0xff;
    case 'uint8':
      return pattern & 0xff;
    case 'bool':
      return pattern === 0 ? 0 : 1;
    case 'int16':
      return pattern >= 2 ** 15 ? pattern - 2 ** 16 : pattern;
    case 'int32':
      return pattern >= 2 ** 31 ? pattern - 2 ** 32 : pattern;
    case 'bcd16':
    case 'bcd32':
      return BCD(pattern);
    case 'float32': {
      const view = new DataView(new ArrayBuffer(4));
      view.setUint32(0, pattern);
      return view.getFloat32(0);
    }
    default:
      return pattern;
  }
}

/** The pattern of a number that fits the type; a float is rounded to the nearest. */
export function patternOfNumber(type: ParameterType, number: number): number {
  if (type === 'float32') {
    const view = new DataView(new ArrayBuffer(4));
    view.setFloat32(0, number);
    return view.getUint32(0);
  }
  if (type === 'bcd16' || type === 'bcd32') return parseInt(`${Math.max(0, Math.trunc(number))}`, 16);
  const span = 2 ** (16 * Math.min(WIDEST_PATTERN, wordsOfType(type)));
  return ((number % span) + span) % span;
}
