'use client';

import { useEffect } from 'react';
import { useBench } from '../../bench/bench-context';

/** A field of one row takes no more than this; laying out a longer text alone would hold the page up. */
const LONGEST = 2000;

/** A text that is pasted into a field of one row by mistake, a whole log say, never gets there; that is said. */
export function usePasteGuard(): void {
  const bench = useBench();
  useEffect(() => {
    const look = (event: ClipboardEvent): void => {
      const text = event.clipboardData?.getData('text') ?? '';
      if (!(event.target instanceof HTMLInputElement) || text.length <= LONGEST) return;
      event.preventDefault();
      event.stopPropagation();
      bench.state.setState({
        refused: `${text.length} characters were not pasted: a field of one row takes ${LONGEST} at most.`,
      });
    };
    document.addEventListener('paste', look, { capture: true });
    return () => document.removeEventListener('paste', look, { capture: true });
  }, [bench]);
}
