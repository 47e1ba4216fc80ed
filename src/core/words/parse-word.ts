/** How a word may be written; the first form that fits counts. */
const FORMS: readonly { readonly form: RegExp; readonly base: number; readonly name: string }[] = [
  { form: /^(?:0x|16#)([0-9a-f]+)$/i, base: 16, name: 'hex' },
  { form: /^([0-9a-f]+)h$/i, base: 16, name: 'hex' },
  { form: /^(?:0b|2#)([01]+)$/i, base: 2, name: 'binary' },
  { form: /^(?:0o|8#)([0-7]+)$/i, base: 8, name: 'octal' },
  { form: /^(-?\d+)$/, base: 10, name: 'decimal' },
  // What begins as binary and is none may be a slip: it is not taken for hex.
  { form: /^(?!0b)([0-9a-f]+)$/i, base: 16, name: 'hex' },
];

export interface ParsedWord {
  /** Null where the text is no word of this width. */
  readonly value: number | null;
  /** How it was read, or what is wrong. */
  readonly text: string;
}

/** A word typed or pasted in any base: `0x000D`, `000Dh`, `0b1101`, `13`, `-3` (two's complement). Blanks and underscores may separate digits. */
export function parseWord(text: string, width: number): ParsedWord {
  const compact = text.replace(/[\s_]/g, '').replace(/^\u2212/, '-');
  for (const { form, base, name } of FORMS) {
    const digits = form.exec(compact)?.[1];
    if (digits === undefined) continue;
    const value = parseInt(digits, base);
    if (value >= 2 ** width || value < -(2 ** (width - 1)))
      return { value: null, text: `${digits} does not fit ${width} bits` };
    return value < 0
      ? { value: value + 2 ** width, text: 'read as decimal, two’s complement' }
      : { value, text: `read as ${name}` };
  }
  return { value: null, text: 'expected 0x000D, 000Dh, 0b1101 or 13' };
}

/** The word as a signed number, with a true minus sign. */
export const signedText = (word: number, width: number): string =>
  word >= 2 ** (width - 1) ? `−${2 ** width - word}` : `${word}`;
