import * as v from 'valibot';
import { PARAMETER_ROLES, ScaleSchema } from './parameter-section';
import { Register, Text, Whole, whole } from '../schema/primitives';

/** A parameter as USS reaches it: by number and element, words or double words. */
export const UssParameterSchema = v.strictObject({
  number: whole(0, 9999),
  name: Text,
  unit: v.optional(Text),
  role: v.optional(v.picklist(PARAMETER_ROLES)),
  scale: v.optional(ScaleSchema),
  /** Raw numbers with names. */
  choices: v.optional(v.array(v.strictObject({ value: Register, name: Text }))),
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

/** One word of the process data. */
const ProcessItemSchema = v.strictObject({
  name: Text,
  role: v.optional(v.picklist(PARAMETER_ROLES)),
  unit: v.optional(Text),
  type: v.picklist(['uint16', 'int16']),
  scale: v.optional(ScaleSchema),
  min: Whole,
  max: Whole,
});
export type ProcessItem = v.InferOutput<typeof ProcessItemSchema>;
const ProcessItems = v.pipe(v.array(ProcessItemSchema), v.maxLength(16));

export const UssSection = v.strictObject({
  pkwWords: v.picklist([3, 4]),
  pzdWords: whole(0, 16),
  /** What the words of the process data are, to the drive and from it. */
  process: v.optional(v.strictObject({ out: ProcessItems, in: ProcessItems })),
  /** Which half of IND holds the array index; the other one holds the page bits. */
  indexHalf: v.picklist(['high', 'low']),
  pages: v.pipe(v.array(v.strictObject({ from: whole(1, 65535), bits: whole(1, 255) })), v.maxLength(16)),
  parameters: v.pipe(v.array(UssParameterSchema), v.maxLength(5000)),
});
