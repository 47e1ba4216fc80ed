'use client';

import {
  closestCenter,
  DndContext,
  DragOverlay,
  KeyboardSensor,
  MeasuringStrategy,
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
import {
  useCallback,
  useMemo,
  useState,
  type CSSProperties,
  type ReactNode,
  type RefCallback,
  type RefObject,
} from 'react';
import styles from './sortable.module.css';

interface SortableListProps {
  /** Of the rows in their order. */
  readonly ids: readonly string[];
  readonly onMove: (from: number, to: number) => void;
  /** Place of the row that is being moved; -1 when none is any more. */
  readonly onMoving?: (at: number) => void;
  /**
   * Of a list that draws a part of its rows only: what goes with the pointer, since the row that is moved may leave the list on the way, and the box
   * that is rolled then, and nothing around it.
   */
  readonly long?: { readonly dragged: (at: number) => ReactNode; readonly scroller: RefObject<HTMLElement | null> };
  readonly children: ReactNode;
}

/** A list whose rows are moved at their handles, by pointer or keys. */
export function SortableList({ ids, onMove, onMoving, long, children }: SortableListProps) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const [moving, setMoving] = useState(-1);
  const say = (at: number): void => {
    setMoving(at);
    onMoving?.(at);
  };
  // The same list for as long as it says the same: with another one all rows are drawn anew.
  const order = ids.join('\n');
  const items = useMemo(() => order.split('\n'), [order]);
  const dropped = ({ active, over }: DragEndEvent): void => {
    say(-1);
    const [from, to] = [ids.indexOf(`${active.id}`), over ? ids.indexOf(`${over.id}`) : -1];
    if (from >= 0 && to >= 0 && from !== to) onMove(from, to);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragStart={({ active }) => say(ids.indexOf(`${active.id}`))}
      onDragCancel={() => say(-1)}
      onDragEnd={dropped}
      {...(long
        ? {
            // Rows come while one is dragged; at rest nobody asks where they are.
            measuring: {
              droppable: { strategy: moving < 0 ? MeasuringStrategy.WhileDragging : MeasuringStrategy.Always },
            },
            autoScroll: { canScroll: (box: Element) => box === long.scroller.current },
          }
        : {})}
    >
      <SortableContext items={items} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
      {long && <DragOverlay dropAnimation={null}>{moving < 0 ? null : long.dragged(moving)}</DragOverlay>}
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
