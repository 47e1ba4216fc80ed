import { bytesToHex, hexNumber } from '../bytes/hex';
import { counted } from '../counted';
import type { Field } from '../bytes/field';
import { crc16 } from '../checksum/crc16';
import { wordAt } from './body';
import { EXCEPTION_BIT, EXCEPTIONS, functionName, layoutOf, type Item } from './layout';
import { placeItems, type Placed } from './place';
import { crcBytes, RTU_MIN, type RtuReading } from './rtu';

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
 * Texts are the protocol's own; `annotate` (registers/) adds what a sheet knows.
 */
export function anatomyRtu(bytes: Uint8Array, reading: RtuReading): readonly Field[] {
  if (bytes.length < RTU_MIN) return bytes.length === 0 ? [] : [loose(bytes, 'rest', 'unread', 0, bytes.length)];
  const { shape, direction } = reading;
  const code = bytes[1] as number;
  const fields: Field[] = [unitField(bytes), functionField(code)];
  const layout = layoutOf(code, direction);
  let at = 2;
  for (const placed of layout ? placeItems(layout, bytes, 2, shape.bodyEnd) : []) {
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

function unitField(bytes: Uint8Array): Field {
  const unit = bytes[0] as number;
  return {
    path: 'unit',
    label: 'station',
    start: 0,
    end: 1,
    value: unit,
    text: unit === 0 ? 'all stations' : `${unit}`,
    codec: 'u8',
  };
}

function functionField(code: number): Field {
  const exception = (code & EXCEPTION_BIT) !== 0;
  return {
    path: 'fc',
    label: 'function',
    start: 1,
    end: 2,
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
