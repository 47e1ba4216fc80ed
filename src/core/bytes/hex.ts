import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';

/**
 * What stands before a hex number as programs and manuals write it: `0x`, `16#` with or without the type of IEC 61131-3 before it (`WORD#16#`),
 * `$`, `&H`. For use within a regular expression that ignores case.
 */
export const HEX_MARK = String.raw`(?:0x|(?:(?:byte|d?word)#)?16#|\$|&h)`;

const PAIRS: readonly string[] = Array.from({ length: 256 }, (_, byte) => byte.toString(16).padStart(2, '0'));

/**
 * Bytes as hex text, lower case.
 * @example bytesToHex(Uint8Array.of(1, 0x6b), ' ') // '01 6b'
 */
export function bytesToHex(bytes: Iterable<number>, separator = ''): string {
  let text = '';
  for (const byte of bytes) text += (text === '' ? '' : separator) + (PAIRS[byte & 0xff] as string);
  return text;
}

/** A number of `digits` hex digits, upper case, as technicians write it: `0x0F45`. */
export function hexNumber(value: number | bigint, digits = 4): string {
  return `0x${value.toString(16).toUpperCase().padStart(digits, '0')}`;
}

/** The value of a hex digit’s character code, 0 to 15; -1 for any other character. */
export const digitOf = (code: number): number => {
  if (code >= 48 && code <= 57) return code - 48;
  const lower = code | 0x20;
  return lower >= 97 && lower <= 102 ? lower - 87 : -1;
};

/**
 * Strict hex: pairs of digits, either case, blanks allowed anywhere between digits.
 * Faults: `bad-hex-digit` at the character, `odd-hex-digits` at the digit that has no partner.
 */
export function hexToBytes(text: string): Result<Uint8Array, Fault> {
  const bytes = new Uint8Array(text.length >> 1);
  let count = 0;
  let high = -1;
  let highAt = 0;
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (code === 32 || (code >= 9 && code <= 13)) continue;
    const digit = digitOf(code);
    if (digit < 0)
      return failed(fault('bad-hex-digit', at, at + 1, `“${text[at]}” at character ${at + 1} is no hex digit`));
    if (high < 0) {
      high = digit;
      highAt = at;
    } else {
      bytes[count++] = (high << 4) | digit;
      high = -1;
    }
  }
  if (high >= 0)
    return failed(
      fault('odd-hex-digits', highAt, highAt + 1, `the hex digit at character ${highAt + 1} has no partner`),
    );
  return done(bytes.slice(0, count));
}
