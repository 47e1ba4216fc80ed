'use client';

import Button from '@mui/material/Button';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { useBenchState, useDrafts } from '../../bench/bench-context';
import type { TraceSize } from '../../bench/drafts';
import { indexOf, protocolOn, stationKey, type BenchState } from '../../bench/bench-state';
import { bytesToHex } from '../../core/bytes/hex';
import type { TraceEntry } from '../../core/trace/entry';
import { clockText } from '../../ui/format';
import { useKeys } from '../../ui/use-keys';
import { isFaulty, textOf } from '../../core/trace/text';
import styles from './trace-panel.module.css';

const ROW_PX = 22;
const NEXT: Readonly<Record<TraceSize, TraceSize>> = { last: 'rows', rows: 'tall', tall: 'last' };
const NEXT_TEXT: Readonly<Record<TraceSize, string>> = { last: 'open', rows: 'enlarge', tall: 'fold' };

/** The record of everything that crossed a line: folded to its last entry, a few rows, or tall. */
export function TracePanel() {
  const size = useDrafts((drafts) => drafts.traceSize);
  const setSize = useDrafts((drafts) => drafts.setTraceSize);
  const [filter, setFilter] = useState('');
  const entries = useBenchState((state) => state.entries);
  const rows = useFiltered(entries, useDeferredValue(filter));
  const requests = useMemo(
    () => new Map(entries.filter(({ direction }) => direction === 'sent').map((entry) => [keyOf(entry), entry])),
    [entries],
  );
  const last = rows[rows.length - 1];
  useKeys({ t: () => setSize(NEXT[size]), T: () => setSize(NEXT[size]) });
  return (
    <section className={`${styles.panel} ${size === 'tall' ? styles.tall : ''}`} data-no-print aria-label="Trace">
      <div className={styles.head}>
        <strong>Trace</strong>
        <Kept count={entries.length} />
        {size === 'last' ? (
          <span className={styles.last}>
            {last ? <LastRow entry={last} request={requests.get(keyOf(last)) ?? null} /> : 'nothing yet'}
          </span>
        ) : (
          <label>
            filter{' '}
            <input
              value={filter}
              onChange={(event) => setFilter(event.target.value)}
              placeholder="station 3, 02 43, late"
              aria-label="Filter the trace"
            />
          </label>
        )}
        <Button variant="text" color="inherit" onClick={() => setSize(NEXT[size])}>
          <kbd>T</kbd>&nbsp;{NEXT_TEXT[size]}
        </Button>
      </div>
      {size !== 'last' && <Rows rows={rows} requests={requests} empty={entries.length === 0} />}
    </section>
  );
}

const keyOf = ({ session, exchange }: TraceEntry): string => `${session} ${exchange}`;

function Kept({ count }: { readonly count: number }) {
  const kept = useBenchState(({ session, keptUpTo }) => `${session} ${keptUpTo}`);
  const text = useBenchState((state) => {
    const newest = state.entries[state.entries.length - 1];
    if (!newest) return '';
    const waiting = newest.session === state.session ? newest.sequence - state.keptUpTo : 0;
    return waiting > 0 ? `${waiting} not kept yet` : 'kept';
  });
  return (
    <span className={styles.soft} data-testid="trace-kept" data-kept={kept}>
      {count} entries{text === '' ? '' : ` · ${text}`}
    </span>
  );
}

/** Plain words over bytes, cause, outcome and station: all of them must be found. */
function useFiltered(entries: readonly TraceEntry[], filter: string): readonly TraceEntry[] {
  return useMemo(() => {
    const wanted = filter.trim().toLowerCase();
    if (wanted === '') return entries;
    const station = /^station (\d+)$/.exec(wanted)?.[1];
    if (station !== undefined) return entries.filter((entry) => entry.station === parseInt(station, 10));
    return entries.filter((entry) =>
      `${bytesToHex(entry.bytes, ' ')} ${entry.cause} ${entry.outcome} ${entry.direction}`
        .toLowerCase()
        .includes(wanted),
    );
  }, [entries, filter]);
}

/** More than there are rows on the screen at any size. */
const ROW_SLOTS = 128;

interface RowsProps {
  readonly rows: readonly TraceEntry[];
  readonly requests: ReadonlyMap<string, TraceEntry>;
  readonly empty: boolean;
}

