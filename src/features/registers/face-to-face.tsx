'use client';

import { bytesToHex } from '../../core/bytes/hex';
import { counted } from '../../core/counted';
import type { Block } from '../../core/process-image/blocks';
import { addressIn, type ControllerPlace, type NamedItem } from '../../core/process-image/controller';
import { bytesOf } from '../../core/process-image/pack';
import styles from './block-part.module.css';
import registers from './registers.module.css';

export const bytesText = (item: NamedItem): string =>
  bytesOf(item.type) === 1 ? `${item.byte}` : `${item.byte} to ${item.byte + bytesOf(item.type) - 1}`;
export const addressText = (place: ControllerPlace, item: NamedItem): string => {
  const address = addressIn(place, item);
  return address.ok ? address.value : '–';
};

export interface SideProps {
  readonly block: Block;
  readonly place: ControllerPlace;
  readonly bytes: Uint8Array | null;
}

interface Cell {
  readonly byte: number;
  readonly bytes: number;
  readonly names: readonly string[];
  readonly address: string;
}

/** What stands under the bytes: bits of one byte share a cell; what lies over another item, or outside, is said as a fault and has none. */
function cellsOf(items: readonly NamedItem[], place: ControllerPlace, slot: number): readonly Cell[] {
  const cells: Cell[] = [];
  let bits: NamedItem[] = [];
  const end = (): number => {
    const last = cells[cells.length - 1];
    return last ? last.byte + last.bytes : 0;
  };
  const close = (): void => {
    const [first] = bits;
    if (first && first.byte >= end())
      cells.push({
        byte: first.byte,
        bytes: 1,
        names: bits.map(({ name }) => name),
        address: bits.length === 1 ? addressText(place, first) : addressText(place, { ...first, type: 'uint8' }),
      });
    bits = [];
  };
  for (const item of [...items].sort((a, b) => a.byte - b.byte)) {
    if (item.byte + bytesOf(item.type) > slot) continue;
    if (item.type !== 'bool' || item.byte !== bits[0]?.byte) close();
    if (item.type === 'bool') bits.push(item);
    else if (item.byte >= end())
      cells.push({ byte: item.byte, bytes: bytesOf(item.type), names: [item.name], address: addressText(place, item) });
  }
  close();
  return cells;
}

/** Longer blocks are drawn by their beginning: nobody reads a strip of a thousand bytes. */
const MOST_DRAWN = 128;

/** The drive's block above, the controller's memory below, item by item. */
export function FaceToFace({
  block,
  place,
  bytes,
  slot,
}: SideProps & { /** Bytes of the slot that holds it. */ readonly slot: number }) {
  const drawn = Math.min(slot, MOST_DRAWN);
  const cells = cellsOf(block.items, place, drawn);
  return (
    <>
      <div
        className={registers.scroll}
        role="group"
        aria-label="The drive’s block over the controller’s memory"
        tabIndex={0}
      >
        <div className={styles.strip} style={{ gridTemplateColumns: `auto repeat(${drawn}, minmax(44px, 1fr))` }}>
          <span className={styles.side}>drive, byte</span>
          {Array.from({ length: drawn }, (_, i) => (
            <span key={i} className={styles.byte}>
              <small>{i}</small>
              {bytes?.[i] === undefined ? '··' : bytesToHex(bytes.slice(i, i + 1))}
            </span>
          ))}
          <span className={styles.side}>item</span>
          {cells.map(({ byte, bytes: width, names }) => (
            <span
              key={byte}
              className={styles.item}
              style={{ gridColumn: `${byte + 2} / span ${width}` }}
              title={names.join(', ')}
            >
              {names.length === 1 ? names[0] : counted(names.length, 'bit')}
            </span>
          ))}
          <span className={styles.side}>controller</span>
          {cells.map(({ byte, bytes: width, address }) => (
            <span key={byte} className={styles.address} style={{ gridColumn: `${byte + 2} / span ${width}` }}>
              {address}
            </span>
          ))}
        </div>
      </div>
      {drawn < slot && (
        <p className={registers.soft}>
          The first {drawn} of {slot} bytes are drawn; the items below are all.
        </p>
      )}
    </>
  );
}
