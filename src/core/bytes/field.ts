import { fault, type Fault } from '../fault';
import { textToBytes } from './text';
import { done, failed, type Result } from '../result';

/** How the bytes of a leaf hold its value, so that an edit can write it back. */
export type FieldCodec = NumberCodec | 'bytes';

/** Numbers as bytes, or as hex digits of characters (`hex8`, `hex16`). */
export type NumberCodec = 'u8' | 'u16be' | 'u16le' | 'hex8' | 'hex16';

/**
 * One node of a frame's anatomy. `path` is stable over edits; leaves cover every byte of the frame exactly once.
 * `start` inclusive, `end` exclusive, in bytes on the wire.
 */
export interface Field {
  readonly path: string;
  readonly label: string;
  readonly start: number;
  readonly end: number;
  readonly value: number | string | null;
  readonly text: string;
  readonly codec: FieldCodec;
  readonly children?: readonly Field[];
}

/** The leaves of a tree of fields, in the order of their bytes. */
export function leavesOf(fields: readonly Field[]): readonly Field[] {
  return fields.flatMap((field) => (field.children && field.children.length > 0 ? leavesOf(field.children) : [field]));
}

const writeHex = (edited: Uint8Array, start: number, value: number, digits: number): void =>
  edited.set(textToBytes(value.toString(16).toUpperCase().padStart(digits, '0')), start);

/** How a number goes into the bytes, and how many values it may have. */
const CODECS: Readonly<
  Record<
    NumberCodec,
    { readonly most: number; readonly write: (edited: Uint8Array, start: number, value: number) => void }
  >
> = {
  u8: { most: 0xff, write: (edited, start, value) => edited.set([value], start) },
  u16be: { most: 0xffff, write: (edited, start, value) => edited.set([value >>> 8, value & 0xff], start) },
  u16le: { most: 0xffff, write: (edited, start, value) => edited.set([value & 0xff, value >>> 8], start) },
  hex8: { most: 0xff, write: (edited, start, value) => writeHex(edited, start, value, 2) },
  hex16: { most: 0xffff, write: (edited, start, value) => writeHex(edited, start, value, 4) },
};

/**
 * Writes a number into a leaf's bytes and gives the new frame; nothing else of the frame changes, so a check may now be wrong.
 * Fault: `value-out-of-range` when the field is too narrow or holds no number.
 */
export function spliceField(bytes: Uint8Array, field: Field, value: number): Result<Uint8Array, Fault> {
  if (field.codec === 'bytes')
    return failed(fault('value-out-of-range', field.start, field.end, `${field.label} holds no single number`));
  const { most, write } = CODECS[field.codec];
  if (!Number.isInteger(value) || value < 0 || value > most)
    return failed(fault('value-out-of-range', field.start, field.end, `${field.label} takes 0 to ${most}`));
  const edited = bytes.slice();
  write(edited, field.start, value);
  return done(edited);
}
