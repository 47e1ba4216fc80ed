import * as v from 'valibot';
import { Register, Text } from '../schema/primitives';

/** What must be made at the drive's own keypad before the link works, in this order. */
export const KeypadSection = v.strictObject({
  /** How a value is confirmed, and how one sees that it is kept. */
  confirm: Text,
  steps: v.pipe(
    v.array(
      v.strictObject({
        /** Keys and menu path as the manual prints them. */
        path: Text,
        what: Text,
        /** The setting by number, so that the link can verify it later; absent for an act that leaves no value. */
        parameter: v.optional(v.string()),
        /** The raw value that is wanted: a fixed one, or what line and station of the job say. */
        want: v.optional(
          v.variant('kind', [
            v.strictObject({ kind: v.literal('raw'), raw: Register }),
            v.strictObject({ kind: v.picklist(['station', 'bit-rate', 'character-form']) }),
          ]),
        ),
        /** Raw values as the display shows them, where that is not the plain number. */
        shows: v.optional(v.array(v.strictObject({ raw: Register, text: Text }))),
        note: v.optional(Text),
      }),
    ),
    v.minLength(1),
    v.maxLength(40),
  ),
});
