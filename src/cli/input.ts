import * as v from 'valibot';
import { hexToBytes } from '../core/bytes/hex';
import { BadLine } from './protocol';

/** Reads one line's fields by a strict schema; an unknown field is an error, as a typing slip would otherwise pass unseen. */
export function read<const Entries extends v.ObjectEntries>(
  entries: Entries,
  input: unknown,
): v.InferOutput<v.StrictObjectSchema<Entries, undefined>> {
  const parsed = v.safeParse(v.strictObject(entries), input);
  if (parsed.success) return parsed.output;
  const [issue] = parsed.issues;
  const path = v.getDotPath(issue) ?? 'line';
  throw new BadLine(issue.expected === 'never' ? 'unknown-field' : 'bad-field', `${path}: ${issue.message}`);
}

/** A field `id` of any kind is handed through; every verb knows it. */
export const Id = { id: v.optional(v.unknown()) };

export function bytesOf(hex: string): Uint8Array {
  const parsed = hexToBytes(hex);
  if (!parsed.ok) throw new BadLine(parsed.error.code, parsed.error.text);
  return parsed.value;
}
