'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBenchState, useDrafts } from '../../bench/bench-context';
import { endOf, firstOf, sizeOf, type TraceRecord } from '../../core/trace/record';
import { NO_POLLS, traceTerms } from '../../core/trace/search';
import { TraceFrame } from './trace-frame';
import { countText } from '../../ui/format';
import { useLater } from '../../ui/later';
import styles from './trace-panel.module.css';
import { LastRow, TraceRows, type ShownPlaces } from './trace-rows';
import { useTraceSearch, type Found } from './use-trace-search';

/** The trace with its entries and its filter; folded, its newest entry. */
export function TraceTray() {
  const size = useDrafts((drafts) => drafts.traceSize);
  const [filter, setFilter] = useState('');
  const [isNear, setNear] = useState(false);
  // The field of a panel that was folded is gone, and nobody hears it lose the focus.
  if (isNear && size === 'last') setNear(false);
  const newest = useBenchState((state) => state.record);
  // On a busy line its rows are drawn after what else a batch brought, in a task of their own.
  const record = useLater(newest, newest);
  // A key is answered before other rows are looked for and drawn. All of them are there at once, so that who goes up in them at once stays there.
  const filterLater = useLater(filter, '');
  const sought = filter === '' ? '' : filterLater;
  const found = useTraceSearch(size === 'last' ? '' : sought, isNear);
  const hidesPolls = traceTerms(filter).some(({ kind }) => kind === 'no-polls');
  const head =
    size === 'last' ? (
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
            onFocus={() => setNear(true)}
            onBlur={() => setNear(false)}
            placeholder="station 3, 10:15-10:20"
            title="Terms between commas, all of which an entry must have: station 3; faults; a time of day or a span of it; bytes; words of its outcome, cause or meaning"
            aria-label="Filter the trace"
          />
        </label>
        <Button
          variant="text"
          color="inherit"
          aria-pressed={hidesPolls}
          onClick={() =>
            setFilter(hidesPolls ? withoutTerm(filter, NO_POLLS) : [filter, NO_POLLS].filter(Boolean).join(', '))
          }
        >
          Hide polls
        </Button>
        {found && (
          <span className={styles.soft} role="status" data-testid="trace-found">
            {countText(found.older + found.newer)} found
            {found.isOver ? '' : `, ${Math.floor((100 * found.looked) / Math.max(1, sizeOf(record)))} % looked through`}
          </span>
        )}
      </>
    );
  return (
    <TraceFrame head={head}>
      <TraceRows
        of={found ? sought : ''}
        record={record}
        places={found ? foundPlaces(found) : allPlaces(record)}
        empty={found?.isOver === false ? 'Nothing found yet; the search goes on.' : 'No entry has this in it.'}
      />
    </TraceFrame>
  );
}

const withoutTerm = (filter: string, term: string): string =>
  filter
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one !== '' && one.toLowerCase() !== term)
    .join(', ');

const allPlaces = (record: TraceRecord): ShownPlaces => {
  const first = firstOf(record);
  return { count: sizeOf(record), before: -first, placeAt: (row) => first + row };
};

const foundPlaces = ({ search, older, newer }: Found): ShownPlaces => ({
  count: older + newer,
  before: older,
  placeAt: (row) => (row < older ? search.older[older - 1 - row] : search.newer[row - older]) ?? NaN,
});
