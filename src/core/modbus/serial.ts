import { counted } from '../counted';
import { bytesToHex, hexNumber } from '../bytes/hex';
import { fault, type Fault } from '../fault';
import { readBody } from './body';
import { isException } from './exceptions';
import { EXCEPTION_BIT } from './layout';
import type { Direction } from '../direction';
import { layoutAt } from './lookup';
import type { Draft } from './message';
import { placedUpTo, placeItems } from './place';
import type { FrameShape, ModbusReading } from './reading';
import { CRC_CHECK, type SerialCheck } from './serial-check';

/** Highest station address; 248 to 255 are reserved (Modbus over Serial Line V1.02, 2.2). */
export const UNIT_MAX = 247;

/** What tells one serial framing from the other: the check, and how long a frame may be in bytes of station, function, body and check. */
export interface SerialRules {
  readonly name: string;
  readonly check: SerialCheck;
  readonly most: number;
}

/** Reads station, function, body and check: an RTU frame, or an ASCII frame whose characters were made bytes. Never throws. */
export function readSerial(bytes: Uint8Array, direction: Direction, rules: SerialRules): ModbusReading {
  const { check, most, name } = rules;
  const size = bytes.length;
  if (size < 2 + check.size) return tooShort(bytes, direction, rules);
  const faults: Fault[] = [];
  const unit = bytes[0] as number;
  const code = bytes[1] as number;
  const layout = layoutAt(bytes, 1, size, direction);
  const message: Draft = { unit, fc: codeOf(code, direction) };
  if (unit > UNIT_MAX)
    faults.push(
      fault('value-out-of-range', 0, 1, `station ${unit} is reserved; 1 to ${UNIT_MAX} are stations, 0 is broadcast`),
    );
  const tried = layout && placeItems(layout, bytes, 2, size);
  const shape = shapeOf(bytes, tried?.end, check);
  if (layout && tried) {
    const placement = placedUpTo(tried, layout, bytes, 2, shape.bodyEnd);
    readBody(bytes, 2, placement, layout, shape.checkGood, message, faults);
  } else {
    message.dataHex = bytesToHex(bytes.subarray(2, shape.bodyEnd));
    faults.push(unknownFunction(code, direction));
  }
  if (isNoFunction(code, direction)) faults.push(noFunction(1));
  addFaultsOfShape(bytes, shape, faults, check);
  if (size > most) faults.push(fault('too-long', most, size, `${size} bytes; ${name} has ${most} at most`));
  return { direction, message, faults, shape };
}

/** The function in a code: only a response carries the exception bit. */
export const codeOf = (code: number, direction: Direction): number =>
  direction === 'response' ? code & ~EXCEPTION_BIT : code;

function tooShort(bytes: Uint8Array, direction: Direction, { check, name }: SerialRules): ModbusReading {
  const [unit, code] = bytes;
  const text = `${counted(bytes.length, 'byte')}; the shortest ${name} has ${2 + check.size}`;
  return {
    direction,
    message: unit === undefined || code === undefined ? null : { unit, fc: codeOf(code, direction) },
    faults: [fault('too-short', 0, bytes.length, text)],
    shape: { bodyEnd: bytes.length, check: -1, checkGood: false, end: bytes.length },
  };
}

/** Function codes are 1 to 127 (Modbus Application Protocol V1.1b3, 4.1): a refusal of function 0 refuses nothing. */
export const isNoFunction = (code: number, direction: Direction): boolean =>
  direction === 'response' && code === EXCEPTION_BIT;

/** The fault of a refusal (80h) of no function. */
export const noFunction = (at: number): Fault =>
  fault('unknown-function', at, at + 1, 'a refusal of function 0, which does not exist');

/** `at` is where the function code stands. */
export function unknownFunction(code: number, direction: Direction, at = 1): Fault {
  const text =
    isException(code) && direction === 'request'
      ? `function ${hexNumber(code, 2)} has the exception bit, which only replies have`
      : `function ${hexNumber(code, 2)} is not decoded here; its body is shown as it came`;
  return fault('unknown-function', at, at + 1, text);
}

/**
 * The check belongs where the structure ends (`bodyEnd`). When it is not good there but good at the very end, the structure lies about its
 * length; a cut frame has no check at all.
 */
function shapeOf(bytes: Uint8Array, bodyEnd: number | undefined, check: SerialCheck): FrameShape {
  const size = bytes.length;
  const atEnd: FrameShape = {
    bodyEnd: size - check.size,
    check: size - check.size,
    checkGood: check.good(bytes, size),
    end: size,
  };
  if (bodyEnd === undefined) return withoutZeros(bytes, atEnd, check);
  const expected = bodyEnd + check.size;
  if (expected === size) return atEnd;
  if (expected < size && check.good(bytes, expected))
    return { bodyEnd, check: bodyEnd, checkGood: true, end: expected };
  if (atEnd.checkGood) return atEnd;
  return expected < size
    ? { bodyEnd, check: bodyEnd, checkGood: false, end: expected }
    : { bodyEnd: Math.min(size, bodyEnd), check: -1, checkGood: false, end: Math.min(size, bodyEnd) };
}

/**
 * A CRC stays good over zeros behind it, and was good before them: a byte of 0 takes no other state than 0 to 0. So nothing is computed. Where the structure does not tell the length, two zeros or more at the end are taken as such; a single
 * one may as well be the check's high byte.
 */
function withoutZeros(bytes: Uint8Array, shape: FrameShape, check: SerialCheck): FrameShape {
  if (check !== CRC_CHECK || !shape.checkGood) return shape;
  let end = bytes.length;
  while (end > 2 + check.size && bytes[end - 1] === 0) end--;
  return bytes.length - end < 2 ? shape : { bodyEnd: end - check.size, check: end - check.size, checkGood: true, end };
}

function addFaultsOfShape(bytes: Uint8Array, shape: FrameShape, faults: Fault[], check: SerialCheck): void {
  const size = bytes.length;
  if (shape.check < 0) {
    const text = shape.bodyEnd === size ? 'the frame ends before its check' : 'the frame ends inside its check';
    if (!faults.some(({ code }) => code === 'truncated')) faults.push(fault('truncated', shape.bodyEnd, size, text));
    return;
  }
  if (!shape.checkGood)
    faults.push(fault('checksum-mismatch', shape.check, shape.end, mismatchText(bytes, shape, check)));
  if (shape.end < size)
    faults.push(fault('trailing-bytes', shape.end, size, `${counted(size - shape.end, 'byte')} after the check`));
}

function mismatchText(bytes: Uint8Array, { check: start, end }: FrameShape, check: SerialCheck): string {
  const spaced = (part: Uint8Array): string => bytesToHex(part, ' ').toUpperCase();
  return `the check is ${spaced(bytes.subarray(start, end))}, these bytes give ${spaced(check.of(bytes, start))}`;
}

/** The frame with its last bytes made the right check. */
export function sealSerial(bytes: Uint8Array, check: SerialCheck): Uint8Array {
  const sealed = bytes.slice();
  if (sealed.length >= check.size) sealed.set(check.of(bytes, bytes.length - check.size), bytes.length - check.size);
  return sealed;
}
