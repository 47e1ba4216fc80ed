import { bytesToHex } from '../bytes/hex';
import { counted } from '../counted';
import { fault, type Fault } from '../fault';
import { readBody } from './body';
import { placeItems } from './place';
import type { Direction } from '../direction';
import { wordAt } from './list-codec';
import { layoutAt } from './lookup';
import type { Draft } from './message';
import type { ModbusReading } from './reading';
import { codeOf, isNoFunction, noFunction, unknownFunction } from './serial';

/** Transaction, protocol and length stand before the station (Modbus Messaging on TCP/IP V1.0b, 3.1.3). */
export const TCP_HEAD = 6;
/** Header, station and function. */
export const TCP_MIN = TCP_HEAD + 2;
/** 7 bytes of header with the station, 253 of function and data. */
export const TCP_MAX = 260;
const LENGTH_AT = 4;
const LEAST_LENGTH = 2;
const MOST_LENGTH = TCP_MAX - TCP_HEAD;

/**
 * Reads one Modbus TCP frame. There is no check: structure and header are all that can be wrong. Never throws.
 * Faults beside those of the body: `wrong-protocol-id`, `length-mismatch`, `too-long`.
 */
export function readTcp(bytes: Uint8Array, direction: Direction): ModbusReading {
  const size = bytes.length;
  if (size < TCP_MIN) return tooShort(bytes, direction);
  const code = bytes[TCP_HEAD + 1] as number;
  const length = wordAt(bytes, LENGTH_AT);
  const total = TCP_HEAD + length;
  const faults: Fault[] = [];
  if (wordAt(bytes, 2) !== 0)
    faults.push(fault('wrong-protocol-id', 2, 4, `the protocol is ${wordAt(bytes, 2)}; 0 is Modbus`));
  const lengthFits = length >= LEAST_LENGTH && length <= MOST_LENGTH;
  if (!lengthFits)
    faults.push(
      fault(
        'length-mismatch',
        LENGTH_AT,
        TCP_HEAD,
        `the length says ${length}; ${LEAST_LENGTH} to ${MOST_LENGTH} are possible`,
      ),
    );
  const bodyEnd = lengthFits ? Math.min(size, total) : size;
  const checkGood = lengthFits && total <= size && wordAt(bytes, 2) === 0;
  const message: Draft = {
    transactionId: wordAt(bytes, 0),
    unit: bytes[TCP_HEAD] as number,
    fc: codeOf(code, direction),
  };
  const layout = layoutAt(bytes, TCP_HEAD + 1, bodyEnd, direction);
  if (layout) readBody(bytes, TCP_MIN, placeItems(layout, bytes, TCP_MIN, bodyEnd), layout, checkGood, message, faults);
  else {
    message.dataHex = bytesToHex(bytes.subarray(TCP_MIN, bodyEnd));
    faults.push(unknownFunction(code, direction, TCP_HEAD + 1));
  }
  if (isNoFunction(code, direction)) faults.push(noFunction(TCP_HEAD + 1));
  if (lengthFits && total > size && !faults.some(({ code: found }) => found === 'truncated'))
    faults.push(
      fault('truncated', LENGTH_AT, TCP_HEAD, `the length says ${length}, only ${size - TCP_HEAD} bytes follow it`),
    );
  if (lengthFits && total < size)
    faults.push(fault('trailing-bytes', total, size, `${counted(size - total, 'byte')} after the frame`));
  if (size > TCP_MAX)
    faults.push(fault('too-long', TCP_MAX, size, `${size} bytes; a Modbus TCP frame has ${TCP_MAX} at most`));
  return { direction, message, faults, shape: { bodyEnd, check: -1, checkGood, end: bodyEnd } };
}

const tooShort = (bytes: Uint8Array, direction: Direction): ModbusReading => ({
  direction,
  message: null,
  faults: [
    fault(
      'too-short',
      0,
      bytes.length,
      `${counted(bytes.length, 'byte')}; the shortest Modbus TCP frame has ${TCP_MIN}`,
    ),
  ],
  shape: { bodyEnd: bytes.length, check: -1, checkGood: false, end: bytes.length },
});

/** The frame with its length made right. */
export function sealTcp(bytes: Uint8Array): Uint8Array {
  const sealed = bytes.slice();
  if (sealed.length >= TCP_HEAD)
    sealed.set([(sealed.length - TCP_HEAD) >> 8, (sealed.length - TCP_HEAD) & 0xff], LENGTH_AT);
  return sealed;
}

/** The frame with another transaction number. */
export function withTransaction(bytes: Uint8Array, transactionId: number): Uint8Array {
  const numbered = bytes.slice();
  if (numbered.length >= 2) numbered.set([transactionId >> 8, transactionId & 0xff]);
  return numbered;
}
