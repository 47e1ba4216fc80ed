/** CRC-16/MODBUS over any stretch of a buffer in constant time, after one pass over all of it: what makes looking for frames linear. */

/** Longest stretch that can be asked for. */
export const WINDOW_MAX = 256;

const STEP = Uint16Array.from({ length: 256 }, (_, byte) => {
  let register = byte;
  for (let bit = 0; bit < 8; bit++) register = register & 1 ? (register >>> 1) ^ 0xa001 : register >>> 1;
  return register;
});

/** A register's low and high byte carried through n zero bytes, for n up to `WINDOW_MAX`. The CRC is linear, so both halves add up. */
const LOW = new Uint16Array((WINDOW_MAX + 1) * 256);
const HIGH = new Uint16Array((WINDOW_MAX + 1) * 256);
for (let byte = 0; byte < 256; byte++) {
  LOW[byte] = byte;
  HIGH[byte] = byte << 8;
}
for (let at = 256; at < LOW.length; at++) {
  const [low, high] = [LOW[at - 256] as number, HIGH[at - 256] as number];
  LOW[at] = (low >>> 8) ^ (STEP[low & 0xff] as number);
  HIGH[at] = (high >>> 8) ^ (STEP[high & 0xff] as number);
}

/**
 * Whether `bytes[start, end)` ends with its own good check, by the registers that `Crc16Window` loaded. At most `WINDOW_MAX` bytes. A plain
 * function, since it is asked several times for every byte of a stream.
 */
export function isGoodStretch(registers: Uint16Array, start: number, end: number): boolean {
  const begun = (registers[start] as number) ^ 0xffff;
  const row = (end - start) << 8;
  return (
    ((registers[end] as number) ^ (LOW[row + (begun & 0xff)] as number) ^ (HIGH[row + (begun >>> 8)] as number)) === 0
  );
}

export class Crc16Window {
  /** Register after so many bytes, begun at 0. */
  registers: Uint16Array;

  constructor(capacity: number) {
    this.registers = new Uint16Array(capacity + 1);
  }

  /** Takes `bytes[0, end)`; what was taken before is forgotten. */
  load(bytes: Uint8Array, end: number): void {
    if (this.registers.length <= end) this.registers = new Uint16Array(end + 1);
    const { registers } = this;
    let register = 0;
    registers[0] = 0;
    for (let at = 0; at < end; at++) {
      register = (register >>> 8) ^ (STEP[(register ^ (bytes[at] as number)) & 0xff] as number);
      registers[at + 1] = register;
    }
  }

  isGood(start: number, end: number): boolean {
    return isGoodStretch(this.registers, start, end);
  }
}
