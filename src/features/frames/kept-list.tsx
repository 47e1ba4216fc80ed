'use client';

import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import Button from '@mui/material/Button';
import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useRef, useState } from 'react';
import { useBench } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { keptBytes } from '../../core/job/frames-file';
import { PROTOCOL_TEXT, type KeptFrame } from '../../core/job/job';
import { ActButton } from '../../ui/act-button';
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
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  // The compiler cannot memoise the functions of this hook; nothing here relies on that.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
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
  const placeOf = (id: unknown): number => frames.findIndex((frame) => frame.id === id);
  const dropped = ({ active, over }: DragEndEvent): void => {
    setMoving(-1);
    const [from, to] = [placeOf(active.id), placeOf(over?.id)];
    if (from >= 0 && to >= 0) onMove(from, to);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragStart={({ active }) => setMoving(placeOf(active.id))}
      onDragCancel={() => setMoving(-1)}
      onDragEnd={dropped}
    >
      <SortableContext items={frames.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
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
      </SortableContext>
    </DndContext>
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
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: frame.id });
  // One and the same function: with another at each drawing the list would be measured anew in the middle of a move.
  const attach = useCallback(
    (node: HTMLElement | null) => {
      setNodeRef(node);
      measure(node);
    },
    [setNodeRef, measure],
  );
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
      style={{ top, transform: transform ? `translate3d(0, ${transform.y}px, 0)` : undefined, transition }}
      aria-label={frame.name}
      aria-posinset={place + 1}
      aria-setsize={count}
    >
      <button type="button" className={styles.handle} aria-label={`Move ${frame.name}`} {...attributes} {...listeners}>
        ⠿
      </button>
      <input
        aria-label="Name"
        value={frame.name}
        onChange={(event) => event.target.value !== '' && onChange({ name: event.target.value.slice(0, LONGEST_TEXT) })}
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
