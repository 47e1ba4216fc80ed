import { concatBytes } from '../bytes/concat';
import { bytesToHex, digitOf, hexNumber, hexToBytes } from '../bytes/hex';
import { bytesToText, textToBytes } from '../bytes/text';
import { counted } from '../counted';
import { fault, type Fault } from '../fault';
import type { Direction } from '../direction';
import type { ModbusReading } from './reading';
import { readSerial, sealSerial, type SerialRules } from './serial';
import { LRC_CHECK } from './serial-check';

/** Modbus over Serial Line V1.02, 2.5.2: a colon, hex pairs, CR LF. */
const COLON = 0x3a;
const CR = 0x0d;
const LF = 0x0a;
/** Characters of the longest frame. */
export const ASCII_MAX = 513;
/** Colon, station, function, check, CR LF. */
export const ASCII_MIN = 9;

/** 255 bytes of station, function, body and check make 510 characters, with the colon and the end 513. */
export const ASCII_RULES: SerialRules = { name: 'ASCII frame', check: LRC_CHECK, most: 255 };

/** The hex pairs of an ASCII frame made bytes; byte i stands at characters `from + 2 i` and the next. */
export interface Unwrapped {
  readonly inner: Uint8Array;
  /** Where the first pair begins: behind the last colon. */
  readonly from: number;
  /** Where the pairs end, and where what belongs to the frame ends. */
  readonly to: number;
  readonly end: number;
  readonly faults: readonly Fault[];
  /** All characters between colon and end were pairs of hex digits. */
  readonly readable: boolean;
}

/** Takes colon, hex pairs and end apart. Faults: `missing-start`, `restarted`, `missing-end`, `bad-hex-digit`, `odd-hex-digits`, `trailing-bytes`. */
export function unwrapAscii(chars: Uint8Array): Unwrapped {
  const faults: Fault[] = [];
  const lf = chars.indexOf(LF);
  const end = lf < 0 ? chars.length : lf + 1;
  const colon = chars.lastIndexOf(COLON, Math.max(end - 1, 0));
  const from = colon < 0 || colon >= end ? 0 : colon + 1;
  if (chars[0] !== COLON)
    faults.push(fault('missing-start', 0, Math.min(1, chars.length), 'an ASCII frame begins with a colon'));
  if (from > 1)
    faults.push(
      fault(
        'restarted',
        colon,
        colon + 1,
        `a colon at character ${colon + 1} begins the frame anew; what stands before it is lost`,
      ),
    );
  const hasCr = lf > 0 && chars[lf - 1] === CR;
  const to = lf < 0 ? (chars[end - 1] === CR ? end - 1 : end) : hasCr ? lf - 1 : lf;
  if (!hasCr) faults.push(fault('missing-end', Math.max(to, from), end, 'an ASCII frame ends with CR LF'));
  if (end < chars.length)
    faults.push(fault('trailing-bytes', end, chars.length, `${counted(chars.length - end, 'byte')} after the end`));
  const inner: number[] = [];
  let readable = true;
  for (let at = from; at < to; at++) {
    if (digitOf(chars[at] as number) >= 0) continue;
    readable = false;
    faults.push(
      fault('bad-hex-digit', at, at + 1, `${charText(chars[at] as number)} at character ${at + 1} is no hex digit`),
    );
  }
  for (let at = from; at + 1 < to; at += 2) {
    const [high, low] = [digitOf(chars[at] as number), digitOf(chars[at + 1] as number)];
    if (high < 0 || low < 0) break;
    inner.push((high << 4) | low);
  }
  if ((to - from) % 2 === 1) {
    readable = false;
    faults.push(fault('odd-hex-digits', to - 1, to, 'the last hex digit has no partner'));
  }
  return { inner: Uint8Array.from(inner), from, to: Math.max(to, from), end, faults, readable };
}

const charText = (char: number): string =>
  char > 0x20 && char < 0x7f ? `“${String.fromCharCode(char)}”` : `the byte ${hexNumber(char, 2)}`;

/** What a broken character leaves no sense in: the length and the check of what could be read. */
const BROKEN: ReadonlySet<string> = new Set([
  'truncated',
  'checksum-mismatch',
  'too-short',
  'byte-count-mismatch',
  'trailing-bytes',
]);

/** Reads one ASCII frame; offsets count characters. Never throws. */
export function readAscii(chars: Uint8Array, direction: Direction): ModbusReading {
  if (chars.length === 0)
    return {
      direction,
      message: null,
      faults: [fault('too-short', 0, 0, `0 bytes; the shortest ASCII frame has ${ASCII_MIN}`)],
      shape: { bodyEnd: 0, check: -1, checkGood: false, end: 0 },
    };
  const { inner, from, to, end, faults, readable } = unwrapAscii(chars);
  const reading = readSerial(inner, direction, ASCII_RULES);
  const place = (at: number): number => Math.min(from + 2 * at, to);
  const moved = reading.faults
    .filter(({ code }) => readable || !BROKEN.has(code))
    .map((one): Fault => ({ ...one, start: place(one.start), end: place(one.end) }));
  const { shape } = reading;
  return {
    direction,
    message: reading.message,
    faults: [...faults, ...moved],
    shape: {
      bodyEnd: place(shape.bodyEnd),
      check: shape.check < 0 ? -1 : place(shape.check),
      checkGood: shape.checkGood && readable,
      end: shape.end === inner.length && readable ? end : place(shape.end),
    },
  };
}

/** Station, function, body and check as the characters of a frame, digits in capitals as the standard has them. */
export const wrapAscii = (inner: Uint8Array): Uint8Array =>
  concatBytes(Uint8Array.of(COLON), textToBytes(bytesToHex(inner).toUpperCase()), Uint8Array.of(CR, LF));

/** The frame with its check made right; what is no ASCII frame stays as it is. */
export function sealAscii(chars: Uint8Array): Uint8Array {
  const { inner, readable } = unwrapAscii(chars);
  return readable && inner.length > 1 ? wrapAscii(sealSerial(inner, LRC_CHECK)) : chars.slice();
}

/** The frame of which colon, check or end were left out when it was written down. */
export function completeAscii(chars: Uint8Array): Uint8Array {
  const digits = hexToBytes(bytesToText(chars).replace(/^:|[\r\n]+$/g, ''));
  return digits.ok ? wrapAscii(sealSerial(concatBytes(digits.value, new Uint8Array(1)), LRC_CHECK)) : chars.slice();
}
