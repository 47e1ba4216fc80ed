'use client';

import { useEffect, useRef, useState } from 'react';
import { protocolOfCapture } from '../../core/protocol/of-capture';
import { useBenchState } from '../../bench/bench-context';
import type { CaptureRow } from '../../messages/frames';
import { ActButton } from '../../ui/act-button';
import { ByteStrip } from '../../ui/byte-strip';
import { Panel } from '../../ui/panel';
import { rowsAround, useEvenRows } from '../../ui/use-even-rows';
import styles from './frames.module.css';
import type { CaptureActions, CaptureState } from './capture-store';

/** Rows drawn on either side of those in sight. */
const BEYOND = 8;
const ROW_HEIGHT = 24;
/** Rows are asked for in pages, so that a scroll step asks once at most. */
const PAGE = 40;
/** A browser lays nothing out beyond some 33 million pixels: a longer list is shown in parts of so many entries. */
const LISTED = 1_000_000;
/** Pages that stay in the page's memory. */
const MOST_PAGES = 12;

const ARROWS = { request: '▸', response: '◂', junk: '✗' } as const;
const SAID = { request: 'request', response: 'response', junk: 'no frame' } as const;

interface ListProps {
  readonly capture: CaptureState & CaptureActions;
  readonly count: number;
}

/** The capture as a list, a long one in parts. */
export function CaptureList({ capture, count }: ListProps) {
  const [part, setPart] = useState(0);
  const before = part * LISTED;
  const listed = Math.min(LISTED, count - before);
  return (
    <>
      {count > LISTED && (
        <div className={styles.parts}>
          <span role="status">
            listed: {before + 1} to {before + listed} of {count}
          </span>
          <ActButton
            variant="text"
            color="inherit"
            off={part === 0 ? 'these are the first' : ''}
            onClick={() => setPart(part - 1)}
          >
            Those before
          </ActButton>
          <ActButton
            variant="text"
            color="inherit"
            off={before + listed === count ? 'these are the last' : ''}
            onClick={() => setPart(part + 1)}
          >
            Those after
          </ActButton>
        </div>
      )}
      <ListedPart key={part} capture={capture} before={before} count={listed} />
    </>
  );
}

/** Entries behind the first `before`: only the rows that are seen are in the page, however many there are. */
function ListedPart({ capture, before, count }: ListProps & { readonly before: number }) {
  const scroller = useRef<HTMLDivElement>(null);
  const [pages, setPages] = useState<ReadonlyMap<number, readonly CaptureRow[]>>(new Map());
  const asked = useRef(new Set<number>());
  const [chosen, setChosen] = useState<CaptureRow | null>(null);
  const { first: top, inSight, look } = useEvenRows(scroller, ROW_HEIGHT);
  const [from, to] = rowsAround(count, top, inSight, BEYOND);
  const first = Math.floor(from / PAGE);
  const last = Math.floor(Math.max(from, to - 1) / PAGE);
  const { rows } = capture;

  useEffect(() => {
    if (count === 0) return;
    for (let page = first; page <= last; page++) {
      // A page that was not full may have grown while the search went on.
      const full = Math.min(PAGE, count - page * PAGE);
      if (asked.current.has(page) || (pages.get(page)?.length ?? 0) >= full) continue;
      asked.current.add(page);
      void rows(before + page * PAGE, PAGE).then((found) => {
        asked.current.delete(page);
        setPages((known) => new Map([...known, [page, found] as const].slice(-MOST_PAGES)));
      });
    }
  }, [before, count, first, last, pages, rows]);

  return (
    <>
      <div
        ref={scroller}
        className={`${styles.list} ${chosen ? styles.short : ''}`}
        role="list"
        aria-label="Frames of the capture"
        tabIndex={0}
        onScroll={look}
      >
        <div style={{ height: count * ROW_HEIGHT, position: 'relative' }}>
          {Array.from({ length: to - from }, (_, i) => {
            const index = from + i;
            const row = pages.get(Math.floor(index / PAGE))?.[index % PAGE];
            return (
              <div
                key={index}
                role="listitem"
                className={styles.captured}
                style={{ top: index * ROW_HEIGHT }}
                data-kind={row?.fault ? 'fault' : row?.exception || row?.unanswered ? 'odd' : ''}
              >
                {row ? (
                  <RowButton row={row} isChosen={chosen?.place === row.place} onChoose={() => setChosen(row)} />
                ) : (
                  '…'
                )}
              </div>
            );
          })}
        </div>
      </div>
      {chosen && <RowDetail row={chosen} capture={capture} />}
    </>
  );
}

function RowButton({
  row,
  isChosen,
  onChoose,
}: {
  readonly row: CaptureRow;
  readonly isChosen: boolean;
  readonly onChoose: () => void;
}) {
  return (
    <button type="button" aria-pressed={isChosen} onClick={onChoose}>
      <span className={styles.number}>{row.place + 1}</span>
      <span className={styles.number}>{Number.isNaN(row.timeUs) ? '' : (row.timeUs / 1e6).toFixed(4)}</span>
      <span aria-label={SAID[row.direction]}>{ARROWS[row.direction]}</span>
      <span className={styles.number}>{row.direction === 'junk' ? '' : row.unit}</span>
      <span className={styles.words}>
        {row.text}
        {row.unanswered && ' · no answer'}
        {!Number.isNaN(row.delayUs) && ` · after ${(row.delayUs / 1000).toFixed(1)} ms`}
      </span>
      <code>{row.hex}</code>
    </button>
  );
}

/** The frame that is looked at, byte by byte. */
function RowDetail({ row, capture }: { readonly row: CaptureRow; readonly capture: CaptureState }) {
  const sheets = useBenchState((state) => state.sheets);
  const { protocol, sheet } = capture.setup;
  const speaks = protocolOfCapture(protocol, sheets.get(sheet)?.sheet.dialect, row.tcp);
  const direction = row.direction === 'response' ? 'response' : 'request';
  const { faults } = speaks.read(row.bytes, direction, row.request);
  return (
    <Panel title={`${ARROWS[row.direction]} Entry ${row.place + 1}`} aside={row.text}>
      <ByteStrip
        label={`Entry ${row.place + 1}`}
        bytes={[...row.bytes]}
        fields={speaks.anatomy(row.bytes, direction, row.request)}
        faults={faults}
        direction={direction === 'request' ? 'sent' : 'received'}
        small
      />
    </Panel>
  );
}
