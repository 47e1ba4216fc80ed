import { concatBytes } from '../bytes/concat';
import type { Field } from '../bytes/field';
import { bytesToHex, hexNumber, hexToBytes } from '../bytes/hex';
import { counted } from '../counted';
import { fault } from '../fault';
import { done, failed } from '../result';
import type { Item } from './layout';
import {
  fits,
  plainBytes,
  readWords,
  refuse,
  wordFields,
  writeWords,
  type ListCodec,
  type ListItem,
  type ListKind,
} from './list-codec';
import { OBJECTS } from './objects';
import { RECORDS } from './records';

const WORDS: ListCodec<Extract<Item, { kind: 'words' }>> = {
  read: (bytes, start, end, _item, message) => {
    message.values = readWords(bytes, start, end);
  },
  write: ({ values }, { fixed }, at) => {
    if (!values) return refuse('missing-field', at, 2, 'values are missing');
    if (fixed !== undefined && values.length !== fixed)
      return refuse('value-out-of-range', at, 2, `${values.length} values; this function takes ${fixed}`);
    return writeWords(values, at);
  },
  fields: (bytes, start, end, { label, fixed }) =>
    wordFields(bytes, start, end, 'values', label, fixed === undefined && end - start !== 2),
  text: (_bytes, start, end) => counted((end - start) >> 1, 'register'),
};

const BITS: ListCodec<Extract<Item, { kind: 'bits' }>> = {
  read: (bytes, start, end, _item, message) => {
    const wanted = Math.min(message.quantity ?? Infinity, 8 * (end - start));
    message.coils = Array.from({ length: wanted }, (_, i) => ((bytes[start + (i >> 3)] as number) >> (i & 7)) & 1);
  },
  write: ({ coils }, _item, at) => {
    if (!coils) return refuse('missing-field', at, 1, 'coils are missing');
    const bad = coils.findIndex((coil) => coil !== 0 && coil !== 1);
    if (bad >= 0)
      return refuse('value-out-of-range', at + (bad >> 3), 1, `coil ${bad + 1} is ${coils[bad]}: a coil is 0 or 1`);
    const packed = new Uint8Array(Math.ceil(coils.length / 8));
    coils.forEach((coil, i) => (packed[i >> 3] = (packed[i >> 3] as number) | (coil << (i & 7))));
    return done(packed);
  },
  fields: (bytes, start, end, { label }) =>
    Array.from({ length: end - start }, (_, i) => {
      const value = bytes[start + i] as number;
      const bits = Array.from({ length: 8 }, (__, bit) => (value >> bit) & 1).join(' ');
      return {
        path: `coils[${8 * i}]`,
        label: `${label}s ${8 * i + 1} to ${8 * i + 8}`,
        start: start + i,
        end: start + i + 1,
        value,
        text: `${bits}, first one first`,
        codec: 'u8',
      };
    }),
  text: (_bytes, start, end) => `up to ${counted(8 * (end - start), 'coil')}`,
};

const EVENTS: ListCodec<Extract<Item, { kind: 'events' }>> = {
  read: (bytes, start, end, _item, message) => {
    message.events = [...bytes.subarray(start, end)];
  },
  write: ({ events }, _item, at) => {
    if (!events) return refuse('missing-field', at, 0, 'events are missing');
    const bad = events.findIndex((event) => !fits(event, 0xff));
    return bad < 0
      ? done(Uint8Array.from(events))
      : refuse('value-out-of-range', at + bad, 1, `event ${bad + 1} is ${events[bad]}: 0 to 255 fit`);
  },
  fields: (bytes, start, end, { label }) =>
    Array.from({ length: end - start }, (_, i) => {
      const value = bytes[start + i] as number;
      return {
        path: `events[${i}]`,
        label: `${label} ${i + 1}`,
        start: start + i,
        end: start + i + 1,
        value,
        text: eventText(value),
        codec: 'u8',
      };
    }),
  text: (_bytes, start, end) => `${counted(end - start, 'event')}, newest first`,
};

const RECEIVED = ['', 'communication error', '', '', 'character overrun', 'in listen only', 'broadcast'] as const;
const SENT = [
  'read exception',
  'abort exception',
  'busy exception',
  'NAK exception',
  'write time-out',
  'in listen only',
];

/** The event byte of 0C, Modbus Application Protocol V1.1b3, 6.10. */
function eventText(event: number): string {
  const named = (names: readonly string[]): string =>
    names.filter((name, bit) => name && (event >> bit) & 1).join(', ') || 'nothing special';
  if (event & 0x80) return `received: ${named(RECEIVED)}`;
  if (event & 0x40) return `sent: ${named(SENT)}`;
  if (event === 0) return 'communication restarted';
  return event === 4 ? 'entered listen only' : 'not in the standard';
}

const RUNS = 0xff;

const IDENTITY: ListCodec<Extract<Item, { kind: 'identity' }>> = {
  read: (bytes, start, end, _item, message, faults) => {
    if (end <= start) return;
    const flag = bytes[end - 1] as number;
    message.serverIdHex = bytesToHex(bytes.subarray(start, end - 1));
    message.running = flag === RUNS;
    if (flag !== RUNS && flag !== 0)
      faults.push(
        fault('value-out-of-range', end - 1, end, `${hexNumber(flag, 2)} is neither FF (runs) nor 00 (stands)`),
      );
  },
  write: ({ serverIdHex, running }, _item, at) => {
    if (serverIdHex === undefined || running === undefined)
      return refuse('missing-field', at, 0, 'serverIdHex and running are needed');
    const id = hexToBytes(serverIdHex);
    return id.ok ? done(concatBytes(id.value, Uint8Array.of(running ? RUNS : 0))) : failed([id.error]);
  },
  fields: (bytes, start, end, { label }) => {
    const flag = bytes[end - 1] as number;
    const state = flag === RUNS ? 'runs' : flag === 0 ? 'stands' : 'neither FF nor 00';
    const running: Field = {
      path: 'running',
      label: 'run indicator',
      start: end - 1,
      end,
      value: flag,
      text: state,
      codec: 'u8',
    };
    return end - start < 2
      ? [running]
      : [plainBytes(bytes, 'serverIdHex', label, start, end - 1, 'as its maker wrote it'), running];
  },
  text: (_bytes, start, end) => counted(end - start, 'byte'),
};

const OPAQUE: ListCodec<Extract<Item, { kind: 'opaque' }>> = {
  read: (bytes, start, end, _item, message) => {
    message.dataHex = bytesToHex(bytes.subarray(start, end));
  },
  write: ({ dataHex }, _item, at) => {
    if (dataHex === undefined) return refuse('missing-field', at, 0, 'dataHex is missing');
    const data = hexToBytes(dataHex);
    return data.ok ? data : failed([data.error]);
  },
  fields: () => [],
  text: (_bytes, start, end) => counted(end - start, 'byte'),
};

/** The codec of every kind of list: a new kind fails to compile until it is here. */
const LISTS: { readonly [K in ListKind]: ListCodec<Extract<Item, { kind: K }>> } = {
  words: WORDS,
  bits: BITS,
  events: EVENTS,
  identity: IDENTITY,
  records: RECORDS,
  objects: OBJECTS,
  opaque: OPAQUE,
};

/** The key chooses the codec of its own kind, which the compiler cannot follow through the union. */
export const listCodec = (item: ListItem): ListCodec => LISTS[item.kind] as unknown as ListCodec;

/** Whether an item of a layout repeats. */
export const isList = (item: Item): item is ListItem => item.kind in LISTS;
