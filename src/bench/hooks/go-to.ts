'use client';

import { usePathname } from 'next/navigation';
import { useSyncExternalStore } from 'react';
import type { SIDE_PLACES, STAGES } from '../state/stages';

export type StagePath = (typeof STAGES | typeof SIDE_PLACES)[number]['path'];

const MOVED = 'bujo-stage';

/**
 * Shows another stage of this page. It asks no server for anything: lines, keep-alives and Stop live in this page, and must not be lost because
 * the server is gone.
 */
export function goTo(path: StagePath): void {
  if (window.location.pathname === path) return;
  window.history.pushState(null, '', path);
  // The router hears of it only once it has started; a press may come before.
  window.dispatchEvent(new Event(MOVED));
}

function subscribe(changed: () => void): () => void {
  window.addEventListener(MOVED, changed);
  window.addEventListener('popstate', changed);
  return () => {
    window.removeEventListener(MOVED, changed);
    window.removeEventListener('popstate', changed);
  };
}

/** The address of the stage that is shown. */
export function useStagePath(): string {
  const fromServer = usePathname();
  return useSyncExternalStore(
    subscribe,
    () => window.location.pathname,
    () => fromServer,
  );
}
