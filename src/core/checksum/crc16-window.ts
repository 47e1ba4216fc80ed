import { IS_LOW_FIRST } from './crc16';

/**
 * CRC-16/MODBUS over any stretch of a buffer in constant time, after one pass over all of it: what makes looking for frames linear.
 *
 * One step of the register is linear and has an inverse: after the bytes b(0) .. b(n-1) it holds M^n·FFFF + the sum of M^(n-i)·b(i). That is
 * 0, which is a good check, where the sum of M^-i·b(i) is FFFF, however long the stretch. So each byte is carried back to one origin and
 * added up, and a stretch is good where the sums at its end and at its begin differ by FFFF carried back to its begin. The origin moves on
 * every 256 bytes, or the table would be too large: a sum beyond it is carried back to the origin before, to which that one's whole is added.
 */

/** Longest stretch that can be asked for: no stretch goes over more than one origin. */
const WINDOW_MAX = 256;
const ORIGIN = 256;

const STEP = Uint16Array.from({ length: 256 }, (_, byte) => {
  let register = byte;
  for (let bit = 0; bit < 8; bit++) register = register & 1 ? (register >>> 1) ^ 0xa001 : register >>> 1;
  return register;
});
/** Which byte gave a step its high byte; each gives another one. */
const UNDO = new Uint8Array(256);
STEP.forEach((register, byte) => (UNDO[register >>> 8] = byte));

/** The register before a step with a zero byte. */
function stepBack(register: number): number {
  const low = UNDO[register >>> 8] as number;
  return (((register ^ (STEP[low] as number)) & 0xff) << 8) | low;
}

/** Every byte carried back over 0 to 255 bytes; what is for one byte stands together, since a stream has few different ones. */
const BYTE_BACK = new Uint16Array(256 * ORIGIN);

/**
 * Where in a window what stands: a sum's low and high byte carried back from one origin to the one before; FFFF, with which a register begins,
 * carried back over 0 to 255 bytes; the sum up to each origin from the one before, for buffers of up to 64 kB; the sum up to each place from
 * the origin before it. All in one array, because each further one would have to be checked and looked up for every byte of a stream.
 */
export const LOW_AT = 0;
export const HIGH_AT = 256;
export const BEGIN_AT = 512;
export const WHOLES_AT = 768;
export const SUMS_AT = 1040;

/** What is the same in every window. */
const HEAD = new Uint16Array(WHOLES_AT).fill(0xffff, BEGIN_AT, BEGIN_AT + 1);
for (let byte = 0; byte < 256; byte++) {
  let [low, high] = [byte, byte << 8];
  for (let bytes = 0; bytes < ORIGIN; bytes++) {
    BYTE_BACK[(byte << 8) | bytes] = low;
    [low, high] = [stepBack(low), stepBack(high)];
  }
  HEAD[LOW_AT + byte] = low;
  HEAD[HIGH_AT + byte] = high;
}
for (let bytes = 1; bytes < ORIGIN; bytes++) HEAD[BEGIN_AT + bytes] = stepBack(HEAD[BEGIN_AT + bytes - 1] as number);

/** What the sum at a good end is, for a stretch that begins at `start`. */
const begunAt = (window: Uint16Array, start: number): number =>
  (window[SUMS_AT + start] as number) ^ (window[BEGIN_AT + (start & 0xff)] as number);

/** Whether a stretch that begins at `start`, where `begunAt` gave `begun`, ends with its own good check at `end`. At most `WINDOW_MAX` bytes. */
export function endsWell(window: Uint16Array, begun: number, start: number, end: number): boolean {
  const sum = window[SUMS_AT + end] as number;
  if (start >>> 8 === end >>> 8) return begun === sum;
  return (
    begun ===
    ((window[WHOLES_AT + (end >>> 8)] as number) ^
      (window[LOW_AT + (sum & 0xff)] as number) ^
      (window[HIGH_AT + (sum >>> 8)] as number))
  );
}

/** Whether the bytes from `start` up to `end` end with their own CRC, low byte first; a few table steps whatever its length. */
export const isGoodStretch = (window: Uint16Array, start: number, end: number): boolean =>
  endsWell(window, begunAt(window, start), start, end);

/**
 * The first place from `from` to `until` at which a stretch from `start` on ends well; -1 where there is none. As `endsWell` in a loop, with
 * what it needs at hand: every stretch of noise comes by here.
 */
export function nextGoodEnd(window: Uint16Array, start: number, from: number, until: number): number {
  const sums = SUMS_AT | 0;
  const begun = begunAt(window, start);
  const untilOrigin = Math.min(until, start | 0xff) | 0;
  let end = from | 0;
  for (; end <= untilOrigin; end = (end + 1) | 0) if (window[sums + end] === begun) return end;
  for (; end <= until; end = (end + 1) | 0) if (endsWell(window, begun, start, end)) return end;
  return -1;
}

/** A window for buffers of so many bytes, 65,536 at most, with room for a look beyond them; of even length, for sums that are put down in pairs. */
export function crc16Window(capacity: number): Uint16Array {
  const window = new Uint16Array(SUMS_AT + capacity + 2 - (capacity & 1) + 2 * WINDOW_MAX);
  window.set(HEAD);
  return window;
}

/** Takes `bytes[0, end)`; what was taken before is forgotten. */
export function loadWindow(window: Uint16Array, bytes: Uint8Array, end: number): void {
  const back = BYTE_BACK;
  const sums = SUMS_AT | 0;
  // To reach into memory costs as much as a step: two bytes are taken at once where they lie so, and two sums are put down.
  const inPairs = IS_LOW_FIRST && (bytes.byteOffset & 1) === 0;
  const pairs = new Uint16Array(bytes.buffer, inPairs ? bytes.byteOffset : 0, inPairs ? end >>> 1 : 0);
  const sumPairs = new Uint32Array(window.buffer, window.byteOffset, window.length >>> 1);
  let sum = 0;
  for (let origin = 0; origin <= end; origin += ORIGIN) {
    window[WHOLES_AT + (origin >>> 8)] = sum;
    sum = 0;
    const until = Math.min(origin + ORIGIN, end) | 0;
    const untilPair = (inPairs ? until - 1 : 0) | 0;
    let at = origin | 0;
    for (; at < untilPair; at = (at + 2) | 0) {
      const pair = pairs[at >>> 1] as number;
      const second = sum ^ (back[((pair & 0xff) << 8) | (at & 0xff)] as number);
      sumPairs[(sums + at) >>> 1] = sum | (second << 16);
      sum = second ^ (back[(pair & 0xff00) | ((at + 1) & 0xff)] as number);
    }
    for (; at < until; at = (at + 1) | 0) {
      window[sums + at] = sum;
      sum ^= back[((bytes[at] as number) << 8) | (at & 0xff)] as number;
    }
    if (until === end) window[sums + end] = end === origin + ORIGIN ? 0 : sum;
  }
}
