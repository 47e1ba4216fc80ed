import { parseRational, ratio, type Rational } from '../scaling/rational';

/** Which mark a text puts before its decimals; the other one, blanks and apostrophes part thousands. */
export type DecimalMark = '.' | ',';

/** A number as tables print it: a sign, digits with parted thousands, decimals in either notation, or hex. */
export const NUMBER = String.raw`[+\-]?(?:0x[0-9A-Fa-f]+|[0-9A-Fa-f]+h\b|\d{1,3}(?:[ '’]\d{3})+(?:[.,]\d+)?|\d+(?:[.,]\d+)*(?:e[+\-]?\d{1,2})?|[.,]\d+)`;

const SPACES = /[\u00A0\u2007\u2009\u202F]/g;
const MINUS = /[\u2212\uFE63\uFF0D]/g;

/** The same text with plain blanks and plain minus signs; as many characters as before. */
export const plain = (text: string): string => text.replace(SPACES, ' ').replace(MINUS, '-');

/**
 * The decimal mark that a text uses. Three digits behind a mark prove nothing, since they may be thousands; where nothing proves anything,
 * `usual` stands.
 */
export function decimalMarkOf(text: string, usual: DecimalMark = '.'): DecimalMark {
  const proofs = { ',': 0, '.': 0 };
  for (const [, whole = '', mark = '', decimals = ''] of text.matchAll(/(?<![\d.,])(\d+)([.,])(\d+)(?![\d.,]*\d)/g)) {
    const isDecimal = decimals.length !== 3 || whole === '0' || whole.length > 3;
    if (isDecimal && (mark === ',' || mark === '.')) proofs[mark]++;
  }
  for (const [, thousands] of text.matchAll(/\d([.,])\d{3}[.,]\d/g)) proofs[thousands === '.' ? ',' : '.']++;
  if (proofs[','] === proofs['.']) return usual;
  return proofs[','] > proofs['.'] ? ',' : '.';
}

const HEX = /^([+-]?)(?:0x([0-9a-f]+)|([0-9a-f]+)h)$/i;

/** A printed number, exactly; null where the text is none. */
export function printedNumber(text: string, mark: DecimalMark): Rational | null {
  const bare = plain(text).replace(/[ '’]/g, '');
  const hex = HEX.exec(bare);
  if (hex) return ratio(BigInt(`0x${hex[2] ?? hex[3] ?? '0'}`) * (hex[1] === '-' ? -1n : 1n));
  const thousands = mark === '.' ? ',' : '.';
  const grouped = new RegExp(`^[+-]?\\d{1,3}(?:\\${thousands}\\d{3})+(?:\\${mark}\\d+)?$`).test(bare);
  const joined = grouped ? bare.split(thousands).join('') : bare;
  if (!/^[+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:e[+-]?\d{1,2})?$/i.test(joined)) return null;
  const parsed = parseRational(joined);
  return parsed.ok ? parsed.value : null;
}

/** A number as a decimal with all its places, or as a fraction where it has no end. */
export function numberText({ num, den }: Rational): string {
  let [places, tens] = [0, 1n];
  while (tens % den !== 0n && places < 40) {
    places++;
    tens *= 10n;
  }
  if (tens % den !== 0n) return `${num}/${den}`;
  const digits = `${(num < 0n ? -num : num) * (tens / den)}`.padStart(places + 1, '0');
  const cut = digits.length - places;
  return `${num < 0n ? '-' : ''}${digits.slice(0, cut)}${places > 0 ? `.${digits.slice(cut)}` : ''}`;
}
