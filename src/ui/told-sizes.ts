import {
  elementScroll,
  measureElement,
  observeElementOffset,
  observeElementRect,
  type VirtualizerOptions,
} from '@tanstack/react-virtual';

/** A list is taken to be so high until the browser says how high it is. */
const FIRST_PX = 480;

/**
 * How a list that draws a part of its rows learns sizes: the browser tells them once it has laid the page out. Asked for before, the page would be laid out
 * for that alone, within the task that made the rows; and rows that come only after it would be drawn in one task more.
 */
export const TOLD_SIZES: Pick<
  VirtualizerOptions<HTMLElement, HTMLElement>,
  'initialRect' | 'observeElementRect' | 'observeElementOffset' | 'measureElement' | 'scrollToFn'
> = {
  initialRect: { width: 0, height: FIRST_PX },
  observeElementRect: (list, put) => {
    const { scrollElement, targetWindow } = list;
    if (!scrollElement || !targetWindow || !('ResizeObserver' in targetWindow)) return observeElementRect(list, put);
    const observer = new targetWindow.ResizeObserver(([entry]) => {
      const size = entry?.borderBoxSize[0];
      if (size) put({ width: Math.round(size.inlineSize), height: Math.round(size.blockSize) });
    });
    observer.observe(scrollElement, { box: 'border-box' });
    return () => observer.disconnect();
  },
  observeElementOffset: (list, put) => {
    let end: (() => void) | void;
    const frame = requestAnimationFrame(() => {
      end = observeElementOffset(list, put);
    });
    return () => {
      cancelAnimationFrame(frame);
      end?.();
    };
  },
  // One that was never scrolled stands at its top already.
  scrollToFn: (offset, options, list) => {
    if (offset !== 0 || list.scrollOffset !== null) elementScroll(offset, options, list);
  },
  measureElement: (row, entry, list) => {
    const known = list.measurementsCache[list.indexFromElement(row)];
    return entry || !known ? measureElement(row, entry, list) : known.size;
  },
};
