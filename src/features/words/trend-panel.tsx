'use client';

import dynamic from 'next/dynamic';
import { useState } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { clockText } from '../../ui/format';
import { Panel } from '../../ui/panel';
import { useTrend } from './use-trend';

/** Chart.js comes only when somebody looks at a trend. */
const TrendChart = dynamic(() => import('./trend-chart').then((part) => part.TrendChart), {
  ssr: false,
  loading: () => <p>Drawing …</p>,
});

/** Reference and actual speed over time, the status bits below, and the moments of sending; from the trace, live and afterwards. */
export function TrendPanel({ index }: { readonly index: SheetIndex }) {
  const { name } = useCurrent();
  const starts = useBenchState((state) => state.sessionStartMs);
  const present = useBenchState((state) => state.session);
  const [chosen, setChosen] = useState<string | null>(null);
  const { trend, session, startMs, drawn } = useTrend(index, chosen);
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
        <TrendChart
          trend={trend}
          unit={unit}
          currentUnit={index.byRole.get('current')?.unit ?? ''}
          startMs={startMs}
          onDrawn={drawn}
        />
      )}
    </Panel>
  );
}
