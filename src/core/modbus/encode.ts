import { concatBytes } from '../bytes/concat';
import { hexToBytes } from '../bytes/hex';
import { crc16 } from '../checksum/crc16';
import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';
import { EXCEPTION_BIT, layoutOf, type Direction, type Item } from './layout';
import type { ModbusMessage } from './message';
import type { ModbusReading } from './reading';
import { crcBytes, readRtu, UNIT_MAX } from './rtu';
import { readTcp, TCP_HEAD } from './tcp';

type Bytes = Result<Uint8Array, readonly Fault[]>;

const u16 = (value: number): Uint8Array => Uint8Array.of(value >> 8, value & 0xff);

/**
 * Builds an RTU frame with its check, within the limits of the standard.
 * Faults: `missing-field`, `value-out-of-range`, and every limit that a decoder would report, at the bytes where it would stand.
 */
export function encodeRtu(message: ModbusMessage, direction: Direction): Bytes {
  const open = openFrame(message, direction, 0, UNIT_MAX);
  if (!open.ok) return open;
  return within(concatBytes(open.value, crcBytes(crc16(open.value))), readRtu, direction);
}

/** Builds a Modbus TCP frame; a missing transaction number is 0. Faults as in `encodeRtu`. */
export function encodeTcp(message: ModbusMessage, direction: Direction): Bytes {
  const { transactionId = 0 } = message;
  if (!fits(transactionId, 0xffff))
    return refuse('value-out-of-range', 0, 2, `transaction ${transactionId}: 0 to 65535 fit`);
  const open = openFrame(message, direction, TCP_HEAD, 0xff);
  if (!open.ok) return open;
  return within(concatBytes(u16(transactionId), u16(0), u16(open.value.length), open.value), readTcp, direction);
}

/** What the decoder would say against these bytes is said before they are sent. */
function within(
  bytes: Uint8Array,
  read: (bytes: Uint8Array, direction: Direction) => ModbusReading,
  direction: Direction,
): Bytes {
  const faults = read(bytes, direction).faults.filter(({ code }) => code !== 'unknown-function');
  return faults.length > 0 ? failed(faults) : done(bytes);
}

/** Station, function and body; `unitAt` is where the station will stand. */
function openFrame(message: ModbusMessage, direction: Direction, unitAt: number, mostUnit: number): Bytes {
  const head = headOf(message, direction, unitAt, mostUnit);
  if (!head.ok) return head;
  const body = bodyOf(message, direction, unitAt + 2);
  return body.ok ? done(concatBytes(head.value, body.value)) : body;
}

const refuse = (code: 'missing-field' | 'value-out-of-range', at: number, size: number, text: string): Bytes =>
  failed([fault(code, at, at + size, text)]);

const fits = (value: number, most: number): boolean => Number.isInteger(value) && value >= 0 && value <= most;

function headOf({ unit, fc, exception }: ModbusMessage, direction: Direction, at: number, mostUnit: number): Bytes {
  if (!fits(unit, mostUnit))
    return refuse('value-out-of-range', at, 1, `station ${unit}: 0 to ${mostUnit} can be asked this way`);
  if (!fits(fc, 127) || fc === 0)
    return refuse('value-out-of-range', at + 1, 1, `function ${fc}: 1 to 127 are functions`);
  return done(Uint8Array.of(unit, direction === 'response' && exception !== undefined ? fc | EXCEPTION_BIT : fc));
}

function bodyOf(message: ModbusMessage, direction: Direction, start: number): Bytes {
  const code = direction === 'response' && message.exception !== undefined ? message.fc | EXCEPTION_BIT : message.fc;
  const layout = layoutOf(code, direction);
  if (!layout) return opaqueBody(message, start);
  const parts: Uint8Array[] = [];
  let at = start;
  for (const item of layout.items) {
    const part = itemBytes(item, message, at);
    if (!part.ok) return part;
    parts.push(part.value);
    at += part.value.length;
  }
  return done(concatBytes(...parts));
}

function opaqueBody({ fc, dataHex }: ModbusMessage, at: number): Bytes {
  if (dataHex === undefined)
    return refuse('missing-field', at, 0, `function ${fc} is not in the table, so its body is needed as dataHex`);
  const bytes = hexToBytes(dataHex);
  return bytes.ok ? bytes : failed([bytes.error]);
}

function itemBytes(item: Item, message: ModbusMessage, at: number): Bytes {
  if (item.kind === 'words') return wordBytes(item.fixed, message, at);
  if (item.kind === 'count') return done(Uint8Array.of((2 * (message.values?.length ?? 0)) & 0xff));
  const value = item.name === 'quantity' ? (message.quantity ?? message.values?.length) : message[item.name];
  const size = item.kind === 'u8' ? 1 : 2;
  if (value === undefined) return refuse('missing-field', at, size, `${item.label} is missing`);
  const most = item.kind === 'u8' ? 0xff : 0xffff;
  if (!fits(value, most)) return refuse('value-out-of-range', at, size, `${item.label} ${value}: 0 to ${most} fit`);
  return done(item.kind === 'u8' ? Uint8Array.of(value) : u16(value));
}

function wordBytes(fixed: number | undefined, { values }: ModbusMessage, at: number): Bytes {
  if (!values) return refuse('missing-field', at, 2, 'values are missing');
  if (fixed !== undefined && values.length !== fixed)
    return refuse('value-out-of-range', at, 2, `${values.length} values; this function takes ${fixed}`);
  const bad = values.findIndex((value) => !fits(value, 0xffff));
  if (bad >= 0)
    return refuse(
      'value-out-of-range',
      at + 2 * bad,
      2,
      `value ${bad + 1} is ${values[bad]}: 0 to 65535 fit a register`,
    );
  return done(concatBytes(...values.map(u16)));
}
