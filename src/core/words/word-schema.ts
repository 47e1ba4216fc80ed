import * as v from 'valibot';
import { Text, whole } from '../schema/primitives';

/** How a sheet writes a word: its width, its bits with meaning and role, and the numbers that some bits make together. */
export const wordSchema = <const Roles extends readonly [string, ...string[]]>(roles: Roles) =>
  v.strictObject({
    width: v.picklist([8, 16, 32]),
    bits: v.pipe(
      v.array(
        v.strictObject({
          bit: whole(0, 31),
          name: Text,
          role: v.optional(v.picklist(roles)),
          one: Text,
          zero: Text,
          active: v.optional(v.picklist(['high', 'low'])),
          acts: v.optional(v.picklist(['level', 'rise'])),
          ignored: v.optional(v.boolean()),
        }),
      ),
      v.maxLength(32),
    ),
    exclusive: v.optional(v.array(v.array(whole(0, 31)))),
    /** Bits that together are one number, such as a choice of preset speeds. */
    fields: v.optional(
      v.pipe(
        v.array(
          v.strictObject({
            from: whole(0, 31),
            width: whole(2, 16),
            name: Text,
            values: v.pipe(v.array(v.strictObject({ value: whole(0, 65535), name: Text })), v.maxLength(256)),
          }),
        ),
        v.maxLength(16),
      ),
    ),
  });
