import * as v from 'valibot';
import { dialectSplitter } from '../core/capture/split-framed';
import type { Dialect } from '../core/dialect/dialect';
import { ACCESSES } from '../core/dialect/roles';
import { readDialect, readEitherWay } from '../core/dialect/read';
import { encodeDialect } from '../core/dialect/write';
import type { FrameCodec } from './frame-codec';
import { readWith, whole } from './input';
import { shippedSheet } from './sheets';

const Integer = v.pipe(v.number(), v.integer());

const MessageField = v.strictObject({
  station: v.optional(Integer),
  kind: v.picklist([...ACCESSES, 'value', 'good', 'error']),
  command: v.optional(v.string()),
  values: v.optional(v.array(v.union([Integer, v.string()]))),
  error: v.optional(Integer),
});

const codecOf = (dialect: Dialect): FrameCodec => ({
  decode: (bytes, { direction }) =>
    direction ? readDialect(dialect, bytes, direction) : readEitherWay(dialect, bytes),
  encode: (message, direction) => encodeDialect(dialect, whole(readWith(MessageField, message, 'message')), direction),
  split: (sink) => dialectSplitter(dialect, sink),
  headOf: (frame, direction) => ({ unit: readDialect(dialect, frame, direction).message?.station ?? null, fc: null }),
});

/** The dialects that ship, by their ids. */
export const DIALECT_IDS = ['pipit', 'siskin', 'linnet'] as const;

/** The codec of a shipped sheet’s dialect; null where the sheet is not known or has none. */
export function dialectCodec(id: string): FrameCodec | null {
  const dialect = shippedSheet(id)?.dialect;
  return dialect ? codecOf(dialect) : null;
}
