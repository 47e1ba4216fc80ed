'use client';

import { DndContext, PointerSensor, useDraggable, useSensor, useSensors } from '@dnd-kit/core';
import { useState, type KeyboardEvent } from 'react';
import { typeName } from '../../core/process-image/controller';
import { ITEM_TYPES } from '../../core/process-image/image';
import { MOST_BYTES, type OwnBlock } from '../../core/process-image/own-block-schema';
import { lengthOf } from '../../core/process-image/pack';
import { lanesOf, shifted } from '../../core/process-image/shift';
import styles from './block-strip.module.css';
import { MOST_DRAWN } from './face-to-face';
import registers from './registers.module.css';

type Item = OwnBlock['items'][number];

/** Width of a byte; of one where single bits must be seen and taken hold of. */
const BYTE_PX = { plain: 44, withBits: 128 } as const;
const LANE_PX = 32;
/** A pointer that moves less has pressed, not dragged. */
const DRAG_PX = 4;
const STEPS: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1 };

/** `4`, and `4.3` of a bit. */
export const placeText = ({ type, byte, bit = 0 }: Pick<Item, 'type' | 'byte' | 'bit'>): string =>
  type === 'bool' ? `${byte}.${bit}` : `${byte}`;

interface StripProps {
  readonly block: OwnBlock;
  readonly onItems: (items: readonly Item[]) => void;
}

/** The bytes of a block of one's own, with its items over them: one is moved by dragging, or by the arrow keys; a bit by bits, with Shift by bytes. */
export function BlockStrip({ block: { items, size, slot = 0 }, onItems }: StripProps) {
  const [told, setTold] = useState('');
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: DRAG_PX } }));
  const length = Math.max(size, slot, lengthOf(items));
  const drawn = Math.min(MOST_DRAWN, length + 1);
  const lanes = lanesOf(items.filter(({ byte }) => byte < drawn));
  const bytePx = items.some(({ type }) => type === 'bool') ? BYTE_PX.withBits : BYTE_PX.plain;
  const move = (at: number, places: number): void => {
    const item = items[at];
    if (!item) return;
    const next = shifted(item, places, MOST_BYTES);
    setTold(`${item.name}: byte ${placeText(next)}`);
    if (placeText(next) !== placeText(item)) onItems(items.map((one, i) => (i === at ? next : one)));
  };
  return (
    <DndContext
      sensors={sensors}
      onDragEnd={({ active, delta }) => {
        const at = Number(active.id);
        move(at, Math.round(delta.x / (items[at]?.type === 'bool' ? bytePx / 8 : bytePx)));
      }}
    >
      <div className={styles.frame} role="group" aria-label="The bytes of your block">
        <div
          className={styles.strip}
          style={{ width: drawn * bytePx, height: LANE_PX * (Math.max(0, ...lanes.values()) + 2) }}
        >
          {Array.from({ length: drawn }, (_, byte) => (
            <span
              key={byte}
              className={`${styles.byte} ${byte < size ? '' : styles.outside}`}
              style={{ left: byte * bytePx, width: bytePx }}
            >
              {byte}
            </span>
          ))}
          {items.map((item, i) =>
            item.byte < drawn ? (
              <StripItem
                key={i}
                at={i}
                item={item}
                bytePx={bytePx}
                lane={lanes.get(item) ?? 0}
                onMove={(places) => move(i, places)}
              />
            ) : null,
          )}
        </div>
      </div>
      {drawn <= length && drawn === MOST_DRAWN && (
        <p className={registers.soft}>
          The first {drawn} of {length} bytes are drawn; the table has all items.
        </p>
      )}
      <p className={registers.soft} role="status">
        {told === '' ? 'An item is moved by dragging, or by the arrow keys: a bit by bits, with Shift by bytes.' : told}
      </p>
    </DndContext>
  );
}

interface StripItemProps {
  readonly at: number;
  readonly item: Item;
  readonly lane: number;
  readonly bytePx: number;
  readonly onMove: (places: number) => void;
}

function StripItem({ at, item, lane, bytePx, onMove }: StripItemProps) {
  const { setNodeRef, listeners, transform } = useDraggable({ id: `${at}` });
  const isBit = item.type === 'bool';
  const width = (ITEM_TYPES[item.type] * bytePx) / 8;
  const onKeyDown = (event: KeyboardEvent): void => {
    const step = STEPS[event.key];
    if (step === undefined || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    onMove(step * (isBit && event.shiftKey ? 8 : 1));
  };
  return (
    <button
      ref={setNodeRef}
      type="button"
      {...listeners}
      className={styles.item}
      title={item.name}
      aria-label={`${item.name}, ${typeName(item.type)}, byte ${placeText(item)}`}
      style={{
        left: item.byte * bytePx + ((item.bit ?? 0) * bytePx) / 8,
        top: LANE_PX * (lane + 1),
        width,
        transform: transform ? `translateX(${transform.x}px)` : undefined,
      }}
      onKeyDown={onKeyDown}
    >
      {isBit ? '' : item.name}
    </button>
  );
}
