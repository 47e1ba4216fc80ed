'use client';

import { useBench } from './bench-context';
import { useCurrent } from './use-current';
import { identityReads, watchReads } from './watch-reads';

/** How often the watch reads each block, in microseconds. */
const EVERY_US = 200_000;

/** Reading the current station once, or over and over until it is ended; both start by a press and only read. */
export function useWatch(cause: string) {
  const bench = useBench();
  const { station, drive, index, lineState, places } = useCurrent();
  const reads = station && index && places ? watchReads(station.station, index, places) : [];
  const watching = station !== null && lineState?.polled.includes(station.station) === true;
  return {
    watching,
    readOnce: (): void => {
      if (!station || !drive || !index || !places) return;
      for (const bytes of [...reads, ...identityReads(station.station, index, places)]) bench.send(drive, bytes, cause);
    },
    toggle: (): void => {
      if (drive)
        bench.poll(
          drive.line,
          watching ? [] : reads.map((bytes) => ({ station: drive.station, bytes, everyUs: EVERY_US })),
        );
    },
  };
}
