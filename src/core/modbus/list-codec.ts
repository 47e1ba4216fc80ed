import { concatBytes } from '../bytes/concat';
import { bytesToHex } from '../bytes/hex';
import type { Field } from '../bytes/field';
import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';
import type { Item } from './layout';
import type { Draft, ModbusMessage } from './message';

/** Bytes of one item, or why there are none. */
export type ItemBytes = Result<Uint8Array, readonly Fault[]>;

export type ListKind = 'words' | 'bits' | 'events' | 'identity' | 'records' | 'objects' | 'opaque';
export type ListItem = Extract<Item, { kind: ListKind }>;

/** How a list of one kind is read, written and shown; `start` inclusive, `end` exclusive. */
export interface ListCodec<I extends ListItem = ListItem> {
  readonly read: (bytes: Uint8Array, start: number, end: number, item: I, message: Draft, faults: Fault[]) => void;
  /** `at` is where the list will stand. */
  readonly write: (message: ModbusMessage, item: I, at: number) => ItemBytes;
  readonly fields: (bytes: Uint8Array, start: number, end: number, item: I) => readonly Field[];
  readonly text: (bytes: Uint8Array, start: number, end: number) => string;
}

/** The 16-bit word at a place, high byte first; both bytes must be there. */
export const wordAt = (bytes: Uint8Array, at: number): number =>
  ((bytes[at] as number) << 8) | (bytes[at + 1] as number);

/** A 16-bit word as two bytes, high byte first. */
export const u16 = (value: number): Uint8Array => Uint8Array.of(value >> 8, value & 0xff);

/** Whether a value is a whole number from 0 to `most`. */
export const fits = (value: number, most: number): boolean => Number.isInteger(value) && value >= 0 && value <= most;

/** A field that cannot be encoded, with the bytes at which it would stand. */
export const refuse = (
  code: 'missing-field' | 'value-out-of-range',
  at: number,
  size: number,
  text: string,
): ItemBytes => failed([fault(code, at, at + size, text)]);

/** Bytes without a meaning of their own. */
export const plainBytes = (
  bytes: Uint8Array,
  path: string,
  label: string,
  start: number,
  end: number,
  text: string,
): Field => ({ path, label, start, end, value: bytesToHex(bytes.subarray(start, end)), text, codec: 'bytes' });

/** A word as a number, and as a signed one too where that differs. */
export const wordText = (value: number): string => (value > 0x7fff ? `${value} or ${value - 0x10000}` : `${value}`);

/** Registers from `start` on, with a leaf for half a register that is left. */
export function wordFields(
  bytes: Uint8Array,
  start: number,
  end: number,
  path: string,
  label: string,
  numbered: boolean,
): readonly Field[] {
  const count = (end - start) >> 1;
  const fields: Field[] = Array.from({ length: count }, (_, i) => {
    const at = start + 2 * i;
    const value = wordAt(bytes, at);
    return {
      path: `${path}[${i}]`,
      label: numbered ? `${label} ${i + 1}` : label,
      start: at,
      end: at + 2,
      value,
      text: wordText(value),
      codec: 'u16be',
    };
  });
  if ((end - start) % 2 === 1)
    fields.push(plainBytes(bytes, `${path}[${count}]`, `${label} ${count + 1}`, end - 1, end, 'half a register'));
  return fields;
}

/** The words of a stretch of bytes, high byte first; an odd byte at the end is left. */
export function readWords(bytes: Uint8Array, start: number, end: number): number[] {
  const count = (end - start) >> 1;
  const values = new Array<number>(count);
  for (let i = 0; i < count; i++) values[i] = wordAt(bytes, start + 2 * i);
  return values;
}

/** Registers as bytes. Fault: `value-out-of-range` at the register that does not fit. */
export function writeWords(values: readonly number[], at: number): ItemBytes {
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
