import { crc16 } from '../checksum/crc16';
import { EXCEPTION_BIT, FUNCTIONS, layoutOf, type Direction } from './layout';
import { lengthRule } from './place';
import { wordAt } from './body';
import { RTU_MAX, RTU_MIN } from './rtu';
import { TCP_HEAD, TCP_MAX, TCP_MIN } from './tcp';

/** Length rules as flat tables, a look-up per frame: base length of the whole frame and place of its byte count (-1: none). */
interface Rules {
  readonly base: Int16Array;
  readonly countAt: Int16Array;
}

function rulesOf(direction: Direction): Rules {
  const base = new Int16Array(256).fill(-1);
  const countAt = new Int16Array(256).fill(-1);
  for (let code = 0; code < 256; code++) {
    const layout = FUNCTIONS[code & ~EXCEPTION_BIT] && layoutOf(code, direction);
    if (!layout) continue;
    const rule = lengthRule(layout);
    base[code] = 2 + rule.base + 2;
    countAt[code] = rule.countAt < 0 ? -1 : 2 + rule.countAt;
  }
  return { base, countAt };
}

const RULES: Readonly<Record<Direction, Rules>> = { request: rulesOf('request'), response: rulesOf('response') };

export const NEED_MORE = 0;
export const NOT_A_FRAME = -1;

/**
 * How many bytes a frame that begins at `start` has, as far as that can be told: at least one more than there are while its byte count has
 * not come, `NOT_A_FRAME` where no frame of this direction begins so.
 */
export function frameLengthAt(bytes: Uint8Array, start: number, end: number, direction: Direction): number {
  const available = end - start;
  if (available < 2) return available + 1;
  const { base, countAt } = RULES[direction];
  const code = bytes[start + 1] as number;
  const length = base[code] as number;
  const place = countAt[code] as number;
  if (length < 0) return NOT_A_FRAME;
  if (place < 0) return length;
  if (available <= place) return place + 1;
  const counted = length + (bytes[start + place] as number);
  return counted > RTU_MAX ? NOT_A_FRAME : counted;
}

/**
 * Looks for one frame that begins at `start`: its length when structure and check agree, `NEED_MORE` while it may still become one,
 * `NOT_A_FRAME` when no frame of this direction begins here. A chunk may hold half a frame or three.
 */
export function probeRtu(bytes: Uint8Array, start: number, end: number, direction: Direction): number {
  const length = frameLengthAt(bytes, start, end, direction);
  if (length < 0) return NOT_A_FRAME;
  if (end - start < length) return NEED_MORE;
  return crc16(bytes, start, start + length) === 0 ? length : NOT_A_FRAME;
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

/** Frames found in a stretch of bytes, as offsets; the bytes between frames were skipped. */
export interface Scan {
  readonly starts: Uint32Array;
  readonly lengths: Uint16Array;
  readonly count: number;
  /** From here on more bytes are needed to tell. */
  readonly pendingFrom: number;
}

/** Finds all frames of one direction in `bytes[0, end)`, by structure and check alone. */
export function scanRtu(bytes: Uint8Array, direction: Direction, end = bytes.length): Scan {
  const room = Math.ceil(end / RTU_MIN);
  const starts = new Uint32Array(room);
  const lengths = new Uint16Array(room);
  let count = 0;
  let at = 0;
  let pendingFrom = -1;
  while (at < end) {
    const found = probeRtu(bytes, at, end, direction);
    if (found > 0) {
      starts[count] = at;
      lengths[count++] = found;
      at += found;
      pendingFrom = -1;
      continue;
    }
    if (found === NEED_MORE && pendingFrom < 0) pendingFrom = at;
    at++;
  }
  return {
    starts: starts.subarray(0, count),
    lengths: lengths.subarray(0, count),
    count,
    pendingFrom: pendingFrom < 0 ? end : pendingFrom,
  };
}
