import { bytesToHex, hexNumber } from '../bytes/hex';
import { counted } from '../counted';
import type { Field, FieldCodec } from '../bytes/field';
import { unwrapAscii, ASCII_RULES } from './ascii';
import { COIL_ON } from './body';
import { DIAGNOSTICS } from './functions';
import { exceptionName, isException } from './exceptions';
import type { Item, Layout, ScalarName } from './layout';
import { plainBytes, wordAt } from './list-codec';
import { isList, listCodec } from './lists';
import { functionName, layoutAt } from './lookup';
import { placeItems, type Placed } from './place';
import type { ModbusReading } from './reading';
import { readSerial } from './serial';
import { CRC_CHECK, LRC_CHECK, type SerialCheck } from './serial-check';
import { RTU_MIN } from './rtu';
import { TCP_HEAD, TCP_MIN } from './tcp';

/** Bytes that belong to no field: after the check, between body and check, or of a frame too short to have parts. */
const loose = (bytes: Uint8Array, path: string, label: string, start: number, end: number): Field =>
  plainBytes(
    bytes,
    path,
    label,
    start,
    end,
    end - start === 1 ? 'one byte with no place' : `${end - start} bytes with no place`,
  );

/**
 * The tree of fields of one RTU frame, made only for the frame that is looked at. Its leaves cover every byte once, whatever the faults.
 * Texts are the protocol's own; `annotate` (sheet/) adds what a sheet knows.
 */
export const anatomyRtu = (bytes: Uint8Array, reading: ModbusReading): readonly Field[] =>
  bytes.length < RTU_MIN ? unread(bytes) : fieldsFrom(0, bytes, reading, CRC_CHECK);

/** Modbus TCP: the header's fields before the station (Modbus Messaging on TCP/IP V1.0b, 3.1.3). */
export function anatomyTcp(bytes: Uint8Array, reading: ModbusReading): readonly Field[] {
  if (bytes.length < TCP_MIN) return unread(bytes);
  const head = HEADER.map(({ path, label, text }, i): Field => {
    const value = wordAt(bytes, 2 * i);
    return { path, label, start: 2 * i, end: 2 * i + 2, value, text: text(value), codec: 'u16be' };
  });
  return [...head, ...fieldsFrom(TCP_HEAD, bytes, reading, null)];
}

/** Modbus ASCII: the same fields over pairs of characters, between colon and end. */
export function anatomyAscii(chars: Uint8Array, { direction }: ModbusReading): readonly Field[] {
  const { inner, from, to, end } = unwrapAscii(chars);
  if (inner.length < 2 + LRC_CHECK.size) return unread(chars);
  const fields: Field[] = [];
  if (from > 1) fields.push(loose(chars, 'before', 'before the colon', 0, from - 1));
  if (from > 0) fields.push({ ...plainBytes(chars, 'start', 'start', from - 1, from, 'colon'), value: ':' });
  const place = (at: number): number => from + 2 * at;
  const moved = (field: Field): Field => ({
    ...field,
    start: place(field.start),
    end: place(field.end),
    codec: HEX_CODEC[field.codec] ?? 'bytes',
    ...(field.children ? { children: field.children.map(moved) } : {}),
  });
  fields.push(...fieldsFrom(0, inner, readSerial(inner, direction, ASCII_RULES), LRC_CHECK).map(moved));
  const reached = place(inner.length);
  if (reached < to) fields.push(loose(chars, 'unreadable', 'unreadable', reached, to));
  if (to < end) fields.push({ ...plainBytes(chars, 'end', 'end', to, end, end - to === 2 ? 'CR LF' : 'half an end') });
  if (end < chars.length) fields.push(loose(chars, 'rest', 'after the frame', end, chars.length));
  return fields;
}

