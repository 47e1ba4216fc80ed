import { bytesToHex, hexNumber } from '../bytes/hex';
import { counted } from '../counted';
import type { Field } from '../bytes/field';
import { crc16 } from '../checksum/crc16';
import { wordAt } from './body';
import { EXCEPTION_BIT, EXCEPTIONS, functionName, layoutOf, type Item } from './layout';
import { placeItems, type Placed } from './place';
import type { ModbusReading } from './reading';
import { crcBytes, RTU_MIN } from './rtu';
import { TCP_HEAD, TCP_MIN } from './tcp';

/** Bytes that belong to no field: after the check, between body and check, or of a frame too short to have parts. */
const loose = (bytes: Uint8Array, path: string, label: string, start: number, end: number): Field => ({
  path,
  label,
  start,
  end,
  value: bytesToHex(bytes.subarray(start, end)),
  text: end - start === 1 ? 'one byte with no place' : `${end - start} bytes with no place`,
  codec: 'bytes',
});

/**
 * The tree of fields of one RTU frame, made only for the frame that is looked at. Its leaves cover every byte once, whatever the faults.
 * Texts are the protocol's own; `annotate` (sheet/) adds what a sheet knows.
 */
export const anatomyRtu = (bytes: Uint8Array, reading: ModbusReading): readonly Field[] =>
  bytes.length < RTU_MIN ? unread(bytes) : fieldsFrom(0, bytes, reading);

/** Modbus TCP: the header's fields before the station (Modbus Messaging on TCP/IP V1.0b, 3.1.3). */
export function anatomyTcp(bytes: Uint8Array, reading: ModbusReading): readonly Field[] {
  if (bytes.length < TCP_MIN) return unread(bytes);
  const head = HEADER.map(({ path, label, text }, i): Field => {
    const value = wordAt(bytes, 2 * i);
    return { path, label, start: 2 * i, end: 2 * i + 2, value, text: text(value), codec: 'u16be' };
  });
  return [...head, ...fieldsFrom(TCP_HEAD, bytes, reading)];
}

const HEADER = [
  {
    path: 'transactionId',
    label: 'transaction',
    text: (value: number) => (value === 0 ? '0: the line numbers it' : `${value}`),
  },
  { path: 'protocolId', label: 'protocol', text: (value: number) => (value === 0 ? 'Modbus' : 'must be 0') },
  { path: 'length', label: 'length', text: (value: number) => `${counted(value, 'byte')} after this` },
] as const;

const unread = (bytes: Uint8Array): readonly Field[] =>
  bytes.length === 0 ? [] : [loose(bytes, 'rest', 'unread', 0, bytes.length)];

/** Station, function, body, check and what is left, from the station's place on. */
function fieldsFrom(unitAt: number, bytes: Uint8Array, reading: ModbusReading): readonly Field[] {
  const { shape, direction } = reading;
  const bodyAt = unitAt + 2;
  const code = bytes[unitAt + 1] as number;
  const fields: Field[] = [unitField(bytes, unitAt), functionField(code, unitAt + 1)];
  const layout = layoutOf(code, direction);
  let at = bodyAt;
  for (const placed of layout ? placeItems(layout, bytes, bodyAt, shape.bodyEnd) : []) {
    const end = Math.min(placed.end, shape.bodyEnd);
    if (end > placed.start) fields.push(itemField(bytes, placed, end));
    at = Math.max(at, end);
  }
  if (at < shape.bodyEnd) fields.push(loose(bytes, 'data', layout ? 'unread' : 'data', at, shape.bodyEnd));
  if (shape.check >= 0) fields.push(checkField(bytes, shape.check));
  const after = shape.check < 0 ? shape.bodyEnd : shape.check + 2;
  if (after < bytes.length) fields.push(loose(bytes, 'rest', 'after the frame', after, bytes.length));
  return fields;
}

function unitField(bytes: Uint8Array, start: number): Field {
  const unit = bytes[start] as number;
  const broadcast = unit === 0 && start === 0;
  return {
    path: 'unit',
    label: 'station',
    start,
    end: start + 1,
    value: unit,
    text: broadcast
      ? 'all stations'
      : start > 0 && (unit === 0 || unit === 255)
        ? `${unit}: the device itself`
        : `${unit}`,
    codec: 'u8',
  };
}

function functionField(code: number, start: number): Field {
  const exception = (code & EXCEPTION_BIT) !== 0;
  return {
    path: 'fc',
    label: 'function',
    start,
    end: start + 1,
    value: code,
    text: exception ? `refused: ${functionName(code)}` : functionName(code),
    codec: 'u8',
  };
}

function checkField(bytes: Uint8Array, start: number): Field {
  const wanted = crc16(bytes, 0, start);
  const value = (bytes[start] as number) | ((bytes[start + 1] as number) << 8);
  const text =
    value === wanted ? 'good, low byte first' : `should be ${bytesToHex(crcBytes(wanted), ' ').toUpperCase()}`;
  return { path: 'check', label: 'check', start, end: start + 2, value, text, codec: 'u16le' };
}

function itemField(bytes: Uint8Array, { item, start, end: wanted }: Placed, end: number): Field {
  if (item.kind === 'words') return wordsField(bytes, item, start, end);
  if (end < wanted) return { ...loose(bytes, item.name, item.label, start, end), text: 'cut short' };
  const base = { path: item.name, label: item.label, start, end };
  if (item.kind === 'u16') {
    const value = wordAt(bytes, start);
    return { ...base, value, text: scalarText(item, value), codec: 'u16be' };
  }
  const value = bytes[start] as number;
  return { ...base, value, text: scalarText(item, value), codec: 'u8' };
}

function scalarText(item: Item, value: number): string {
  switch (item.name) {
    case 'address':
      return `${hexNumber(value)} = ${value}`;
    case 'quantity':
      return counted(value, 'register');
    case 'byteCount':
      return value === 1 ? '1 byte follows' : `${value} bytes follow`;
    case 'exception':
      return EXCEPTIONS[value]?.name ?? 'not in the standard';
    case 'values':
      return wordText(value);
  }
}

const wordText = (value: number): string => (value > 0x7fff ? `${value} or ${value - 0x10000}` : `${value}`);

function wordsField(bytes: Uint8Array, item: Item, start: number, end: number): Field {
  const count = (end - start) >> 1;
  const children: Field[] = Array.from({ length: count }, (_, i) => {
    const at = start + 2 * i;
    const value = wordAt(bytes, at);
    const label = count === 1 ? item.label : `${item.label} ${i + 1}`;
    return { path: `values[${i}]`, label, start: at, end: at + 2, value, text: wordText(value), codec: 'u16be' };
  });
  if ((end - start) % 2 === 1)
    children.push({
      ...loose(bytes, `values[${count}]`, `${item.label} ${count + 1}`, end - 1, end),
      text: 'half a register',
    });
  return {
    path: 'values',
    label: item.label,
    start,
    end,
    value: bytesToHex(bytes.subarray(start, end)),
    text: counted(count, 'register'),
    codec: 'bytes',
    children,
  };
}