function Rows({ rows, requests, empty }: RowsProps) {
  const list = useRef<HTMLDivElement>(null);
  const follow = useRef(true);
  // The compiler cannot memoise the functions of this hook; nothing here relies on that.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => list.current,
    estimateSize: () => ROW_PX,
    overscan: 6,
  });
  useEffect(() => {
    if (follow.current && rows.length > 0) virtual.scrollToIndex(rows.length - 1, { align: 'end' });
  }, [rows.length, virtual]);
  const scrolled = (): void => {
    const box = list.current;
    if (box) follow.current = box.scrollHeight - box.scrollTop - box.clientHeight < 2 * ROW_PX;
  };
  return (
    <div
      ref={list}
      className={styles.list}
      onScroll={scrolled}
      tabIndex={0}
      role="region"
      aria-label="Entries of the trace"
    >
      {rows.length === 0 ? (
        <div className={styles.empty}>
          {empty
            ? 'Everything that crosses a line is recorded here. Open a line and send a frame.'
            : 'No entry has this in it.'}
        </div>
      ) : (
        <ol className={styles.rows} style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start }) => {
            const entry = rows[index];
            return entry ? (
              <Row
                // Rows are reused as the list moves on: making new ones with each batch costs the page's thread far more.
                key={index % ROW_SLOTS}
                entry={entry}
                request={requests.get(keyOf(entry)) ?? null}
                previous={rows[index - 1] ?? null}
                top={start}
              />
            ) : null;
          })}
        </ol>
      )}
    </div>
  );
}

const MARK = { sent: '▸', received: '◂', event: '·' } as const;
const MARK_TEXT = { sent: 'sent', received: 'received', event: 'event' } as const;

const useText = (entry: TraceEntry, request: TraceEntry | null): string => {
  const index = useBenchState((state) => indexOf(state, entry.line, entry.station));
  const protocol = useBenchState((state) => protocolOn(state, entry.line));
  return useMemo(() => textOf(entry, request, index, protocol), [entry, request, index, protocol]);
};

const startOf = (state: BenchState, session: string): number => state.sessionStartMs.get(session) ?? 0;

/** A reply shows how long after its request it came; everything else the time of day. */
const timeText = (entry: TraceEntry, previous: TraceEntry | null, startMs: number): string =>
  previous && entry.direction === 'received' && previous.direction === 'sent' && keyOf(previous) === keyOf(entry)
    ? `+ ${((entry.atUs - previous.atUs) / 1000).toFixed(1)} ms`
    : clockText(startMs + entry.atUs / 1000);

function Row({
  entry,
  request,
  previous,
  top,
}: {
  readonly entry: TraceEntry;
  readonly request: TraceEntry | null;
  readonly previous: TraceEntry | null;
  readonly top: number;
}) {
  const startMs = useBenchState((state) => startOf(state, entry.session));
  const text = useText(entry, request);
  const hex = bytesToHex(entry.bytes, ' ').toUpperCase();
  return (
    <li
      className={`${styles.row} ${isFaulty(entry) ? styles.fault : ''}`}
      style={{ transform: `translateY(${top}px)` }}
      data-outcome={entry.outcome}
      data-station={stationKey(entry.line, entry.station)}
    >
      <span className={`${styles.mono} ${styles.time}`}>{timeText(entry, previous, startMs)}</span>
      <span
        className={entry.direction === 'event' ? '' : styles[entry.direction]}
        role="img"
        aria-label={MARK_TEXT[entry.direction]}
      >
        {MARK[entry.direction]}
      </span>
      <span className={styles.mono} title={hex}>
        {hex}
      </span>
      <span title={text}>{text}</span>
      <span className={styles.cause}>
        {entry.direction === 'event' && entry.outcome !== 'timeout' ? '' : entry.cause}
      </span>
    </li>
  );
}

function LastRow({ entry, request }: { readonly entry: TraceEntry; readonly request: TraceEntry | null }) {
  const text = useText(entry, request);
  return (
    <>
      {MARK[entry.direction]} <span className={styles.mono}>{bytesToHex(entry.bytes, ' ').toUpperCase()}</span> {text}
    </>
  );
}
