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
import { useCallback, type CSSProperties, type ReactNode, type RefCallback } from 'react';
import styles from './sortable.module.css';

interface SortableListProps {
  /** Of the rows in their order. */
  readonly ids: readonly string[];
  readonly onMove: (from: number, to: number) => void;
  /** Place of the row that is being moved; -1 when none is any more. */
  readonly onMoving?: (at: number) => void;
  readonly children: ReactNode;
}

/** A list whose rows are moved at their handles, by pointer or keys. */
export function SortableList({ ids, onMove, onMoving, children }: SortableListProps) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const dropped = ({ active, over }: DragEndEvent): void => {
    onMoving?.(-1);
    const [from, to] = [ids.indexOf(`${active.id}`), over ? ids.indexOf(`${over.id}`) : -1];
    if (from >= 0 && to >= 0 && from !== to) onMove(from, to);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragStart={({ active }) => onMoving?.(ids.indexOf(`${active.id}`))}
      onDragCancel={() => onMoving?.(-1)}
      onDragEnd={dropped}
    >
      <SortableContext items={[...ids]} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}

/** A row of such a list: what its element needs, and its handle. `measure` sees the element too, where the list draws a part of its rows only. */
export function useSortableRow(
  id: string,
  label: string,
  measure?: (row: HTMLElement | null) => void,
): { readonly attach: RefCallback<HTMLElement>; readonly style: CSSProperties; readonly handle: ReactNode } {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id });
  // One and the same function: with another at each drawing the list would be measured anew in the middle of a move.
  const attach = useCallback(
    (row: HTMLElement | null) => {
      setNodeRef(row);
      measure?.(row);
    },
    [setNodeRef, measure],
  );
  return {
    attach,
    style: { transform: transform ? `translate3d(0, ${transform.y}px, 0)` : undefined, transition },
    handle: (
      <button type="button" className={styles.handle} aria-label={`Move ${label}`} {...attributes} {...listeners}>
        ⠿
      </button>
    ),
  };
}
