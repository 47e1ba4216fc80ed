'use client';

import { useCallback, useEffect, useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { protocolThen } from '../../bench/hooks/line-protocol';
import { useCurrent } from '../../bench/hooks/use-current';
import { indexOf, indexThen } from '../../bench/state/bench-state';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { TraceEntry } from '../../core/trace/entry';
import { entriesOf, rangeOf, type TraceRecord } from '../../core/trace/record';
import { TrendReader, type Trend } from '../../core/trace/trend';
import { Pace } from '../../ui/pace';

/** The trace is read on this often while it is looked at. */
const EVERY_MS = 250;
/** Reading takes this much of the page's thread at once, in stretches of so many entries; the next turn comes soon where more is left. */
const SLICE_MS = 8;
const STRETCH = 200;
const SOON_MS = 16;

/**
 * What the trace tells of the current drive over time; `chosen` is another start of the page than this one. `drawn` is to be called when the newest trend is
 * in the picture: the next one waits as long as that takes.
 */
export function useTrend(
  index: SheetIndex,
  chosen: string | null = null,
): { readonly trend: Trend | null; readonly session: string; readonly startMs: number; readonly drawn: () => void } {
  const bench = useBench();
  const { line, station, places } = useCurrent();
  const present = useBenchState((state) => state.session);
  const starts = useBenchState((state) => state.sessionStartMs);
  const session = chosen ?? present;
  // The worker tells a moment after a change which entries came before it: they are read again then.
  const sessionLines = useBenchState((state) => state.sessionLines);
  const [trend, setTrend] = useState<Trend | null>(null);
  const [pace] = useState(() => new Pace());
  const drawn = useCallback(() => pace.end(performance.now()), [pace]);
  useEffect(() => {
    if (!line || !station || !places) return;
    let reader = new TrendReader(index, places);
    let [begun, next] = [NaN, NaN];
    let readBy: SheetIndex | null = null;
    /** Each entry is read by the sheet of its time; by what is looked at where that is the present one. */
    const take = (entry: TraceEntry): void => {
      const state = bench.state.getState();
      const then = indexThen(state, entry);
      if (then !== readBy) {
        const own = then === null || then === indexOf(state, line.id, station.station) ? index : then;
        const ownPlaces = own === index ? places : protocolThen(state, entry)?.placesOf(own);
        reader.readBy(own, ownPlaces ?? places);
        readBy = then;
      }
      reader.take(entry);
    };
    let timer: ReturnType<typeof setTimeout>;
    /** Takes what is new; whether some is left for the next turn. */
    const readOn = (record: TraceRecord, from: number, until: number): boolean => {
      // Older blocks of the session may come in after the newer ones: the whole is read again then. Those that the page let go stay read.
      if (!(from >= begun)) {
        reader = new TrendReader(index, places);
        readBy = null;
        begun = next = from;
      }
      const beganMs = performance.now();
      for (; next < until; next = Math.min(until, next + STRETCH)) {
        if (performance.now() - beganMs > SLICE_MS) return true;
        for (const entry of entriesOf(record, next, Math.min(until, next + STRETCH), line.id, station.station))
          take(entry);
      }
      return false;
    };
    const turn = (): void => {
      const restMs = pace.restMs(performance.now());
      if (restMs > 0) {
        timer = setTimeout(turn, restMs);
        return;
      }
      const { record } = bench.state.getState();
      const { from, until } = rangeOf(record, session);
      const isNews = !(from >= begun) || next < until;
      const isMore = readOn(record, from, until);
      if (isNews && !isMore) {
        pace.begin(performance.now());
        setTrend(reader.trend());
      }
      timer = setTimeout(turn, isMore ? SOON_MS : EVERY_MS);
    };
    turn();
    return () => {
      clearTimeout(timer);
      pace.forget();
      setTrend(null);
    };
  }, [bench, places, index, line, station, session, sessionLines, pace]);
  return { trend, session, startMs: starts.get(session) ?? 0, drawn };
}