/** How a number that is written as hex digits is edited. */
const HEX_CODEC: Readonly<Partial<Record<FieldCodec, FieldCodec>>> = { u8: 'hex8', u16be: 'hex16' };

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
function fieldsFrom(
  unitAt: number,
  bytes: Uint8Array,
  reading: ModbusReading,
  check: SerialCheck | null,
): readonly Field[] {
  const { shape, direction, message } = reading;
  const bodyAt = unitAt + 2;
  const code = bytes[unitAt + 1] as number;
  const chooser = message?.subFunction ?? message?.meiType;
  const fields: Field[] = [unitField(bytes, unitAt), functionField(code, unitAt + 1, chooser)];
  const layout = layoutAt(bytes, unitAt + 1, shape.bodyEnd, direction);
  let at = bodyAt;
  for (const placed of layout ? placeItems(layout, bytes, bodyAt, shape.bodyEnd).placed : []) {
    const end = Math.min(placed.end, shape.bodyEnd);
    if (end > placed.start && layout) fields.push(itemField(bytes, placed, end, layout));
    at = Math.max(at, end);
  }
  if (at < shape.bodyEnd) fields.push(loose(bytes, 'data', layout ? 'unread' : 'data', at, shape.bodyEnd));
  if (shape.check >= 0 && check) fields.push(checkField(bytes, shape.check, shape.end, check));
  const after = shape.check < 0 ? shape.bodyEnd : shape.end;
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

function functionField(code: number, start: number, chooser: number | undefined): Field {
  const text = isException(code) ? `refused: ${functionName(code)}` : functionName(code, chooser);
  return { path: 'fc', label: 'function', start, end: start + 1, value: code, text, codec: 'u8' };
}

function checkField(bytes: Uint8Array, start: number, end: number, check: SerialCheck): Field {
  const wanted = check.of(bytes, start);
  const good = wanted.every((byte, i) => bytes[start + i] === byte);
  const value = (bytes[start] as number) | (check.size === 2 ? (bytes[start + 1] as number) << 8 : 0);
  const text = good ? check.text : `should be ${bytesToHex(wanted, ' ').toUpperCase()}`;
  return { path: 'check', label: 'check', start, end, value, text, codec: check.codec };
}

function itemField(bytes: Uint8Array, { item, start, end: wanted }: Placed, end: number, layout: Layout): Field {
  if (isList(item)) {
    const codec = listCodec(item);
    const children = codec.fields(bytes, start, end, item);
    return {
      ...plainBytes(
        bytes,
        item.kind === 'identity' ? 'identity' : item.name,
        item.label,
        start,
        end,
        codec.text(bytes, start, end),
      ),
      ...(children.length > 0 ? { children } : {}),
    };
  }
  if (end < wanted) return { ...loose(bytes, item.name, item.label, start, end), text: 'cut short' };
  const wide = wanted - start === 2;
  const value = wide ? wordAt(bytes, start) : (bytes[start] as number);
  const base = { path: item.name, label: item.label, start, end, value };
  return { ...base, text: scalarText(item, value, layout), codec: wide ? 'u16be' : 'u8' };
}

const hexAndDecimal = (value: number): string => `${hexNumber(value)} = ${value}`;
const plain = (value: number): string => `${value}`;

/** What a number says by itself, by the field that holds it. */
const SCALAR_TEXT: Readonly<Record<Exclude<ScalarName, 'quantity'>, (value: number) => string>> = {
  address: hexAndDecimal,
  readAddress: hexAndDecimal,
  writeAddress: hexAndDecimal,
  readQuantity: (value) => counted(value, 'register'),
  writeQuantity: (value) => counted(value, 'register'),
  exception: exceptionName,
  status: (value) => (value === 0xffff ? 'busy with an earlier command' : hexAndDecimal(value)),
  subFunction: (value) => DIAGNOSTICS[value]?.name ?? 'reserved by the standard',
  eventCount: plain,
  messageCount: plain,
  andMask: (value) => `${hexNumber(value)}: bits that stay`,
  orMask: (value) => `${hexNumber(value)}: bits that are set where the AND mask clears`,
  meiType: (value) => (value === 14 ? 'device identification' : value === 13 ? 'another bus' : 'not in the standard'),
  readCode: (value) => ['', 'basic', 'regular', 'extended', 'one object'][value] ?? 'not in the standard',
  conformity: (value) =>
    `${['', 'basic', 'regular', 'extended'][value & 0x7f] ?? 'unknown'}, ${value & 0x80 ? 'streams and single objects' : 'streams only'}`,
  nextObjectId: (value) => `${value}`,
  objectId: (value) => `from object ${value}`,
};

function scalarText(item: Item, value: number, layout: Layout): string {
  switch (item.kind) {
    case 'count':
      return value === 1 ? '1 byte follows' : `${value} bytes follow`;
    case 'tally':
      return counted(value, item.name === 'fifoCount' ? 'register' : 'object');
    case 'flag':
      return value === 0xff ? 'yes' : value === 0 ? 'no' : 'must be 00 or FF';
    case 'coil':
      return value === COIL_ON ? 'on' : value === 0 ? 'off' : 'must be 0xFF00 or 0x0000';
    case 'u8':
    case 'u16': {
      if (item.name !== 'quantity') return SCALAR_TEXT[item.name](value);
      const range = layout.limits.find((limit) => limit.kind === 'range');
      return counted(value, range?.kind === 'range' ? (range.noun ?? 'register') : 'register');
    }
    default:
      return `${value}`;
  }
}
