'use client';

import { memo, useLayoutEffect, useRef, useState } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { indexThen, stationKey } from '../../bench/state/bench-state';
import { protocolThen } from '../../bench/hooks/line-protocol';
import { bytesToHex } from '../../core/bytes/hex';
import type { TraceEntry } from '../../core/trace/entry';
import { entryOf, requestOf, type TraceRecord } from '../../core/trace/record';
import { isFaulty, textOf } from '../../core/trace/text';
import { clockText, momentText } from '../../ui/format';
import { rowsAround, useEvenRows } from '../../ui/use-even-rows';
import styles from './trace-panel.module.css';

const ROW_PX = 22;
/** Rows are made in such steps. */
const SLOT_STEP = 8;
const END_STEP = 4;
/** Rows drawn on either side of those in sight; of a list that follows its end all of them change with each batch. */
const BEYOND = 6;
const BEYOND_END = 3;

/** Which entries a list shows, oldest first. */
export interface ShownPlaces {
  readonly count: number;
  /** How many of them come before a fixed entry: rows that are put before what is looked at move nothing. */
  readonly before: number;
  readonly placeAt: (row: number) => number;
}

/** The rows at the end of a list, known without asking the page where it is scrolled to; their number stays the same, so that each is reused. */
const lastRows = (count: number, inSight: number): readonly [from: number, to: number] => [
  Math.max(0, count - END_STEP * Math.ceil((inSight + 1 + BEYOND_END) / END_STEP)),
  count,
];

/** The entries as a list that follows the newest one until it is scrolled; only the rows that are seen are in the page. */
export function TraceRows({
  of,
  record,
  places: { count, before, placeAt },
  empty,
}: {
  /** What the entries were chosen by: a list of other ones begins at its newest again, in the same rows. */
  readonly of: string;
  readonly record: TraceRecord;
  readonly places: ShownPlaces;
  readonly empty: string;
}) {
  const list = useRef<HTMLDivElement>(null);
  const [chosenBy, setChosenBy] = useState(of);
  const [follows, setFollows] = useState(true);
  if (chosenBy !== of) {
    setChosenBy(of);
    setFollows(true);
  }
  const { first, inSight, look } = useEvenRows(list, ROW_PX);
  const knownBefore = useRef(before);
  const followedTo = useRef(0);
  useLayoutEffect(() => {
    followedTo.current = 0;
  }, [of]);
  useLayoutEffect(() => {
    const added = before - knownBefore.current;
    knownBefore.current = before;
    const box = list.current;
    if (!box) return;
    if (!follows) {
      if (added !== 0) box.scrollTop += added * ROW_PX;
      return;
    }
    const toEnd = (): void => {
      // Somebody goes up in this very frame.
      if (box.scrollTop < followedTo.current) return;
      box.scrollTop = count * ROW_PX;
      followedTo.current = box.scrollTop;
    };
    if (followedTo.current === 0) return toEnd();
    // To scroll lays the page out; in the frame that is done once, and not in the middle of a batch.
    const frame = requestAnimationFrame(toEnd);
    return () => cancelAnimationFrame(frame);
  }, [of, count, before, follows]);
  const scrolled = (): void => {
    const box = list.current;
    if (!box) return;
    const isAtEnd = box.scrollHeight - box.scrollTop - box.clientHeight < 2 * ROW_PX;
    // What came since the last frame lies below the end that was scrolled to: only who goes up leaves it.
    const goesOn = isAtEnd || (follows && box.scrollTop >= followedTo.current);
    setFollows(goesOn);
    if (isAtEnd) followedTo.current = box.scrollTop;
    if (!goesOn) look();
  };
  const [from, to] = follows ? lastRows(count, inSight) : rowsAround(count, first, inSight, BEYOND);
  const slots = follows ? to - from : SLOT_STEP * Math.ceil((to - from) / SLOT_STEP);
  return (
    <div
      ref={list}
      className={styles.list}
      onScroll={scrolled}
      tabIndex={0}
      role="region"
      aria-label="Entries of the trace"
    >
      {count === 0 ? (
        <div className={styles.empty}>{empty}</div>
      ) : (
        <ol className={styles.rows} style={{ height: count * ROW_PX }}>
          {Array.from({ length: to - from }, (_, i) => {
            const index = from + i;
            const place = placeAt(index);
            const entry = entryOf(record, place);
            return entry ? (
              <Row
                // Rows are reused as the list moves on, however far: making new ones with each batch costs the page's thread far more.
                key={index % slots}
                entry={entry}
                request={requestOf(record, place)}
                previous={index > 0 ? entryOf(record, placeAt(index - 1)) : null}
                top={index * ROW_PX}
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

const useText = (entry: TraceEntry | null, request: TraceEntry | null): string => {
  const index = useBenchState((state) => (entry ? indexThen(state, entry) : null));
  const protocol = useBenchState((state) => (entry ? protocolThen(state, entry) : null));
  return entry ? textOf(entry, request, index, protocol) : '';
};

/** A reply shows how long after its request it came; everything else the time of day. */
const timeText = (entry: TraceEntry, previous: TraceEntry | null, startMs: number): string =>
  previous?.session === entry.session &&
  previous.exchange === entry.exchange &&
  entry.direction === 'received' &&
  previous.direction === 'sent'
    ? `+ ${((entry.atUs - previous.atUs) / 1000).toFixed(1)} ms`
    : clockText(startMs + entry.atUs / 1000);

interface RowProps {
  readonly entry: TraceEntry;
  readonly request: TraceEntry | null;
  readonly previous: TraceEntry | null;
  readonly top: number;
}

/** One entry. The newest ones are the same objects from batch to batch, so their rows are not drawn again. */
const Row = memo(function Row({ entry, request, previous, top }: RowProps) {
  const startMs = useBenchState((state) => state.sessionStartMs.get(entry.session) ?? 0);
  const text = useText(entry, request);
  const hex = bytesToHex(entry.bytes, ' ').toUpperCase();
  return (
    <li
      className={`${styles.row} ${isFaulty(entry) ? styles.fault : ''}`}
      style={{ top }}
      data-outcome={entry.outcome}
      data-station={stationKey(entry.line, entry.station)}
    >
      <span className={`${styles.mono} ${styles.time}`} title={momentText(startMs + entry.atUs / 1000)}>
        {timeText(entry, previous, startMs)}
      </span>
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
});

/** The newest entry, for the folded panel. */
export function LastRow({ record, place }: { readonly record: TraceRecord; readonly place: number }) {
  const entry = entryOf(record, place);
  const text = useText(entry, requestOf(record, place));
  return entry ? (
    <>
      {MARK[entry.direction]} <span className={styles.mono}>{bytesToHex(entry.bytes, ' ').toUpperCase()}</span> {text}
    </>
  ) : (
    'nothing yet'
  );
}
