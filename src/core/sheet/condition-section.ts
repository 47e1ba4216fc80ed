import * as v from 'valibot';
import { Slug, Text, Whole, whole } from '../schema/primitives';

/** Kinds of things that keep a shaft from turning; the kind says where to look and what helps. */
export const CONDITION_KINDS = [
  'live-condition',
  'input-level',
  'masked',
  'source',
  'master',
  'limit',
  'direction',
  'unipolar',
] as const;
export type ConditionKind = (typeof CONDITION_KINDS)[number];

/** What the manual says must be so before the shaft turns, beyond what any drive needs: a bit or a value, and what to do about it. */
export const ConditionSection = v.pipe(
  v.array(
    v.strictObject({
      id: Slug,
      kind: v.picklist(CONDITION_KINDS),
      /** What must be so: “the supply is there”. */
      title: Text,
      look: v.variant('at', [
        v.strictObject({ at: v.literal('status-bit'), bit: whole(0, 31), is: v.picklist([0, 1]) }),
        v.strictObject({ at: v.literal('control-bit'), bit: whole(0, 31), is: v.picklist([0, 1]) }),
        /** The value of a parameter, by the manual's number, is one of these. */
        v.strictObject({ at: v.literal('parameter'), number: v.string(), is: v.pipe(v.array(Whole), v.minLength(1)) }),
      ]),
      /** Only when the shaft is asked to turn this way. */
      when: v.optional(v.picklist(['forward', 'backward'])),
      advice: Text,
      /** False where the shaft turns all the same, only not as asked. */
      blocks: v.optional(v.boolean(), true),
    }),
  ),
  v.maxLength(100),
);
export type SheetCondition = v.InferOutput<typeof ConditionSection>[number];
