import type { NamedItem } from './controller';
import { ITEM_TYPES, type ImageItem, type ItemType } from './image';

/** Bytes that an item of a type takes; a bit stands in one of its own or shares it. */
export const bytesOf = (type: ItemType): number => Math.max(1, ITEM_TYPES[type] / 8);
/** The byte behind an item. */
export const endOf = ({ byte, type }: ImageItem): number => byte + bytesOf(type);

const withoutBit = <Item extends ImageItem>({ bit: _, ...item }: Item): Omit<Item, 'bit'> => item;

/** The items one after the other from the first byte on, without a gap; bits fill a byte before the next begins. */
export function packed<Item extends NamedItem>(items: readonly Item[]): readonly Item[] {
  let at = 0;
  let bit = 0;
  return items.map((item): Item => {
    if (item.type === 'bool') {
      const placed = { ...item, byte: at, bit };
      bit++;
      if (bit === 8) [at, bit] = [at + 1, 0];
      return placed;
    }
    if (bit > 0) [at, bit] = [at + 1, 0];
    const placed = { ...withoutBit(item), byte: at } as Item;
    at += bytesOf(item.type);
    return placed;
  });
}

/** The bytes that items take, from the first of the block on. */
export const lengthOf = (items: readonly ImageItem[]): number =>
  items.reduce((length, item) => Math.max(length, endOf(item)), 0);
