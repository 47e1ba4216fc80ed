import { crc16 } from '../checksum/crc16';
import { digitOf } from '../bytes/hex';
import { ASCII_MAX, ASCII_MIN } from './ascii';
import { frameLengthAt, NOT_A_FRAME, OPEN_LENGTH, openLengths } from './frame-length';
import type { Direction } from '../direction';
import { wordAt } from './list-codec';
import { RTU_MAX } from './rtu';
import { TCP_HEAD, TCP_MAX, TCP_MIN } from './tcp';

export { NOT_A_FRAME } from './frame-length';
export const NEED_MORE = 0;

/**
 * Looks for one frame that begins at `start`: its length when structure and check agree, `NEED_MORE` while it may still become one,
 * `NOT_A_FRAME` when no frame of this direction begins here. A chunk may hold half a frame or three.
 */
export function probeRtu(bytes: Uint8Array, start: number, end: number, direction: Direction): number {
  const length = frameLengthAt(bytes, start, end, direction);
  if (length === OPEN_LENGTH) return probeOpen(bytes, start, end, direction);
  if (length < 0) return NOT_A_FRAME;
  if (end - start < length) return NEED_MORE;
  return crc16(bytes, start, start + length) === 0 ? length : NOT_A_FRAME;
}

function probeOpen(bytes: Uint8Array, start: number, end: number, direction: Direction): number {
  const { from, step } = openLengths(bytes, start, direction);
  const most = Math.min(end - start, RTU_MAX);
  for (let length = from; length <= most; length += step) if (crc16(bytes, start, start + length) === 0) return length;
  return end - start < RTU_MAX ? NEED_MORE : NOT_A_FRAME;
}

/** The same for Modbus ASCII: from the colon to CR LF, the check included. */
export function probeAscii(bytes: Uint8Array, start: number, end: number): number {
  if (end > start && bytes[start] !== 0x3a) return NOT_A_FRAME;
  const most = Math.min(end, start + ASCII_MAX);
  let sum = 0;
  for (let at = start + 1; at < most; at++) {
    const char = bytes[at] as number;
    const digit = digitOf(char);
    if (digit >= 0) {
      sum += (at - start) % 2 === 1 ? digit << 4 : digit;
      continue;
    }
    if (char !== 0x0d) return NOT_A_FRAME;
    if (at + 1 >= end) return NEED_MORE;
    const length = at + 2 - start;
    return bytes[at + 1] === 0x0a && length >= ASCII_MIN && length % 2 === 1 && (sum & 0xff) === 0
      ? length
      : NOT_A_FRAME;
  }
  return end - start < ASCII_MAX ? NEED_MORE : NOT_A_FRAME;
}

/** The same for Modbus TCP: header and structure, for there is no check. */
export function probeTcp(bytes: Uint8Array, start: number, end: number): number {
  const available = end - start;
  if (available < TCP_HEAD) return available >= 4 && wordAt(bytes, start + 2) !== 0 ? NOT_A_FRAME : NEED_MORE;
  if (wordAt(bytes, start + 2) !== 0) return NOT_A_FRAME;
  const total = TCP_HEAD + wordAt(bytes, start + 4);
  if (total < TCP_MIN || total > TCP_MAX) return NOT_A_FRAME;
  return available < total ? NEED_MORE : total;
}
