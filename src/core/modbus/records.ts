import { concatBytes } from '../bytes/concat';
import type { Field } from '../bytes/field';
import { hexNumber } from '../bytes/hex';
import { counted } from '../counted';
import { fault, type Fault } from '../fault';
import { done } from '../result';
import {
  fits,
  plainBytes,
  readWords,
  refuse,
  u16,
  wordAt,
  wordFields,
  writeWords,
  type ItemBytes,
  type ListCodec,
} from './list-codec';
import type { Item, RecordForm } from './layout';
import type { FileRecord } from './message';

/** Sub-requests of file access: Modbus Application Protocol V1.1b3, 6.14 and 6.15. */
const REFERENCE_TYPE = 6;
const MOST_RECORD = 9999;
/** Type, file, record and length before the data. */
const HEAD = 7;

/** One sub-request's place: `data` is where its registers begin, `end` where it should end. */
interface Part {
  readonly start: number;
  readonly typeAt: number;
  readonly data: number;
  readonly end: number;
}

/** Cuts a list into sub-requests; the last one may end beyond `end`, which is a fault of its length. */
function partsOf(bytes: Uint8Array, start: number, end: number, form: RecordForm): readonly Part[] {
  const parts: Part[] = [];
  for (let at = start; at < end;) {
    const part: Part =
      form === 'given'
        ? { start: at, typeAt: at + 1, data: at + 2, end: at + 1 + Math.max(bytes[at] as number, 1) }
        : {
            start: at,
            typeAt: at,
            data: at + HEAD,
            end: at + HEAD + (form === 'write' && at + HEAD <= end ? 2 * wordAt(bytes, at + 5) : 0),
          };
    parts.push(part);
    at = part.end;
  }
  return parts;
}

function faultsOf(bytes: Uint8Array, part: Part, end: number, form: RecordForm): readonly Fault[] {
  if (part.end > end)
    return [
      fault(
        'byte-count-mismatch',
        part.start,
        end,
        `this record needs ${part.end - part.start} bytes, ${end - part.start} are left`,
      ),
    ];
  const faults: Fault[] = [];
  const type = bytes[part.typeAt];
  if (type !== REFERENCE_TYPE && part.typeAt < part.end)
    faults.push(
      fault(
        'value-out-of-range',
        part.typeAt,
        part.typeAt + 1,
        `the reference type is ${type}; the standard has ${REFERENCE_TYPE} only`,
      ),
    );
  if (form === 'given') {
    if (bytes[part.start] === 0 || (part.end - part.data) % 2 === 1)
      faults.push(
        fault(
          'byte-count-mismatch',
          part.start,
          part.start + 1,
          `a record of ${bytes[part.start]} bytes is no type and whole registers`,
        ),
      );
    return faults;
  }
  if (wordAt(bytes, part.start + 1) === 0)
    faults.push(fault('value-out-of-range', part.start + 1, part.start + 3, 'files are counted from 1'));
  if (wordAt(bytes, part.start + 3) > MOST_RECORD)
    faults.push(
      fault(
        'value-out-of-range',
        part.start + 3,
        part.start + 5,
        `record ${wordAt(bytes, part.start + 3)}; records are 0 to ${MOST_RECORD}`,
      ),
    );
  if (wordAt(bytes, part.start + 5) === 0)
    faults.push(fault('quantity-out-of-range', part.start + 5, part.start + 7, 'a record has at least one register'));
  return faults;
}

function recordOf(bytes: Uint8Array, part: Part, form: RecordForm): FileRecord {
  const values = readWords(bytes, part.data, part.end);
  if (form === 'given') return { length: values.length, values };
  const head = {
    file: wordAt(bytes, part.start + 1),
    record: wordAt(bytes, part.start + 3),
    length: wordAt(bytes, part.start + 5),
  };
  return form === 'ask' ? head : { ...head, values };
}

