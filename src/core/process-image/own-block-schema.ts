import * as v from 'valibot';
import { Text, whole } from '../schema/primitives';
import { IMAGE_ORDERS, ITEM_TYPES } from './image';

/** Longest block, and longest slot that holds one, in bytes; most items of a block. */
export const MOST_BYTES = 1440;
export const MOST_ITEMS = 512;
export const MOST_START = 65_535;

const keysOf = <Key extends string>(record: Readonly<Record<Key, unknown>>): readonly Key[] =>
  Object.keys(record) as Key[];

/** A cyclic block that a user laid out: the drive's, or a gateway's over several drives, with the controller's side of it. */
export const OwnBlockSchema = v.strictObject({
  id: v.string(),
  name: Text,
  direction: v.picklist(['to-drive', 'from-drive']),
  /** Bytes of the data. */
  size: whole(1, MOST_BYTES),
  /** Bytes of the slot that holds them, where it is longer; the rest of it is 0. */
  slot: v.optional(whole(1, MOST_BYTES)),
  order: v.picklist(keysOf(IMAGE_ORDERS)),
  /** The byte of the controller's memory at which it begins. */
  start: whole(0, MOST_START),
  counts: v.picklist(['bytes', 'own-width']),
  items: v.pipe(
    v.array(
      v.strictObject({
        name: Text,
        what: v.pipe(v.string(), v.maxLength(400)),
        type: v.picklist(keysOf(ITEM_TYPES)),
        byte: whole(0, MOST_BYTES - 1),
        bit: v.optional(whole(0, 7)),
        /** How its bytes come where that is not as in the rest of the block. */
        order: v.optional(v.picklist(keysOf(IMAGE_ORDERS))),
        /** The count that stands for 100 %. */
        full: v.optional(whole(1, 2 ** 32)),
      }),
    ),
    v.maxLength(MOST_ITEMS),
  ),
});
export type OwnBlock = v.InferOutput<typeof OwnBlockSchema>;
