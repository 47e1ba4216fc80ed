import { readingsOfWord, type BaseReading } from '../bytes/whole';
import { hexNumber } from '../bytes/hex';

/** Another base in which the same text is a word: what it would be, and the text that says so without doubt. */
export interface OtherReading {
  readonly value: number;
  readonly text: string;
}

export interface ParsedWord {
  /** Null where the text is no word of this width. */
  readonly value: number | null;
  /** How it was read, or what is wrong. */
  readonly text: string;
  /** What else it may mean; none where the text says its base. */
  readonly others: readonly OtherReading[];
}

/**
 * A word typed or pasted in any base: `0x000D`, `000Dh`, `$0D`, `0b1101`, `13`, `-3` (two's complement), sixteen binary digits, two halves.
 * Blanks and underscores may separate digits. Where the text leaves the base open, the others are told.
 */
export function parseWord(text: string, width: number): ParsedWord {
  const readings = readingsOfWord(text, width);
  const [first, ...rest] = readings.filter(({ value }) => value < 2 ** width && value >= -(2 ** (width - 1)));
  if (!first)
    return {
      value: null,
      text: readings.length > 0 ? `${text.trim()} does not fit ${width} bits` : 'expected 0x000D, 000Dh, 0b1101 or 13',
      others: [],
    };
  return {
    value: first.value < 0 ? first.value + 2 ** width : first.value,
    text: first.value < 0 ? 'read as decimal, two’s complement' : `read as ${first.base}`,
    others: rest
      .filter(({ value }) => value !== first.value)
      .map((reading) => ({ value: reading.value, text: markedText(reading, width) })),
  };
}

const markedText = ({ value, base }: BaseReading, width: number): string =>
  base === 'hex' ? hexNumber(value, width / 4) : base === 'binary' ? `0b${value.toString(2)}` : String(value);

/** The word as a signed number, with a true minus sign. */
export const signedText = (word: number, width: number): string =>
  word >= 2 ** (width - 1) ? `−${2 ** width - word}` : `${word}`;