function writeRecord(record: FileRecord, form: RecordForm, at: number, name: string): ItemBytes {
  const { values } = record;
  if (form !== 'ask' && !values) return refuse('missing-field', at, 0, `${name} has no values`);
  const words = writeWords(values ?? [], at + (form === 'given' ? 2 : HEAD));
  if (!words.ok) return words;
  const data = form === 'ask' ? new Uint8Array(0) : words.value;
  if (form === 'given') {
    if (data.length > 254)
      return refuse('value-out-of-range', at, 1, `${name} has more registers than its length can say`);
    return done(concatBytes(Uint8Array.of(1 + data.length, REFERENCE_TYPE), data));
  }
  const head = [
    ['file', record.file, 1, 0xffff],
    ['record', record.record, 0, MOST_RECORD],
    ['length', record.length ?? values?.length, 1, 0xffff],
  ] as const;
  const parts: Uint8Array[] = [Uint8Array.of(REFERENCE_TYPE)];
  for (const [i, [field, value, least, most]] of head.entries()) {
    const place = at + 1 + 2 * i;
    if (value === undefined) return refuse('missing-field', place, 2, `${name} has no ${field}`);
    if (!fits(value, most) || value < least)
      return refuse('value-out-of-range', place, 2, `${field} ${value} of ${name}: ${least} to ${most} fit`);
    parts.push(u16(value));
  }
  if (form === 'write' && record.length !== undefined && record.length !== values?.length)
    return refuse(
      'value-out-of-range',
      at + 5,
      2,
      `${name} says ${record.length} registers and has ${values?.length ?? 0}`,
    );
  return done(concatBytes(...parts, data));
}

function partFields(bytes: Uint8Array, part: Part, limit: number, form: RecordForm, index: number): Field {
  const end = Math.min(part.end, limit);
  const path = `records[${index}]`;
  const base = { path, label: `record ${index + 1}`, start: part.start, end, value: null, codec: 'bytes' } as const;
  if (part.end > limit || part.data > end)
    return {
      ...base,
      children: [plainBytes(bytes, `${path}.part`, 'part of a record', part.start, end, 'cut short')],
      text: 'cut short',
    };
  const type = bytes[part.typeAt] as number;
  const head: Field[] = [
    {
      path: `${path}.type`,
      label: 'reference type',
      start: part.typeAt,
      end: part.typeAt + 1,
      value: type,
      text: type === REFERENCE_TYPE ? 'file record' : `must be ${REFERENCE_TYPE}`,
      codec: 'u8',
    },
  ];
  if (form === 'given') {
    const size = bytes[part.start] as number;
    head.unshift({
      path: `${path}.size`,
      label: 'record bytes',
      start: part.start,
      end: part.start + 1,
      value: size,
      text: `${counted(size, 'byte')} with the type`,
      codec: 'u8',
    });
  } else
    for (const [i, name] of (['file', 'record', 'length'] as const).entries()) {
      const at = part.start + 1 + 2 * i;
      const value = wordAt(bytes, at);
      const text = name === 'length' ? counted(value, 'register') : `${hexNumber(value)} = ${value}`;
      head.push({ path: `${path}.${name}`, label: name, start: at, end: at + 2, value, text, codec: 'u16be' });
    }
  const words = wordFields(bytes, part.data, end, `${path}.values`, 'value', true);
  return { ...base, text: counted(words.length, 'register'), children: [...head, ...words] };
}

export const RECORDS: ListCodec<Extract<Item, { kind: 'records' }>> = {
  read: (bytes, start, end, { form }, message, faults) => {
    const parts = partsOf(bytes, start, end, form);
    message.records = parts
      .filter((part) => part.end <= end && part.data <= part.end)
      .map((part) => recordOf(bytes, part, form));
    faults.push(...parts.flatMap((part) => faultsOf(bytes, part, end, form)));
  },
  write: ({ records }, { form }, at) => {
    if (!records) return refuse('missing-field', at, 0, 'records are missing');
    const parts: Uint8Array[] = [];
    let place = at;
    for (const [i, record] of records.entries()) {
      const part = writeRecord(record, form, place, `record ${i + 1}`);
      if (!part.ok) return part;
      parts.push(part.value);
      place += part.value.length;
    }
    return done(concatBytes(...parts));
  },
  fields: (bytes, start, end, { form }) =>
    partsOf(bytes, start, end, form).map((part, i) => partFields(bytes, part, end, form, i)),
  text: (_bytes, start, end) => counted(end - start, 'byte'),
};
