'use client';

import { bytesToHex } from '../../core/bytes/hex';
import { counted } from '../../core/counted';
import type { Block } from '../../core/process-image/blocks';
import type { ControllerPlace, NamedItem } from '../../core/process-image/controller';
import { bytePlaces, IMAGE_ORDERS, isNumber, type ImageOrder } from '../../core/process-image/image';
import { ORDER_NAMES } from '../../core/process-image/order-names';
import { bytesOf } from '../../core/process-image/pack';
import { writtenAddress, type AddressForm } from '../../core/process-image/written-address';
import styles from './block-part.module.css';
import registers from './registers.module.css';

export const bytesText = (item: NamedItem): string =>
  bytesOf(item.type) === 1 ? `${item.byte}` : `${item.byte} to ${item.byte + bytesOf(item.type) - 1}`;
/** How a controller writes the addresses of a block. */
export interface Writing {
  readonly form: AddressForm;
  readonly place: ControllerPlace;
  /** The block's name, of which its items are members. */
  readonly block: string;
}

export const addressText = ({ form, place, block }: Writing, item: NamedItem): string => {
  const address = writtenAddress(form, place, item, block);
  return address.ok ? address.value : '–';
};

export interface SideProps {
  readonly block: Block;
  readonly writing: Writing;
  readonly bytes: Uint8Array | null;
}

interface Cell {
  readonly byte: number;
  readonly bytes: number;
  readonly names: readonly string[];
  readonly address: string;
}

/** What stands under the bytes: bits of one byte share a cell; what lies over another item, or outside, is said as a fault and has none. */
function cellsOf(items: readonly NamedItem[], writing: Writing, slot: number): readonly Cell[] {
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
        address: bits.length === 1 ? addressText(writing, first) : addressText(writing, { ...first, type: 'uint8' }),
      });
    bits = [];
  };
  for (const item of [...items].sort((a, b) => a.byte - b.byte)) {
    if (item.byte + bytesOf(item.type) > slot) continue;
    if (item.type !== 'bool' || item.byte !== bits[0]?.byte) close();
    if (item.type === 'bool') bits.push(item);
    else if (item.byte >= end())
      cells.push({
        byte: item.byte,
        bytes: bytesOf(item.type),
        names: [item.name],
        address: addressText(writing, item),
      });
  }
  close();
  return cells;
}

interface Thread {
  readonly item: NamedItem;
  readonly places: readonly number[];
}

/** Items with the place that each of their bytes has in the value; one that lies over another has none. */
function threadsOf(items: readonly NamedItem[], order: ImageOrder, slot: number): readonly Thread[] {
  let end = 0;
  return [...items]
    .sort((a, b) => a.byte - b.byte)
    .flatMap((item) => {
      const behind = item.byte + bytesOf(item.type);
      if (!isNumber(item.type) || item.byte < end || behind > slot) return [];
      end = behind;
      return [{ item, places: bytePlaces(item, order) }];
    });
}

const ORDERS = Object.keys(IMAGE_ORDERS) as ImageOrder[];

const crosses = (places: readonly number[]): boolean => places.some((place, i) => place !== i);

/** What the threads that cross say, an order of bytes at a time. */
function crossingText(items: readonly NamedItem[], order: ImageOrder, slot: number): readonly string[] {
  const crossing = threadsOf(items, order, slot).filter(({ places }) => crosses(places));
  return ORDERS.flatMap((own) => {
    const names = crossing.flatMap(({ item }) => ((item.order ?? order) === own ? [item.name] : []));
    return names.length === 0
      ? []
      : [
          `Threads cross at ${names.join(', ')} (${ORDER_NAMES[own]}): a controller that takes the highest byte first must turn them round.`,
        ];
  });
}

/** From each byte of the drive's down to its place in the controller's value, whose highest byte is on the left. */
function Threads({ byte, places }: { readonly byte: number; readonly places: readonly number[] }) {
  const x = (place: number): number => 100 * place + 50;
  return (
    <svg
      className={styles.threads}
      style={{ gridColumn: `${byte + 2} / span ${places.length}` }}
      viewBox={`0 0 ${100 * places.length} 24`}
      preserveAspectRatio="none"
      aria-hidden
    >
      {places.map((place, i) => (
        <line
          key={i}
          className={place === i ? styles.straight : styles.crossing}
          x1={x(i)}
          y1={0}
          x2={x(place)}
          y2={24}
        />
      ))}
    </svg>
  );
}

/** Longer blocks are drawn by their beginning: nobody reads a strip of a thousand bytes. */
export const MOST_DRAWN = 128;

/** The drive's block above, the controller's memory below, item by item. */
export function FaceToFace({
  block,
  writing,
  bytes,
  slot,
  order,
}: SideProps & {
  /** Bytes of the slot that holds it. */
  readonly slot: number;
  /** How its bytes come, where an item says nothing else. */
  readonly order: ImageOrder;
}) {
  const drawn = Math.min(slot, MOST_DRAWN);
  const cells = cellsOf(block.items, writing, drawn);
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
          <span className={styles.side}>bytes</span>
          {threadsOf(block.items, order, drawn).map(({ item, places }) => (
            <Threads key={`${item.byte} ${item.name}`} byte={item.byte} places={places} />
          ))}
          <span className={styles.side}>controller</span>
          {cells.map(({ byte, bytes: width, address }) => (
            <span key={byte} className={styles.address} style={{ gridColumn: `${byte + 2} / span ${width}` }}>
              {address}
            </span>
          ))}
        </div>
      </div>
      {crossingText(block.items, order, drawn).map((text) => (
        <p key={text} className={registers.soft}>
          {text}
        </p>
      ))}
      {drawn < slot && (
        <p className={registers.soft}>
          The first {drawn} of {slot} bytes are drawn; the items below are all.
        </p>
      )}
    </>
  );
}
