'use client';

import dynamic from 'next/dynamic';
import { useEffect, useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/use-current';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { trendOf, type Trend } from '../../core/trace/trend';
import { clockText } from '../../ui/format';
import { Panel } from '../../ui/panel';

/** Chart.js comes only when somebody looks at a trend. */
const TrendChart = dynamic(() => import('./trend-chart').then((part) => part.TrendChart), {
  ssr: false,
  loading: () => <p>Drawing …</p>,
});

/** The trace is read again this often while it is looked at. */
const EVERY_MS = 250;

/** Reference and actual speed over time, the status bits below, and the moments of sending; from the trace, live and afterwards. */
export function TrendPanel({ index }: { readonly index: SheetIndex }) {
  const bench = useBench();
  const { line, station, name, places } = useCurrent();
  const starts = useBenchState((state) => state.sessionStartMs);
  const present = useBenchState((state) => state.session);
  const [chosen, setChosen] = useState<string | null>(null);
  const session = chosen ?? present;
  const startMs = starts.get(session) ?? 0;
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
  const unit = index.byRole.get('actual-speed')?.unit ?? '';
  const empty = !trend || trend.actual.length + trend.reference.length === 0;
  return (
    <Panel
      title="Trend"
      aside={`${name}; wheel zooms, dragging pans`}
      tools={
        starts.size > 1 && (
          <select aria-label="Start of the page" value={session} onChange={(event) => setChosen(event.target.value)}>
            {[...starts].reverse().map(([id, atMs]) => (
              <option key={id} value={id}>
                {id === present ? 'this start' : `start of ${clockText(atMs).slice(0, 8)}`}
              </option>
            ))}
          </select>
        )
      }
    >
      {empty ? (
        <p>Nothing has been read from this drive in that time. Press Watch; it only reads.</p>
      ) : (
        <TrendChart trend={trend} unit={unit} startMs={startMs} />
      )}
    </Panel>
  );
}
