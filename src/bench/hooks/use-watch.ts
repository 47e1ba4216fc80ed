'use client';

import { useBench } from '../bench-context';
import { useCurrent } from './use-current';
import { identityReads, watchItems, watchReads } from '../procedures/watch-reads';

/** Reading the current station once, or over and over until it is ended; both start by a press and only read. */
export function useWatch(cause: string) {
  const bench = useBench();
  const { drive, index, lineState, places } = useCurrent();
  const watching = drive !== null && lineState?.polled.includes(drive.station) === true;
  return {
    watching,
    readOnce: (): void => {
      if (!drive || !index || !places) return;
      for (const bytes of [...watchReads(drive.station, index, places), ...identityReads(drive.station, index, places)])
        bench.send(drive, bytes, cause);
    },
    toggle: (): void => {
      if (drive) bench.poll(drive.line, watching || !index || !places ? [] : watchItems(drive.station, index, places));
    },
  };
}
