import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, type RefObject } from 'react';
import { TOLD_SIZES } from './told-sizes';

/** Shorter lists are drawn whole: a browser's own search and print see all of them. */
const SHORT = 60;
/** Rows drawn on either side of those in sight. */
const BEYOND = 6;

interface LongList<Box extends HTMLElement> {
  readonly scroller: RefObject<Box | null>;
  /** Places of the rows that are drawn. */
  readonly shown: readonly number[];
  /** Room for the rows before and after them, in pixels. */
  readonly before: number;
  readonly after: number;
  /** For each row that is drawn, with its place as `data-index`. */
  readonly measure: (row: HTMLElement | null) => void;
  readonly isLong: boolean;
}

/** A list of rows of any height, of which only those in sight, and so many beyond them, are drawn where it is long. */
export function useLongList<Box extends HTMLElement>(count: number, rowPx: number, beyond = BEYOND): LongList<Box> {
  const scroller = useRef<Box>(null);
  const isLong = count > SHORT;
  // eslint-disable-next-line react-hooks/incompatible-library -- the list is virtual: it must measure as it scrolls
  const virtual = useVirtualizer<HTMLElement, HTMLElement>({
    ...TOLD_SIZES,
    count: isLong ? count : 0,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowPx,
    overscan: beyond,
  });
  const items = virtual.getVirtualItems();
  return {
    scroller,
    isLong,
    shown: isLong ? items.map(({ index }) => index) : Array.from({ length: count }, (_, i) => i),
    before: items[0]?.start ?? 0,
    after: isLong ? virtual.getTotalSize() - (items[items.length - 1]?.end ?? 0) : 0,
    measure: virtual.measureElement,
  };
}
