import * as v from 'valibot';
import { Text, whole } from '../schema/primitives';

/** A number with a name. `disables`: what is not there any more while it is chosen, such as a guard that is masked. */
export const NamedValueSchema = v.strictObject({
  /** The number that is held; in a field of a word, and in sheets that say it so, the pattern of its bits. */
  value: whole(-0x80000000, 0xffffffff),
  name: Text,
  disables: v.optional(Text),
});

/** Several values in one word: a hex digit that is a selector of its own is a field of four bits. Bits count from the lowest, 0. */
export const WordFieldSchema = v.strictObject({
  name: Text,
  bit: whole(0, 31),
  bits: whole(1, 32),
  /** Its highest bit is a sign (two’s complement). */
  signed: v.optional(v.literal(true)),
  choices: v.optional(v.pipe(v.array(NamedValueSchema), v.maxLength(400))),
});
