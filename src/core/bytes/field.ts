import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';

/** How the bytes of a leaf hold its value, so that an edit can write it back. */
export type FieldCodec = 'u8' | 'u16be' | 'u16le' | 'bytes';

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

const WIDTH: Readonly<Record<Exclude<FieldCodec, 'bytes'>, number>> = { u8: 1, u16be: 2, u16le: 2 };

/**
 * Writes a number into a leaf's bytes and gives the new frame; nothing else of the frame changes, so a check may now be wrong.
 * Fault: `value-out-of-range` when the field is too narrow or holds no number.
 */
export function spliceField(bytes: Uint8Array, field: Field, value: number): Result<Uint8Array, Fault> {
  if (field.codec === 'bytes')
    return failed(fault('value-out-of-range', field.start, field.end, `${field.label} holds no single number`));
  const width = WIDTH[field.codec];
  const most = 2 ** (8 * width) - 1;
  if (!Number.isInteger(value) || value < 0 || value > most)
    return failed(fault('value-out-of-range', field.start, field.end, `${field.label} takes 0 to ${most}`));
  const edited = bytes.slice();
  for (let i = 0; i < width; i++) {
    const shift = field.codec === 'u16le' ? 8 * i : 8 * (width - 1 - i);
    edited[field.start + i] = (value >>> shift) & 0xff;
  }
  return done(edited);
}
