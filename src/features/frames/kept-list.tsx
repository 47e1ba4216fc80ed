'use client';

import Button from '@mui/material/Button';
import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState } from 'react';
import { useBench } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { keptBytes } from '../../core/job/frames-file';
import { PROTOCOL_TEXT, type KeptFrame } from '../../core/job/job';
import { ActButton } from '../../ui/act-button';
import { SortableList, useSortableRow } from '../../ui/sortable';
import { useTypedOver } from '../../ui/use-typed-over';
import { TOLD_SIZES } from '../../ui/told-sizes';
import styles from './frames.module.css';

/** Height of a row on a wide screen; on a narrow one rows are measured. */
const ROW_PX = 42;
const OVERSCAN = 8;
const LONGEST_TEXT = 400;

interface KeptListProps {
  readonly frames: readonly KeptFrame[];
  readonly onMove: (from: number, to: number) => void;
  readonly onChange: (id: string, change: Partial<KeptFrame>) => void;
  readonly onRemove: (frame: KeptFrame) => void;
}

/** Kept frames in the user's order, moved by pointer or keys. Only the rows that can be seen are in the page, and the one that is moved. */
export function KeptList({ frames, onMove, onChange, onRemove }: KeptListProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const [moving, setMoving] = useState(-1);
  // The compiler cannot memoise the functions of this hook; nothing here relies on that.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer<HTMLElement, HTMLElement>({
    ...TOLD_SIZES,
    count: frames.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: OVERSCAN,
    getItemKey: (at) => frames[at]?.id ?? at,
    rangeExtractor: (range) => {
      const seen = defaultRangeExtractor(range);
      return moving < 0 || seen.includes(moving) ? seen : [...seen, moving].sort((a, b) => a - b);
    },
  });
  return (
    <SortableList ids={frames.map(({ id }) => id)} onMove={onMove} onMoving={setMoving}>
      <div ref={scroller} className={styles.keptScroller}>
        <ol className={styles.kept} aria-label="Kept frames" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start }) => {
            const frame = frames[index];
            return (
              frame && (
                <KeptRow
                  key={frame.id}
                  frame={frame}
                  index={index}
                  count={frames.length}
                  top={start}
                  measure={virtual.measureElement}
                  onChange={(change) => onChange(frame.id, change)}
                  onRemove={() => onRemove(frame)}
                />
              )
            );
          })}
        </ol>
      </div>
    </SortableList>
  );
}

function KeptRow({
  frame,
  index: place,
  count,
  top,
  measure,
  onChange,
  onRemove,
}: {
  readonly frame: KeptFrame;
  readonly index: number;
  readonly count: number;
  readonly top: number;
  readonly measure: (node: HTMLElement | null) => void;
  readonly onChange: (change: Partial<KeptFrame>) => void;
  readonly onRemove: () => void;
}) {
  const bench = useBench();
  const { key, line, protocol, index } = useCurrent();
  // Emptied to be typed anew; the name that is kept stays until there is another one.
  const [name, setName] = useTypedOver(frame.name, (text) => (text === '' ? null : text));
  const { attach, style, handle } = useSortableRow(frame.id, frame.name, measure);
  const fits = frame.protocol === line?.protocol;
  const bytes = keptBytes(frame);
  const load = (): void => {
    const drafts = bench.drafts.getState();
    drafts.startFrame(key, bytes);
    drafts.editFrame(key, bytes);
    drafts.setFramesPart('compose');
  };
  return (
    <li
      ref={attach}
      data-index={place}
      style={{ top, ...style }}
      aria-label={frame.name}
      aria-posinset={place + 1}
      aria-setsize={count}
    >
      {handle}
      <input
        aria-label="Name"
        value={name}
        aria-invalid={name === ''}
        onChange={(event) => {
          const typed = event.target.value.slice(0, LONGEST_TEXT);
          setName(typed);
          if (typed !== '') onChange({ name: typed });
        }}
      />
      <code title={frame.hex}>{frame.hex.length > 48 ? `${frame.hex.slice(0, 48)} …` : frame.hex}</code>
      <span className={styles.soft}>
        {fits && protocol ? protocol.sentence(bytes, 'request', null, index) : PROTOCOL_TEXT[frame.protocol]}
      </span>
      <input
        aria-label="Note"
        placeholder="note"
        value={frame.note}
        onChange={(event) => onChange({ note: event.target.value.slice(0, LONGEST_TEXT) })}
      />
      <ActButton
        size="small"
        variant="outlined"
        color="inherit"
        off={fits ? '' : 'for another protocol'}
        onClick={load}
      >
        Compose
      </ActButton>
      <Button size="small" variant="text" color="inherit" onClick={onRemove} aria-label={`Remove ${frame.name}`}>
        Remove
      </Button>
    </li>
  );
}
