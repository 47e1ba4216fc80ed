import { counted } from '../counted';
import { bytesToHex, hexNumber } from '../bytes/hex';
import { crc16 } from '../checksum/crc16';
import { fault, type Fault } from '../fault';
import { readBody } from './body';
import { EXCEPTION_BIT, layoutOf, type Direction } from './layout';
import type { Draft, ModbusMessage } from './message';
import { bodyLength } from './place';

/** Limits of Modbus over Serial Line V1.02: the smallest frame is station, function and check. */
export const RTU_MIN = 4;
export const RTU_MAX = 256;
/** Highest station address; 248 to 255 are reserved. */
export const UNIT_MAX = 247;

/** Where the parts of a frame stand. `check` is its first byte, or -1 where the frame was cut before it. */
export interface RtuShape {
  readonly bodyEnd: number;
  readonly check: number;
  readonly checkGood: boolean;
}

export interface RtuReading {
  readonly direction: Direction;
  readonly message: ModbusMessage | null;
  readonly faults: readonly Fault[];
  readonly shape: RtuShape;
}

export interface RtuDecoded extends Omit<RtuReading, 'direction'> {
  readonly direction: Direction | 'either';
  /** Both readings, when bytes and context leave the direction open. */
  readonly readings?: readonly RtuReading[];
}

/**
 * Decodes one RTU frame. Never throws; a faulty frame gives all that was understood, with its faults.
 * Without a direction both are tried, and the one that fits better is told; `either` when they fit alike.
 */
export function decodeRtu(bytes: Uint8Array, direction?: Direction): RtuDecoded {
  if (direction) return readRtu(bytes, direction);
  const request = readRtu(bytes, 'request');
  const response = readRtu(bytes, 'response');
  const better = fit(bytes, request) - fit(bytes, response) || response.faults.length - request.faults.length;
  if (better !== 0) return better > 0 ? request : response;
  return { ...request, direction: 'either', readings: [request, response] };
}

/** How well a reading explains the bytes: structure and check agree, only the check, only the length, or nothing. */
function fit(bytes: Uint8Array, { shape, faults }: RtuReading): number {
  const wholeLength =
    shape.check >= 0 && shape.check + 2 === bytes.length && !faults.some(({ code }) => STRUCTURE.has(code));
  return (shape.checkGood ? 2 : 0) + (wholeLength ? 1 : 0);
}

const STRUCTURE: ReadonlySet<string> = new Set([
  'truncated',
  'trailing-bytes',
  'byte-count-mismatch',
  'unknown-function',
]);

export function readRtu(bytes: Uint8Array, direction: Direction): RtuReading {
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

function tooShort(bytes: Uint8Array, direction: Direction): RtuReading {
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

function unknownFunction(code: number, direction: Direction): Fault {
  const text =
    code & EXCEPTION_BIT && direction === 'request'
      ? `function ${hexNumber(code, 2)} has the exception bit, which only replies have`
      : `function ${hexNumber(code, 2)} is not decoded here; its body is shown as it came`;
  return fault('unknown-function', 1, 2, text);
}

/**
 * The check belongs where the structure ends. When it is not good there but good at the very end, the structure lies about its length;
 * a cut frame has no check at all.
 */
function shapeOf(bytes: Uint8Array, body: number | undefined): RtuShape {
  const size = bytes.length;
  const atEnd: RtuShape = { bodyEnd: size - 2, check: size - 2, checkGood: crc16(bytes) === 0 };
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

function faultsOfShape(bytes: Uint8Array, shape: RtuShape, found: readonly Fault[]): readonly Fault[] {
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
