'use client';

import { useEffect, useState } from 'react';
import { useBenchState } from '../bench/bench-context';
import { keepVersions } from '../offline/versions';
import { ActButton } from '../ui/act-button';
import styles from './bench-frame.module.css';

/** The program is kept so long after the first view is there: it is as large as everything that a page loads. */
const KEEP_MS = 6_000;

/** Keeps the program in the browser, and offers a newer version of it when there is one. */
export function UpdateNotice() {
  const [take, setTake] = useState<(() => void) | null>(null);
  const isReady = useBenchState(({ phase }) => phase.kind === 'ready');
  const isOpen = useBenchState(({ lines }) => [...lines.values()].some(({ open }) => open));
  useEffect(() => {
    if (!isReady || process.env.NODE_ENV !== 'production' || !('serviceWorker' in navigator)) return;
    const timer = setTimeout(() => {
      // A browser that keeps nothing goes on without.
      keepVersions(
        navigator.serviceWorker,
        (next) => setTake(() => next),
        () => location.reload(),
      ).catch(() => undefined);
    }, KEEP_MS);
    return () => clearTimeout(timer);
  }, [isReady]);
  if (!take) return null;
  return (
    <div className={styles.update} role="status">
      <span>A newer version of Bujo is here. What you have goes on with this one until you take it.</span>
      <ActButton variant="outlined" color="inherit" off={isOpen ? 'a line is open: close it first' : ''} onClick={take}>
        Take it and reload
      </ActButton>
    </div>
  );
}
