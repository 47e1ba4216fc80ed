import { bytesToHex, hexToBytes } from '../bytes/hex';
import { decodeNumber, encodeNumber } from '../bytes/number';
import { counted } from '../counted';
import { done, failed, type Result } from '../result';
import { dateText, dateWords } from './date';
import { isDateType, type ParameterType } from './type';

/** Types whose values no pattern of 32 bits holds. */
const WIDE = ['int64', 'uint64', 'float64', 'text', 'bytes', 'date-fields', 'time-fields', 'time-of-day'] as const;
export type WideType = (typeof WIDE)[number];

/** Whether values of a type are kept as words and not as one number. */
export const isWide = (type: ParameterType): type is WideType => (WIDE as readonly string[]).includes(type);

/** How a wide value lies in its registers. A text may have the low byte of each register first, `BA`; a number its own order. */
export interface WideForm {
  readonly type: WideType;
  readonly order: string | undefined;
  /** Registers that it takes. */
  readonly words: number;
}

const bytesOfWords = (words: readonly number[], isLowFirst: boolean): Uint8Array =>
  Uint8Array.from(words.flatMap((word) => (isLowFirst ? [word & 0xff, word >>> 8] : [word >>> 8, word & 0xff])));

const wordsOfBytes = (bytes: Uint8Array, isLowFirst: boolean): readonly number[] =>
  Array.from({ length: bytes.length / 2 }, (_, i) => {
    const [first = 0, second = 0] = bytes.subarray(2 * i);
    return isLowFirst ? second * 256 + first : first * 256 + second;
  });

/** What is no printable character of Latin-1 shows as a point. */
const UNPRINTABLE = /[^ -~\u00a0-\u00ff]/g;

/** What the words hold, as a person reads and types it; bytes where they are no such value. */
export function wideText({ type, order }: Pick<WideForm, 'type' | 'order'>, words: readonly number[]): string {
  const bytes = bytesOfWords(words, order === 'BA');
  if (type === 'text')
    return String.fromCharCode(...bytes)
      .replace(/\0+$/, '')
      .replace(UNPRINTABLE, '·');
  if (type === 'bytes') return bytesToHex(bytes, ' ');
  if (isDateType(type)) return dateText(type, words);
  const read = decodeNumber(type, order ?? 'ABCDEFGH', bytes);
  return read.ok ? (read.value.short ?? read.value.value) : bytesToHex(bytes, ' ');
}

/**
 * The words of a typed value: a number without its unit, a text with or without quotation marks, filled with zeros, a date as ISO 8601 has it, or bytes in hex. A sentence where
 * the type or its registers do not hold it.
 */
export function wideWords({ type, order, words }: WideForm, typed: string): Result<readonly number[], string> {
  const size = 2 * words;
  if (type === 'text') {
    const text = /^[“"](.*)[”"]$/s.exec(typed)?.[1] ?? typed;
    const at = text.search(UNPRINTABLE);
    if (at >= 0) return failed(`“${text.slice(at, at + 1)}” is no character of Latin-1`);
    if (text.length > size) return failed(`${counted(text.length, 'character')}: it holds ${size}`);
    const bytes = Uint8Array.from({ length: size }, (_, i) => (i < text.length ? text.charCodeAt(i) : 0));
    return done(wordsOfBytes(bytes, order === 'BA'));
  }
  if (type === 'bytes') {
    const bytes = hexToBytes(typed);
    if (!bytes.ok) return failed(bytes.error.text);
    return bytes.value.length === size
      ? done(wordsOfBytes(bytes.value, order === 'BA'))
      : failed(`${counted(bytes.value.length, 'byte')}: it takes ${size}`);
  }
  if (isDateType(type)) return dateWords(type, typed);
  const built = encodeNumber(type, order ?? 'ABCDEFGH', typed);
  return built.ok ? done(wordsOfBytes(built.value, false)) : failed(built.error.text);
}
