'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBenchState, useDrafts } from '../../bench/bench-context';
import type { TraceSize } from '../../bench/drafts';
import { endOf, firstOf, sizeOf, type TraceRecord } from '../../core/trace/record';
import { useKeys } from '../../ui/use-keys';
import { LastRow, TraceRows, type ShownPlaces } from './trace-rows';
import { useTraceSearch, type Found } from './use-trace-search';
import styles from './trace-panel.module.css';

const NEXT: Readonly<Record<TraceSize, TraceSize>> = { last: 'rows', rows: 'tall', tall: 'last' };
const NEXT_TEXT: Readonly<Record<TraceSize, string>> = { last: 'open', rows: 'enlarge', tall: 'fold' };

const counted = (count: number): string => count.toLocaleString('en-GB');

/** The record of everything that crossed a line: folded to its last entry, a few rows, or tall. */
export function TracePanel() {
  const size = useDrafts((drafts) => drafts.traceSize);
  const setSize = useDrafts((drafts) => drafts.setTraceSize);
  const [filter, setFilter] = useState('');
  const record = useBenchState((state) => state.record);
  const found = useTraceSearch(size === 'last' ? '' : filter);
  useKeys({ t: () => setSize(NEXT[size]), T: () => setSize(NEXT[size]) });
  return (
    <section className={`${styles.panel} ${size === 'tall' ? styles.tall : ''}`} data-no-print aria-label="Trace">
      <div className={styles.head}>
        <strong>Trace</strong>
        <Kept />
        {size === 'last' ? (
          <span className={styles.last}>
            <LastRow record={record} place={endOf(record) - 1} />
          </span>
        ) : (
          <>
            <label>
              filter{' '}
              <input
                value={filter}
                onChange={(event) => setFilter(event.target.value)}
                placeholder="station 3, 10:15-10:20"
                title="Terms between commas, all of which an entry must have: station 3; faults; a time of day or a span of it; bytes; words of its outcome, cause or meaning"
                aria-label="Filter the trace"
              />
            </label>
            {found && (
              <span className={styles.soft} role="status" data-testid="trace-found">
                {counted(found.older + found.newer)} found
                {found.isOver
                  ? ''
                  : `, ${Math.floor((100 * found.looked) / Math.max(1, sizeOf(record)))} % looked through`}
              </span>
            )}
          </>
        )}
        <Button variant="text" color="inherit" onClick={() => setSize(NEXT[size])}>
          <kbd>T</kbd>&nbsp;{NEXT_TEXT[size]}
        </Button>
      </div>
      {size !== 'last' && (
        <TraceRows
          // A list of other entries begins at its newest one again.
          key={found ? filter : ''}
          record={record}
          places={found ? foundPlaces(found) : allPlaces(record)}
          empty={emptyText(record, found)}
        />
      )}
    </section>
  );
}

const allPlaces = (record: TraceRecord): ShownPlaces => {
  const first = firstOf(record);
  return { count: sizeOf(record), before: -first, placeAt: (row) => first + row };
};

const foundPlaces = ({ search, older, newer }: Found): ShownPlaces => ({
  count: older + newer,
  before: older,
  placeAt: (row) => (row < older ? search.older[older - 1 - row] : search.newer[row - older]) ?? NaN,
});

function emptyText(record: TraceRecord, found: Found | null): string {
  if (sizeOf(record) === 0) return 'Everything that crosses a line is recorded here. Open a line and send a frame.';
  return found?.isOver === false ? 'Nothing found yet; the search goes on.' : 'No entry has this in it.';
}

const READ_TEXT = {
  'not-asked': '',
  reading: ', earlier ones are being read',
  whole: '',
  cut: ', the earliest ones are in the export only',
} as const;

function Kept() {
  const count = useBenchState((state) => sizeOf(state.record));
  const read = useBenchState((state) => READ_TEXT[state.recordRead]);
  const kept = useBenchState(({ session, keptUpTo }) => `${session} ${keptUpTo}`);
  const text = useBenchState((state) => {
    const newest = state.entries[state.entries.length - 1];
    if (!newest) return '';
    const waiting = newest.session === state.session ? newest.sequence - state.keptUpTo : 0;
    return waiting > 0 ? `${waiting} not kept yet` : 'kept';
  });
  return (
    <span className={styles.soft} data-testid="trace-kept" data-kept={kept}>
      {counted(count)} entries{read}
      {text === '' ? '' : ` · ${text}`}
    </span>
  );
}
