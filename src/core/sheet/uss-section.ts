import * as v from 'valibot';
import { Text, Whole, whole } from './primitives';

/** A parameter as USS reaches it: by number and element, words or double words. */
export const UssParameterSchema = v.strictObject({
  number: whole(0, 9999),
  name: Text,
  unit: v.optional(Text),
  double: v.optional(v.boolean()),
  /** Elements of an array; absent: no array. */
  elements: v.optional(whole(2, 255)),
  min: Whole,
  max: Whole,
  default: Whole,
  write: v.picklist(['always', 'standstill', 'never']),
  /** Text that task 15 reads. */
  text: v.optional(Text),
  note: v.optional(Text),
});
export type SheetUssParameter = v.InferOutput<typeof UssParameterSchema>;

export const UssSection = v.strictObject({
  pkwWords: v.picklist([3, 4]),
  pzdWords: whole(0, 16),
  /** Which half of IND holds the array index; the other one holds the page bits. */
  indexHalf: v.picklist(['high', 'low']),
  pages: v.pipe(v.array(v.strictObject({ from: whole(1, 65535), bits: whole(1, 255) })), v.maxLength(16)),
  parameters: v.pipe(v.array(UssParameterSchema), v.maxLength(5000)),
});
