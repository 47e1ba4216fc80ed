import type { ImageItem } from './image';
import { endOf } from './pack';

const BITS = 8;

/** The first bit of an item, counted from the block's begin, and the one behind its last. */
function spanOf(item: ImageItem): readonly [first: number, end: number] {
  const first = BITS * item.byte + (item.bit ?? 0);
  return [first, item.type === 'bool' ? first + 1 : BITS * endOf(item)];
}

/** An item so many places further on, bits for a bool and bytes for all else; it stays between the block's begin and `most` bytes. */
export function shifted<Item extends ImageItem>(item: Item, places: number, most: number): Item {
  const inside = (place: number, last: number): number => Math.min(Math.max(0, place), Math.max(0, last));
  if (item.type !== 'bool') return { ...item, byte: inside(item.byte + places, most - (endOf(item) - item.byte)) };
  const at = inside(BITS * item.byte + (item.bit ?? 0) + places, BITS * most - 1);
  return { ...item, byte: Math.floor(at / BITS), bit: at % BITS };
}

/** For each item the lane in which it is drawn, so that items that lie over each other are all seen; 0 where none does. */
export function lanesOf<Item extends ImageItem>(items: readonly Item[]): ReadonlyMap<Item, number> {
  const ends: number[] = [];
  const lanes = new Map<Item, number>();
  const order = items.map((item) => ({ item, span: spanOf(item) })).sort((a, b) => a.span[0] - b.span[0]);
  for (const { item, span } of order) {
    const free = ends.findIndex((end) => end <= span[0]);
    const lane = free < 0 ? ends.length : free;
    ends[lane] = span[1];
    lanes.set(item, lane);
  }
  return lanes;
}
