import { concatBytes } from '../bytes/concat';
import type { Field } from '../bytes/field';
import { bytesToHex, hexNumber, hexToBytes } from '../bytes/hex';
import { counted } from '../counted';
import { fault } from '../fault';
import { done, failed } from '../result';
import { fits, plainBytes, refuse, type ListCodec } from './list-codec';
import type { Item } from './layout';
import type { IdentityObject } from './message';

/** Objects of a device's identification: Modbus Application Protocol V1.1b3, 6.21. 80 to FF are the maker's own. */
const OBJECT_NAMES: readonly string[] = [
  'vendor name',
  'product code',
  'major and minor revision',
  'vendor address',
  'product name',
  'model name',
  'user application name',
];

const objectName = (id: number): string =>
  OBJECT_NAMES[id] ?? (id >= 0x80 ? `maker’s object ${hexNumber(id, 2)}` : `reserved object ${hexNumber(id, 2)}`);

/** Printable characters as they are, others as dots. */
const asText = (bytes: Uint8Array): string =>
  Array.from(bytes, (byte) => (byte >= 0x20 && byte < 0x7f ? String.fromCharCode(byte) : '·')).join('');

/** Where the object that begins at `at` ends; its length byte has to be there. */
export const objectEnd = (bytes: Uint8Array, at: number): number => at + 2 + (bytes[at + 1] as number);

/**
 * How many bytes `tally` objects take from `start` on. Where a length byte is missing, the object is taken as empty and the size ends beyond
 * `end`, so that the frame counts as cut.
 */
export function objectsSize(bytes: Uint8Array, start: number, end: number, tally: number): number {
  let at = start;
  for (let i = 0; i < tally; i++) {
    if (at + 1 >= end) return Math.max(at + 2, end + 1) - start;
    at = objectEnd(bytes, at);
  }
  return at - start;
}

interface Place {
  readonly start: number;
  readonly end: number;
}

function placesOf(bytes: Uint8Array, start: number, end: number): readonly Place[] {
  const places: Place[] = [];
  for (let at = start; at < end;) {
    const until = at + 1 < end ? objectEnd(bytes, at) : at + 2;
    places.push({ start: at, end: until });
    at = until;
  }
  return places;
}

export const OBJECTS: ListCodec<Extract<Item, { kind: 'objects' }>> = {
  read: (bytes, start, end, _item, message) => {
    message.objects = placesOf(bytes, start, end)
      .filter((place) => place.end <= end)
      .map((place): IdentityObject => ({
        id: bytes[place.start] as number,
        hex: bytesToHex(bytes.subarray(place.start + 2, place.end)),
      }));
  },
  write: ({ objects }, _item, at) => {
    if (!objects) return refuse('missing-field', at, 0, 'objects are missing');
    const parts: Uint8Array[] = [];
    for (const [i, { id, hex }] of objects.entries()) {
      const bytes = hexToBytes(hex);
      if (!bytes.ok) return failed([bytes.error]);
      if (!fits(id, 0xff) || bytes.value.length > 0xff)
        return failed([
          fault('value-out-of-range', at, at + 2, `object ${i + 1}: its number and its length are 0 to 255`),
        ]);
      parts.push(Uint8Array.of(id, bytes.value.length), bytes.value);
    }
    return done(concatBytes(...parts));
  },
  fields: (bytes, start, end) =>
    placesOf(bytes, start, end).map((place, i): Field => {
      const path = `objects[${i}]`;
      const until = Math.min(place.end, end);
      const base = {
        path,
        label: `object ${i + 1}`,
        start: place.start,
        end: until,
        value: null,
        codec: 'bytes',
      } as const;
      if (place.end > end)
        return {
          ...base,
          text: 'cut short',
          children: [plainBytes(bytes, `${path}.part`, 'part of an object', place.start, until, 'cut short')],
        };
      const id = bytes[place.start] as number;
      const size = bytes[place.start + 1] as number;
      const value = bytes.subarray(place.start + 2, until);
      return {
        ...base,
        text: objectName(id),
        children: [
          {
            path: `${path}.id`,
            label: 'object number',
            start: place.start,
            end: place.start + 1,
            value: id,
            text: objectName(id),
            codec: 'u8',
          },
          {
            path: `${path}.length`,
            label: 'length',
            start: place.start + 1,
            end: place.start + 2,
            value: size,
            text: counted(size, 'byte'),
            codec: 'u8',
          },
          ...(size > 0 ? [plainBytes(bytes, `${path}.value`, 'text', place.start + 2, until, asText(value))] : []),
        ],
      };
    }),
  text: (bytes, start, end) => counted(placesOf(bytes, start, end).length, 'object'),
};
