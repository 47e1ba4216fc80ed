import type { Item, Layout } from './layout';

/** Where an item stands; `end` may lie beyond the bytes that are there, which is a truncation. */
export interface Placed {
  readonly item: Item;
  readonly start: number;
  readonly end: number;
}

const SCALAR_SIZE = { u8: 1, count: 1, u16: 2 } as const;

/**
 * Lays a layout over `bytes[start, limit)`. Stops after the first item that does not fit, for what follows has no known place.
 * A list without a readable count takes what is left.
 */
export function placeItems(layout: Layout, bytes: Uint8Array, start: number, limit: number): readonly Placed[] {
  const placed: Placed[] = [];
  let at = start;
  let counted = limit - start;
  for (const item of layout.items) {
    const size = item.kind === 'words' ? (item.fixed === undefined ? counted : 2 * item.fixed) : SCALAR_SIZE[item.kind];
    placed.push({ item, start: at, end: at + size });
    if (at + size > limit) break;
    if (item.kind === 'count') counted = bytes[at] ?? 0;
    at += size;
  }
  return placed;
}

/** Length of the body after the function code, or undefined while the byte count has not arrived. */
export function bodyLength(layout: Layout, bytes: Uint8Array, start: number, limit: number): number | undefined {
  const placed = placeItems(layout, bytes, start, limit);
  const last = placed[placed.length - 1];
  if (!last || placed.length < layout.items.length) return fixedLength(layout);
  return last.end - start;
}

function fixedLength(layout: Layout): number | undefined {
  let total = 0;
  for (const item of layout.items) {
    if (item.kind === 'count') return undefined;
    total += item.kind === 'words' ? 2 * (item.fixed ?? 0) : SCALAR_SIZE[item.kind];
  }
  return total;
}

/**
 * For the scanner's hot path: the body's length where it is fixed, else where the byte count stands (`countAt`, from the body's start).
 */
export function lengthRule(layout: Layout): { readonly base: number; readonly countAt: number } {
  const fixed = fixedLength(layout);
  if (fixed !== undefined) return { base: fixed, countAt: -1 };
  let at = 0;
  for (const item of layout.items) {
    if (item.kind === 'count') return { base: at + 1, countAt: at };
    at += item.kind === 'words' ? 2 * (item.fixed ?? 0) : SCALAR_SIZE[item.kind];
  }
  return { base: at, countAt: -1 };
}
