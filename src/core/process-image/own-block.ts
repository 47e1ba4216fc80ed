import { counted } from '../counted';
import type { Block } from './blocks';
import type { ControllerPlace } from './controller';
import { layoutFaults, type ImageItem, type ImageOrder } from './image';
import type { OwnBlock } from './own-block-schema';
import { ORDER_NAMES } from './order-names';
import { bytesOf, endOf } from './pack';

/** Where the controller keeps a block of the user's. */
export const placeOfOwn = ({ direction, start, counts }: OwnBlock): ControllerPlace => ({
  area: direction === 'to-drive' ? 'Q' : 'I',
  start,
  counts,
});

/** A block as one of the user's own, to be changed. */
export const ownBlockOf = (
  block: Pick<Block, 'direction' | 'size' | 'items'>,
  as: { readonly id: string; readonly name: string; readonly order: ImageOrder } & Omit<ControllerPlace, 'area'>,
): OwnBlock => ({
  id: as.id,
  name: as.name,
  direction: block.direction,
  size: block.size,
  order: as.order,
  start: as.start,
  counts: as.counts,
  items: block.items.map(({ name, what, type, byte, bit, full, order }) => ({
    name,
    what,
    type,
    byte,
    ...(bit === undefined ? {} : { bit }),
    ...(full === undefined ? {} : { full }),
    ...(order === undefined ? {} : { order }),
  })),
});

/** A layout's faults, which make its values wrong, and what else a programmer has to know of it. */
export interface BlockRemark {
  readonly kind: 'wrong' | 'note';
  readonly text: string;
}

/** What is wrong with a block, and what is to be known of it. Linear but for the sorting. */
export function remarksOn(block: OwnBlock): readonly BlockRemark[] {
  const { items, size, slot = size } = block;
  const wrong = [
    ...layoutFaults(items, size).map(({ text }) => text),
    ...twice(items).map((name) => `two items are called ${name}`),
    ...(slot < size ? [`the slot has ${slot} bytes, the data ${size}`] : []),
  ];
  const notes = [
    ...holesIn(items, size).map(
      ([from, end]) =>
        `${end - from === 1 ? `byte ${from} belongs` : `bytes ${from} to ${end - 1} belong`} to no item and ${end - from === 1 ? 'stays' : 'stay'} 0`,
    ),
    ...(slot > size
      ? [`${counted(slot - size, 'byte')} behind the data ${slot - size === 1 ? 'is' : 'are'} not used and stay 0`]
      : []),
    ...otherwise(block),
    ...unaligned(block),
    ...together(items),
  ];
  return [
    ...wrong.map((text) => ({ kind: 'wrong', text }) as const),
    ...notes.map((text) => ({ kind: 'note', text }) as const),
  ];
}

/** Names that more than one item has; controllers take no notice of capitals. */
function twice(items: readonly ImageItem[]): readonly string[] {
  const seen = new Set<string>();
  return [
    ...new Set(
      items.flatMap(({ name }) => {
        const isKnown = seen.has(name.toUpperCase());
        seen.add(name.toUpperCase());
        return isKnown ? [name] : [];
      }),
    ),
  ];
}

/** Spans of bytes without an item. */
function holesIn(items: readonly ImageItem[], size: number): readonly (readonly [from: number, end: number])[] {
  const holes: (readonly [number, number])[] = [];
  let at = 0;
  for (const item of [...items].sort((a, b) => a.byte - b.byte)) {
    if (item.byte > at) holes.push([at, Math.min(item.byte, size)]);
    at = Math.max(at, endOf(item));
  }
  if (at < size) holes.push([at, size]);
  return holes.filter(([from, end]) => from < end);
}

/**
 * Items that do not begin at a multiple of their width: of the controller's memory where addresses count such values, else of the block, where a
 * structure of the controller would be laid out otherwise.
 */
function unaligned({ items, counts, start }: OwnBlock): readonly string[] {
  return items.flatMap(({ name, byte, type }) => {
    const width = bytesOf(type);
    if (counts === 'own-width')
      return (start + byte) % width === 0
        ? []
        : [
            `${name} begins in the controller’s byte ${start + byte}, no multiple of its ${width} bytes: it has no address`,
          ];
    return byte % width === 0
      ? []
      : [
          `${name} begins in byte ${byte}, no multiple of its ${width} bytes: a structure of the controller that is not declared as packed holds it further on`,
        ];
  });
}

/** Items whose bytes come otherwise than those of the rest. */
const otherwise = ({ items, order: ofBlock }: OwnBlock): readonly string[] =>
  items.flatMap(({ name, order = ofBlock }) =>
    order === ofBlock
      ? []
      : [`the bytes of ${name} come otherwise than the rest: ${ORDER_NAMES[order]}, not ${ORDER_NAMES[ofBlock]}`],
  );

/** What is longer than a word is torn where a controller does not copy it in one go. */
function together(items: readonly ImageItem[]): readonly string[] {
  const long = items.filter(({ type }) => bytesOf(type) > 2).map(({ name }) => name);
  return long.length === 0
    ? []
    : [
        `${long.join(', ')} ${long.length === 1 ? 'is' : 'are'} longer than a word: a controller that does not copy the block in one go can see half of an old value`,
      ];
}

/** Where blocks of the controller lie over each other in its inputs or outputs, one sentence for each that `own` meets. */
export function clashesWith(own: OwnBlock, all: readonly OwnBlock[]): readonly string[] {
  const end = ({ start, size, slot = size }: OwnBlock): number => start + Math.max(slot, size);
  const { area } = placeOfOwn(own);
  return all.flatMap((other) => {
    if (other.id === own.id || other.direction !== own.direction) return [];
    const [from, until] = [Math.max(own.start, other.start), Math.min(end(own), end(other))];
    return from >= until
      ? []
      : [
          `${until - from === 1 ? `byte ${from}` : `bytes ${from} to ${until - 1}`} of the controller’s ${area === 'Q' ? 'outputs' : 'inputs'} ${until - from === 1 ? 'belongs' : 'belong'} to “${other.name}” too`,
        ];
  });
}
