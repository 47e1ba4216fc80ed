import { concatBytes } from '../bytes/concat';
import { hexToBytes } from '../bytes/hex';
import { crc16 } from '../checksum/crc16';
import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';
import { EXCEPTION_BIT, layoutOf, type Direction, type Item } from './layout';
import type { ModbusMessage } from './message';
import { crcBytes, readRtu, UNIT_MAX } from './rtu';

type Bytes = Result<Uint8Array, readonly Fault[]>;

const u16 = (value: number): Uint8Array => Uint8Array.of(value >> 8, value & 0xff);

/**
 * Builds an RTU frame with its check, within the limits of the standard.
 * Faults: `missing-field`, `value-out-of-range`, and every limit that a decoder would report, at the bytes where it would stand.
 */
export function encodeRtu(message: ModbusMessage, direction: Direction): Bytes {
  const head = headOf(message, direction);
  if (!head.ok) return head;
  const body = bodyOf(message, direction);
  if (!body.ok) return body;
  const open = concatBytes(head.value, body.value);
  const bytes = concatBytes(open, crcBytes(crc16(open)));
  const faults = readRtu(bytes, direction).faults.filter(({ code }) => code !== 'unknown-function');
  return faults.length > 0 ? failed(faults) : done(bytes);
}

const refuse = (code: 'missing-field' | 'value-out-of-range', at: number, size: number, text: string): Bytes =>
  failed([fault(code, at, at + size, text)]);

const fits = (value: number, most: number): boolean => Number.isInteger(value) && value >= 0 && value <= most;

function headOf({ unit, fc, exception }: ModbusMessage, direction: Direction): Bytes {
  if (!fits(unit, UNIT_MAX))
    return refuse('value-out-of-range', 0, 1, `station ${unit}: 1 to ${UNIT_MAX} are stations, 0 is broadcast`);
  if (!fits(fc, 127) || fc === 0) return refuse('value-out-of-range', 1, 1, `function ${fc}: 1 to 127 are functions`);
  return done(Uint8Array.of(unit, direction === 'response' && exception !== undefined ? fc | EXCEPTION_BIT : fc));
}

function bodyOf(message: ModbusMessage, direction: Direction): Bytes {
  const code = direction === 'response' && message.exception !== undefined ? message.fc | EXCEPTION_BIT : message.fc;
  const layout = layoutOf(code, direction);
  if (!layout) return opaqueBody(message);
  const parts: Uint8Array[] = [];
  let at = 2;
  for (const item of layout.items) {
    const part = itemBytes(item, message, at);
    if (!part.ok) return part;
    parts.push(part.value);
    at += part.value.length;
  }
  return done(concatBytes(...parts));
}

function opaqueBody({ fc, dataHex }: ModbusMessage): Bytes {
  if (dataHex === undefined)
    return refuse('missing-field', 2, 0, `function ${fc} is not in the table, so its body is needed as dataHex`);
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
