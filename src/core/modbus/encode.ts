import { concatBytes } from '../bytes/concat';
import { hexToBytes } from '../bytes/hex';
import { fault } from '../fault';
import { done, failed } from '../result';
import { readAscii, wrapAscii } from './ascii';
import { COIL_ON } from './body';
import { EXCEPTION_BIT, type Item } from './layout';
import type { Direction } from '../direction';
import { fits, refuse, u16, type ItemBytes } from './list-codec';
import { isList, listCodec } from './lists';
import { layoutFor } from './lookup';
import type { ModbusMessage } from './message';
import type { ModbusReading } from './reading';
import { readRtu } from './rtu';
import { UNIT_MAX } from './serial';
import { CRC_CHECK, LRC_CHECK, type SerialCheck } from './serial-check';
import { readTcp, TCP_HEAD } from './tcp';

/**
 * Builds an RTU frame with its check, within the limits of the standard.
 * Faults: `missing-field`, `value-out-of-range`, and every limit that a decoder would report, at the bytes where it would stand.
 */
export function encodeRtu(message: ModbusMessage, direction: Direction): ItemBytes {
  const inner = innerFrame(message, direction, CRC_CHECK);
  return inner.ok ? within(inner.value, readRtu, direction) : inner;
}

/** Builds an ASCII frame; faults as in `encodeRtu`, those of the fields at bytes, not characters. */
export function encodeAscii(message: ModbusMessage, direction: Direction): ItemBytes {
  const inner = innerFrame(message, direction, LRC_CHECK);
  return inner.ok ? within(wrapAscii(inner.value), readAscii, direction) : inner;
}

/** Builds a Modbus TCP frame; a missing transaction number is 0. Faults as in `encodeRtu`. */
export function encodeTcp(message: ModbusMessage, direction: Direction): ItemBytes {
  const { transactionId = 0 } = message;
  if (!fits(transactionId, 0xffff))
    return refuse('value-out-of-range', 0, 2, `transaction ${transactionId}: 0 to 65535 fit`);
  const open = openFrame(message, direction, TCP_HEAD, 0xff);
  if (!open.ok) return open;
  return within(concatBytes(u16(transactionId), u16(0), u16(open.value.length), open.value), readTcp, direction);
}

/** Station, function, body and check. */
function innerFrame(message: ModbusMessage, direction: Direction, check: SerialCheck): ItemBytes {
  const open = openFrame(message, direction, 0, UNIT_MAX);
  return open.ok ? done(concatBytes(open.value, check.of(open.value, open.value.length))) : open;
}

/** What the decoder would say against these bytes is said before they are sent. */
function within(
  bytes: Uint8Array,
  read: (bytes: Uint8Array, direction: Direction) => ModbusReading,
  direction: Direction,
): ItemBytes {
  const faults = read(bytes, direction).faults.filter(({ code }) => code !== 'unknown-function');
  return faults.length > 0 ? failed(faults) : done(bytes);
}

/** Station, function and body; `unitAt` is where the station will stand. */
function openFrame(message: ModbusMessage, direction: Direction, unitAt: number, mostUnit: number): ItemBytes {
  const head = headOf(message, direction, unitAt, mostUnit);
  if (!head.ok) return head;
  const body = bodyOf(message, direction, unitAt + 2);
  return body.ok ? done(concatBytes(head.value, body.value)) : body;
}

function headOf({ unit, fc, exception }: ModbusMessage, direction: Direction, at: number, mostUnit: number): ItemBytes {
  if (!fits(unit, mostUnit))
    return refuse('value-out-of-range', at, 1, `station ${unit}: 0 to ${mostUnit} can be asked this way`);
  if (!fits(fc, 127) || fc === 0)
    return refuse('value-out-of-range', at + 1, 1, `function ${fc}: 1 to 127 are functions`);
  return done(Uint8Array.of(unit, direction === 'response' && exception !== undefined ? fc | EXCEPTION_BIT : fc));
}

function bodyOf(message: ModbusMessage, direction: Direction, start: number): ItemBytes {
  const layout = layoutFor(message, direction);
  if (!layout) return opaqueBody(message, start);
  const parts: Uint8Array[] = [];
  let at = start;
  let countAt = -1;
  for (const [i, item] of layout.items.entries()) {
    if (item.kind === 'count') countAt = i;
    const part = itemBytes(item, message, at);
    if (!part.ok) return part;
    parts.push(part.value);
    at += part.value.length;
  }
  const count = layout.items[countAt];
  if (count?.kind === 'count') {
    const following = parts.slice(countAt + 1).reduce((total, part) => total + part.length, 0);
    if (!fits(following, count.width === 1 ? 0xff : 0xffff))
      return failed([
        fault('quantity-out-of-range', start, at, `${following} bytes of data; a byte count cannot say that`),
      ]);
    parts[countAt] = count.width === 1 ? Uint8Array.of(following) : u16(following);
  }
  return done(concatBytes(...parts));
}

function opaqueBody({ fc, dataHex }: ModbusMessage, at: number): ItemBytes {
  if (dataHex === undefined)
    return refuse('missing-field', at, 0, `function ${fc} is not in the table, so its body is needed as dataHex`);
  const bytes = hexToBytes(dataHex);
  return bytes.ok ? bytes : failed([bytes.error]);
}

/** What a message may leave out because its list says it. */
function implied(name: string, { values, coils, objects }: ModbusMessage): number | undefined {
  switch (name) {
    case 'quantity':
      return values?.length ?? coils?.length;
    case 'writeQuantity':
    case 'fifoCount':
      return values?.length;
    case 'objectCount':
      return objects?.length;
    default:
      return undefined;
  }
}

function itemBytes(item: Item, message: ModbusMessage, at: number): ItemBytes {
  if (isList(item)) return listCodec(item).write(message, item, at);
  switch (item.kind) {
    case 'count':
      return done(new Uint8Array(item.width));
    case 'tally': {
      const tally = implied(item.name, message) ?? 0;
      return done(item.width === 1 ? Uint8Array.of(tally & 0xff) : u16(tally & 0xffff));
    }
    case 'flag': {
      const value = message[item.name];
      if (value === undefined) return refuse('missing-field', at, 1, `${item.name} is missing`);
      return done(Uint8Array.of(value ? 0xff : 0));
    }
    case 'coil': {
      const { rawValue, coils } = message;
      const word = rawValue ?? (coils?.length === 1 ? (coils[0] === 1 ? COIL_ON : coils[0]) : undefined);
      if (word === undefined) return refuse('missing-field', at, 2, 'one coil, or rawValue, is needed');
      return fits(word, 0xffff)
        ? done(u16(word))
        : refuse('value-out-of-range', at, 2, `coil ${word}: a coil is 0 or 1`);
    }
    case 'u8':
    case 'u16': {
      const value = message[item.name] ?? implied(item.name, message);
      const [size, most] = item.kind === 'u8' ? ([1, 0xff] as const) : ([2, 0xffff] as const);
      if (value === undefined) return refuse('missing-field', at, size, `${item.label} is missing`);
      if (!fits(value, most)) return refuse('value-out-of-range', at, size, `${item.label} ${value}: 0 to ${most} fit`);
      return done(item.kind === 'u8' ? Uint8Array.of(value) : u16(value));
    }
  }
}
