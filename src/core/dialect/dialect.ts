import * as v from 'valibot';
import { CHECKSUM_NAMES } from '../checksum/catalogue';
import { Exact, Slug, Text, Whole, whole } from '../schema/primitives';
import { wordSchema } from '../words/word-schema';
import { ACCESSES, COMMAND_ROLES, ERROR_ROLES, MOTION_ROLES, type Access } from './roles';

/** Fixed text on the wire, control characters by name: `<STX>`, `<CR><LF>`. Empty means that there is none. */
export const Literal = v.pipe(v.string(), v.maxLength(40));

export const DialectField = v.strictObject({
  name: Text,
  base: v.picklist(['decimal', 'hex', 'text']),
  /** Digits, filled with zeros; absent: as many as the number needs. */
  width: v.optional(whole(1, 32)),
  /** `minus`: a minus sign where needed; `always`: plus or minus; `twos`: two's complement in the hex digits. */
  sign: v.optional(v.picklist(['minus', 'always', 'twos'])),
  /** Digits behind a decimal point; the raw number is then counted in the last of them. */
  decimals: v.optional(whole(1, 9)),
  min: v.optional(Whole),
  max: v.optional(Whole),
  unit: v.optional(Text),
  /** One count in that unit. */
  perCount: v.optional(Exact),
  choices: v.optional(v.array(v.strictObject({ value: Whole, name: Text }))),
});
export type DialectField = v.InferOutput<typeof DialectField>;

export const DialectCommand = v.strictObject({
  id: Slug,
  verb: v.pipe(v.string(), v.minLength(1), v.maxLength(20)),
  name: Text,
  role: v.optional(v.picklist(COMMAND_ROLES)),
  access: v.pipe(v.array(v.picklist(ACCESSES)), v.minLength(1)),
  /** What is written, acted with, or read back. */
  fields: v.pipe(v.array(DialectField), v.maxLength(20)),
  /** What a read must name, an index for example. */
  asks: v.optional(v.pipe(v.array(DialectField), v.maxLength(8))),
  /** Value that a drive has when it leaves the factory, field by field, as raw numbers. */
  default: v.optional(v.array(Whole)),
  note: v.optional(Text),
});
export type DialectCommand = v.InferOutput<typeof DialectCommand>;

const Digits = { base: v.picklist(['decimal', 'hex']), width: v.optional(whole(1, 8)) };

export const CheckRule = v.strictObject({
  algorithm: v.picklist(CHECKSUM_NAMES),
  /** Where the span begins: with the opening, behind it, or behind the station. It ends before the check, its lead not counted. */
  from: v.picklist(['open', 'after-open', 'after-station']),
  /** The check follows the closing, which is then part of the span. */
  afterClose: v.optional(v.boolean()),
  form: v.picklist(['hex', 'decimal', 'binary']),
  /** Fixed text before the check, not in its span. */
  lead: v.optional(Literal),
});
export type CheckRule = v.InferOutput<typeof CheckRule>;

/** A drive's own command language as data: encode, decode, help and the stand-in's parser all run from it. */
export const DialectSchema = v.strictObject({
  id: Slug,
  name: Text,
  open: Literal,
  close: Literal,
  /** Multi-drop prefix; absent where the line has one drive. */
  station: v.optional(v.strictObject({ ...Digits, width: whole(1, 4), min: Whole, max: Whole, after: Literal })),
  /** Letters of verbs may be large or small. */
  anyCase: v.optional(v.boolean()),
  marks: v.strictObject({
    read: v.optional(Literal),
    write: v.optional(Literal),
    keep: v.optional(Literal),
    act: v.optional(Literal),
  }),
  separator: Literal,
  check: v.optional(CheckRule),
  /** The drive sends every character back before it answers. */
  echo: v.optional(v.boolean()),
  reply: v.strictObject({
    station: v.optional(v.boolean()),
    /** A value comes with its verb before it. */
    verb: v.optional(v.boolean()),
    mark: Literal,
    good: Literal,
    error: v.strictObject({ mark: Literal, ...Digits }),
    /** Good and error mark come alone, without opening, station, check and closing. */
    bareMarks: v.optional(v.boolean()),
  }),
  commands: v.pipe(v.array(DialectCommand), v.minLength(1), v.maxLength(300)),
  errors: v.optional(
    v.array(v.strictObject({ code: whole(0, 65535), text: Text, role: v.optional(v.picklist(ERROR_ROLES)) })),
  ),
  /** The word that the role `motion-word` reads. */
  motion: v.optional(wordSchema(MOTION_ROLES)),
});
export type Dialect = v.InferOutput<typeof DialectSchema>;

/** What a line in a dialect says. Values are raw: counts, or text. */
export interface DialectMessage {
  readonly station?: number;
  readonly kind: Access | 'value' | 'good' | 'error';
  readonly command?: string;
  readonly values?: readonly (number | string)[];
  readonly error?: number;
}
