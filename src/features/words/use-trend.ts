'use client';

import { useEffect, useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/use-current';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { trendOf, type Trend } from '../../core/trace/trend';

/** The trace is read again this often while it is looked at. */
const EVERY_MS = 250;

/** What the trace tells of the current drive over time; `chosen` is another start of the page than this one. */
export function useTrend(
  index: SheetIndex,
  chosen: string | null = null,
): { readonly trend: Trend | null; readonly session: string; readonly startMs: number } {
  const bench = useBench();
  const { line, station, places } = useCurrent();
  const present = useBenchState((state) => state.session);
  const starts = useBenchState((state) => state.sessionStartMs);
  const session = chosen ?? present;
  const [trend, setTrend] = useState<Trend | null>(null);
  useEffect(() => {
    const read = (): void => {
      const { entries } = bench.state.getState();
      if (line && station && places) setTrend(trendOf(entries, session, line.id, station.station, index, places));
    };
    read();
    const timer = setInterval(read, EVERY_MS);
    return () => clearInterval(timer);
  }, [bench, places, index, line, station, session]);
  return { trend, session, startMs: starts.get(session) ?? 0 };
}
