import type { Item, Layout } from './layout';
import { isList } from './lists';
import { wordAt } from './list-codec';
import { objectsSize } from './objects';

/** Where an item stands; `end` may lie beyond the bytes that are there, which is a truncation. */
export interface Placed {
  readonly item: Item;
  readonly start: number;
  readonly end: number;
}

export interface Placement {
  /** Where the bytes of the body end. */
  readonly limit: number;
  readonly placed: readonly Placed[];
  /** Where the body should end; undefined while its byte count has not arrived, and where only the check tells. */
  readonly end: number | undefined;
  /** Where the bytes begin that the byte count counts, and how many it says; undefined without one. */
  readonly count: { readonly at: number; readonly from: number; readonly value: number } | undefined;
}

/** Bytes of an item that does not depend on others; undefined for a list. */
function fixedSize(item: Item): number | undefined {
  switch (item.kind) {
    case 'u8':
    case 'flag':
      return 1;
    case 'u16':
    case 'coil':
      return 2;
    case 'count':
    case 'tally':
      return item.width;
    case 'words':
      return item.fixed === undefined ? undefined : 2 * item.fixed;
    default:
      return undefined;
  }
}

const numberAt = (bytes: Uint8Array, at: number, width: 1 | 2): number =>
  width === 1 ? (bytes[at] as number) : wordAt(bytes, at);

/**
 * Lays a layout over `bytes[start, limit)`. Stops after the first item that does not fit, for what follows has no known place.
 * A list without a readable count takes what is left.
 */
export function placeItems(layout: Layout, bytes: Uint8Array, start: number, limit: number): Placement {
  // Of their number from the beginning: a list that grows has room for many more.
  const placed = new Array<Placed>(layout.items.length);
  let known = 0;
  let at = start;
  let count: Placement['count'];
  let tally = 0;
  for (const item of layout.items) {
    const listEnd = count ? count.from + count.value : limit;
    const size =
      fixedSize(item) ?? (item.kind === 'objects' ? objectsSize(bytes, at, limit, tally) : Math.max(listEnd - at, 0));
    placed[known++] = { item, start: at, end: at + size };
    if (at + size > limit) break;
    if (item.kind === 'count') count = { at, from: at + size, value: numberAt(bytes, at, item.width) };
    if (item.kind === 'tally') tally = numberAt(bytes, at, item.width);
    at += size;
  }
  if (known < placed.length) placed.length = known;
  const whole = known === layout.items.length;
  const open = whole && !count && isOpen(layout.items[layout.items.length - 1]);
  const reached = placed[placed.length - 1]?.end ?? start;
  const counted = count && count.from + count.value;
  const fixed = counted === undefined ? fixedLength(layout) : undefined;
  const end = open
    ? undefined
    : whole
      ? Math.max(reached, counted ?? 0)
      : (counted ?? (fixed === undefined ? undefined : start + fixed));
  return { placed, end, count, limit };
}

/** A placement over more bytes for a body that ends at `limit`: of a whole frame it is the same one, and need not be made again. */
export function placedUpTo(
  placement: Placement,
  layout: Layout,
  bytes: Uint8Array,
  start: number,
  limit: number,
): Placement {
  const { placed, count, end } = placement;
  const isWhole = placed.length === layout.items.length && placed[placed.length - 1]?.item.kind !== 'objects';
  return isWhole && end === limit ? { placed, end, count, limit } : placeItems(layout, bytes, start, limit);
}

/** A list that takes what is there. */
const isOpen = (item: Item | undefined): boolean =>
  item !== undefined && isList(item) && item.kind !== 'objects' && fixedSize(item) === undefined;

function fixedLength(layout: Layout): number | undefined {
  let total = 0;
  for (const item of layout.items) {
    const size = fixedSize(item);
    if (size === undefined) return undefined;
    total += size;
  }
  return total;
}

/** How the length of a body is found, for the scanner's hot path. Offsets count from the body's start. */
export type LengthRule =
  | { readonly kind: 'fixed'; readonly base: number }
  | { readonly kind: 'counted'; readonly base: number; readonly countAt: number; readonly width: 1 | 2 }
  /** Objects one after the other: their number stands at `tallyAt`. */
  | { readonly kind: 'walk'; readonly base: number; readonly tallyAt: number }
  /** Only the check tells where it ends. */
  | { readonly kind: 'open'; readonly base: number; readonly step: 1 | 2 };

/** How long a body of this layout is: fixed, by a count byte, or only known by its end. */
export function lengthRule(layout: Layout): LengthRule {
  const fixed = fixedLength(layout);
  if (fixed !== undefined) return { kind: 'fixed', base: fixed };
  let at = 0;
  for (const item of layout.items) {
    if (item.kind === 'count') return { kind: 'counted', base: at + item.width, countAt: at, width: item.width };
    if (item.kind === 'objects') return { kind: 'walk', base: at, tallyAt: at - 1 };
    const size = fixedSize(item);
    if (size === undefined) return { kind: 'open', base: at, step: item.kind === 'words' ? 2 : 1 };
    at += size;
  }
  return { kind: 'open', base: at, step: 1 };
}
