/**
 * CRC-16/MODBUS over any stretch of a buffer in constant time, after one pass over all of it: what makes looking for frames linear.
 *
 * One step of the register is linear and has an inverse: after the bytes b(0) .. b(n-1) it holds M^n·FFFF + the sum of M^(n-i)·b(i). That is
 * 0, which is a good check, where the sum of M^-i·b(i) is FFFF, however long the stretch. So each byte is carried back to one origin and
 * added up, and a stretch is good where the sums at its end and at its begin differ by FFFF carried back to its begin. The origin moves on
 * every 256 bytes, or the table would be too large: a sum beyond it is carried back to the origin before, to which that one's whole is added.
 */

/** Longest stretch that can be asked for: no stretch goes over more than one origin. */
export const WINDOW_MAX = 256;
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

/** Every byte carried back over 0 to 255 bytes. */
const BYTE_BACK = new Uint16Array(ORIGIN * 256);
/** A sum's low and high byte carried back from one origin to the one before. */
export const LOW_BACK = new Uint16Array(256);
export const HIGH_BACK = new Uint16Array(256);
for (let byte = 0; byte < 256; byte++) {
  let [low, high] = [byte, byte << 8];
  for (let bytes = 0; bytes < ORIGIN; bytes++) {
    BYTE_BACK[(bytes << 8) | byte] = low;
    [low, high] = [stepBack(low), stepBack(high)];
  }
  LOW_BACK[byte] = low;
  HIGH_BACK[byte] = high;
}
/** FFFF, with which a register begins, carried back over 0 to 255 bytes. */
export const BEGIN_BACK = new Uint16Array(ORIGIN).fill(0xffff);
for (let bytes = 1; bytes < ORIGIN; bytes++) BEGIN_BACK[bytes] = stepBack(BEGIN_BACK[bytes - 1] as number);

/** The sums of a buffer: up to each place from the origin before it, and up to each origin from the one before. */
export interface StretchSums {
  readonly sums: Uint16Array;
  readonly wholes: Uint16Array;
}

/** What the sum at a good end is, for a stretch that begins at `start`. */
export const begunAt = ({ sums }: StretchSums, start: number): number =>
  (sums[start] as number) ^ (BEGIN_BACK[start & 0xff] as number);

/** Whether a stretch that begins at `start`, where `begunAt` gave `begun`, ends with its own good check at `end`. At most `WINDOW_MAX` bytes. */
export function endsWell({ sums, wholes }: StretchSums, begun: number, start: number, end: number): boolean {
  const sum = sums[end] as number;
  if (start >>> 8 === end >>> 8) return begun === sum;
  return (
    begun === ((wholes[end >>> 8] as number) ^ (LOW_BACK[sum & 0xff] as number) ^ (HIGH_BACK[sum >>> 8] as number))
  );
}

export const isGoodStretch = (window: StretchSums, start: number, end: number): boolean =>
  endsWell(window, begunAt(window, start), start, end);

/** The first place from `from` to `until` at which a stretch from `start` on ends well; -1 where there is none. */
export function nextGoodEnd(window: StretchSums, start: number, from: number, until: number): number {
  const begun = begunAt(window, start);
  for (let end = from; end <= until; end++) if (endsWell(window, begun, start, end)) return end;
  return -1;
}

export class Crc16Window implements StretchSums {
  sums = new Uint16Array(0);
  wholes = new Uint16Array(0);

  constructor(capacity: number) {
    this.#make(capacity);
  }

  /** Takes `bytes[0, end)`; what was taken before is forgotten. */
  load(bytes: Uint8Array, end: number): void {
    if (this.sums.length <= end) this.#make(end);
    const { sums, wholes } = this;
    const byteBack = BYTE_BACK;
    let sum = 0;
    for (let origin = 0; origin <= end; origin += ORIGIN) {
      wholes[origin >>> 8] = sum;
      sum = 0;
      const until = Math.min(origin + ORIGIN, end);
      for (let at = origin; at < until; at++) {
        sums[at] = sum;
        sum ^= byteBack[((at & 0xff) << 8) | (bytes[at] as number)] as number;
      }
      if (until === end) sums[end] = end === origin + ORIGIN ? 0 : sum;
    }
  }

  isGood(start: number, end: number): boolean {
    return isGoodStretch(this, start, end);
  }

  /** Room for places up to `capacity`, and for a look beyond them. */
  #make(capacity: number): void {
    this.sums = new Uint16Array(capacity + 1 + 2 * WINDOW_MAX);
    this.wholes = new Uint16Array(((capacity + 1 + 2 * WINDOW_MAX) >>> 8) + 1);
  }
}
