import * as v from 'valibot';
import { hexToBytes } from '../core/bytes/hex';
import { parseRational, type Rational } from '../core/scaling/rational';
import { BadLine } from './protocol';

/** Reads one line's fields by a strict schema; an unknown field is an error, as a typing slip would otherwise pass unseen. */
export function read<const Entries extends v.ObjectEntries>(
  entries: Entries,
  input: unknown,
): v.InferOutput<v.StrictObjectSchema<Entries, undefined>> {
  return readWith(v.strictObject(entries), input, 'line');
}

/** Reads a value by any schema; `name` stands for it where the fault has no path. */
export function readWith<const Schema extends v.GenericSchema>(
  schema: Schema,
  input: unknown,
  name: string,
): v.InferOutput<Schema> {
  const parsed = v.safeParse(schema, input);
  if (parsed.success) return parsed.output;
  const [issue] = parsed.issues;
  const path = v.getDotPath(issue) ?? name;
  throw new BadLine(issue.expected === 'never' ? 'unknown-field' : 'bad-field', `${path}: ${issue.message}`);
}

/** Leaves out what was not given, at any depth: an absent field and an undefined one are not the same to the core. */
export function whole<T>(value: T): Given<T> {
  return JSON.parse(JSON.stringify(value)) as Given<T>;
}

type Given<T> = T extends readonly (infer E)[]
  ? readonly Given<E>[]
  : T extends object
    ? { [K in keyof T]: Given<Exclude<T[K], undefined>> }
    : T;

/** A number as text or as JSON has it. */
export const Numeric = v.union([v.string(), v.number()]);

/** The number of a field, exactly. */
export function exactNumber(name: string, value: string | number | undefined): Rational {
  if (value === undefined) throw new BadLine('missing-field', `${name} is missing`);
  const parsed = parseRational(String(value));
  if (!parsed.ok) throw new BadLine('bad-number', `${name}: ${parsed.error.text}`);
  return parsed.value;
}

/** A field `id` of any kind is handed through; every verb knows it. */
export const Id = { id: v.optional(v.unknown()) };

/** Bytes of a hex text. Throws `BadLine` with the fault, which the line’s answer tells. */
export function bytesOf(hex: string): Uint8Array {
  const parsed = hexToBytes(hex);
  if (!parsed.ok) throw new BadLine(parsed.error.code, parsed.error.text);
  return parsed.value;
}
