'use client';

import { useEffect } from 'react';
import { useBenchState } from '../../bench/bench-context';

/** Asks before the page is closed while a shaft may turn: a page that closes cannot send reliably. */
export function useLeaveGuard(): void {
  const mayTurn = useBenchState(
    ({ turning, lines }) =>
      turning.length > 0 ||
      [...lines.values()].some(({ keepAlives, stopping }) => keepAlives.length + stopping.length > 0),
  );
  useEffect(() => {
    if (!mayTurn) return undefined;
    const ask = (event: BeforeUnloadEvent): void => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [mayTurn]);
}
