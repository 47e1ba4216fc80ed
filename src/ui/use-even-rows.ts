import { useLayoutEffect, useState, type RefObject } from 'react';
import { flushSync } from 'react-dom';

interface EvenRows {
  /** The row at the upper edge when `look` was called last. */
  readonly first: number;
  /** So many rows, or parts of them, are in sight. */
  readonly inSight: number;
  /** To be called when the list was scrolled: what came into sight is drawn at once. */
  readonly look: () => void;
}

/** The rows that are drawn of a list: those in sight from one on, and so many on either side of them; the end itself is not among them. */
export function rowsAround(count: number, first: number, inSight: number, beyond: number): readonly [number, number] {
  // It may have become shorter since it was looked at.
  const top = Math.min(first, Math.max(0, count - inSight));
  return [Math.max(0, top - beyond), Math.min(count, top + inSight + 1 + beyond)];
}

/**
 * Where a list stands whose rows are all of one height, in pixels: it costs the same however many there are. What `useLongList` rests on goes through all rows
 * when one is added, which of a trace of a million takes longer than reading it.
 */
export function useEvenRows(list: RefObject<HTMLElement | null>, rowPx: number): EvenRows {
  const [first, setFirst] = useState(0);
  const [inSight, setInSight] = useState(0);
  useLayoutEffect(() => {
    const box = list.current;
    if (!box) return;
    const measure = (): void => setInSight(Math.ceil(box.offsetHeight / rowPx));
    if (!('ResizeObserver' in window)) return measure();
    const observer = new ResizeObserver(measure);
    observer.observe(box);
    return () => observer.disconnect();
  }, [list, rowPx]);
  const look = (): void => {
    const box = list.current;
    if (box) flushSync(() => setFirst(Math.floor(box.scrollTop / rowPx)));
  };
  return { first, inSight, look };
}
