import { counted } from '../counted';
import { bytesToHex, hexNumber } from '../bytes/hex';
import { crc16 } from '../checksum/crc16';
import { fault, type Fault } from '../fault';
import { readBody } from './body';
import { EXCEPTION_BIT, layoutOf, type Direction } from './layout';
import type { Draft } from './message';
import { bodyLength } from './place';
import { decodeWith, type FrameShape, type ModbusDecoded, type ModbusReading } from './reading';

/** Limits of Modbus over Serial Line V1.02: the smallest frame is station, function and check. */
export const RTU_MIN = 4;
export const RTU_MAX = 256;
/** Highest station address; 248 to 255 are reserved. */
export const UNIT_MAX = 247;

/**
 * Decodes one RTU frame. Never throws; a faulty frame gives all that was understood, with its faults.
 * Without a direction both are tried, and the one that fits better is told; `either` when they fit alike.
 */
export const decodeRtu = (bytes: Uint8Array, direction?: Direction): ModbusDecoded =>
  decodeWith(readRtu, bytes, direction);

export function readRtu(bytes: Uint8Array, direction: Direction): ModbusReading {
  const size = bytes.length;
  if (size < RTU_MIN) return tooShort(bytes, direction);
  const faults: Fault[] = [];
  const unit = bytes[0] as number;
  const code = bytes[1] as number;
  const layout = layoutOf(code, direction);
  const message: Draft = { unit, fc: direction === 'response' ? code & ~EXCEPTION_BIT : code };
  if (unit > UNIT_MAX)
    faults.push(
      fault('value-out-of-range', 0, 1, `station ${unit} is reserved; 1 to ${UNIT_MAX} are stations, 0 is broadcast`),
    );
  const shape = shapeOf(bytes, layout && bodyLength(layout, bytes, 2, size));
  if (layout) readBody(bytes, 2, shape.bodyEnd, layout, shape.checkGood, message, faults);
  else {
    message.dataHex = bytesToHex(bytes.subarray(2, shape.bodyEnd));
    faults.push(unknownFunction(code, direction));
  }
  faults.push(...faultsOfShape(bytes, shape, faults));
  if (size > RTU_MAX)
    faults.push(fault('too-long', RTU_MAX, size, `${size} bytes; an RTU frame has ${RTU_MAX} at most`));
  return { direction, message, faults, shape };
}

function tooShort(bytes: Uint8Array, direction: Direction): ModbusReading {
  const [unit, code] = bytes;
  const text = `${counted(bytes.length, 'byte')}; the shortest RTU frame has ${RTU_MIN}`;
  return {
    direction,
    message:
      unit === undefined || code === undefined
        ? null
        : { unit, fc: direction === 'response' ? code & ~EXCEPTION_BIT : code },
    faults: [fault('too-short', 0, bytes.length, text)],
    shape: { bodyEnd: bytes.length, check: -1, checkGood: false },
  };
}

/** `at` is where the function code stands. */
export function unknownFunction(code: number, direction: Direction, at = 1): Fault {
  const text =
    code & EXCEPTION_BIT && direction === 'request'
      ? `function ${hexNumber(code, 2)} has the exception bit, which only replies have`
      : `function ${hexNumber(code, 2)} is not decoded here; its body is shown as it came`;
  return fault('unknown-function', at, at + 1, text);
}

/**
 * The check belongs where the structure ends. When it is not good there but good at the very end, the structure lies about its length;
 * a cut frame has no check at all.
 */
function shapeOf(bytes: Uint8Array, body: number | undefined): FrameShape {
  const size = bytes.length;
  const atEnd: FrameShape = { bodyEnd: size - 2, check: size - 2, checkGood: crc16(bytes) === 0 };
  if (body === undefined) return atEnd;
  const expected = 2 + body + 2;
  if (expected === size) return atEnd;
  if (expected < size && crc16(bytes, 0, expected) === 0)
    return { bodyEnd: expected - 2, check: expected - 2, checkGood: true };
  if (atEnd.checkGood) return atEnd;
  return expected < size
    ? { bodyEnd: expected - 2, check: expected - 2, checkGood: false }
    : { bodyEnd: Math.min(size, expected - 2), check: -1, checkGood: false };
}

function faultsOfShape(bytes: Uint8Array, shape: FrameShape, found: readonly Fault[]): readonly Fault[] {
  const size = bytes.length;
  const faults: Fault[] = [];
  if (shape.check < 0) {
    if (!found.some(({ code }) => code === 'truncated'))
      faults.push(
        fault(
          'truncated',
          shape.bodyEnd,
          size,
          shape.bodyEnd === size ? 'the frame ends before its check' : 'the frame ends inside its check',
        ),
      );
    return faults;
  }
  if (!shape.checkGood)
    faults.push(fault('checksum-mismatch', shape.check, shape.check + 2, mismatchText(bytes, shape.check)));
  if (shape.check + 2 < size) {
    const extra = size - shape.check - 2;
    faults.push(fault('trailing-bytes', shape.check + 2, size, `${counted(extra, 'byte')} after the check`));
  }
  return faults;
}

function mismatchText(bytes: Uint8Array, check: number): string {
  const wanted = crc16(bytes, 0, check);
  return `the check is ${bytesToHex(bytes.subarray(check, check + 2), ' ').toUpperCase()}, these bytes give ${bytesToHex(crcBytes(wanted), ' ').toUpperCase()}`;
}

/** A CRC as it goes on the wire: low byte first. */
export const crcBytes = (crc: number): Uint8Array => Uint8Array.of(crc & 0xff, crc >>> 8);

/** The frame with its last two bytes made the right check. */
export function sealRtu(bytes: Uint8Array): Uint8Array {
  const sealed = bytes.slice();
  if (sealed.length >= 2) sealed.set(crcBytes(crc16(bytes, 0, bytes.length - 2)), bytes.length - 2);
  return sealed;
}
