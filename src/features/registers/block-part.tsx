'use client';

import { useCurrent } from '../../bench/hooks/use-current';
import { useTyped } from '../../bench/hooks/use-typed';
import { fileName, saveFile } from '../../bench/workers/ask-file-worker';
import { bytesToHex } from '../../core/bytes/hex';
import { readPasted } from '../../core/bytes/pasted';
import { wholeIn } from '../../core/bytes/whole';
import { blocksOfSheet, TELEGRAM_BLOCKS, type Block } from '../../core/process-image/blocks';
import {
  addressIn,
  declarationsOf,
  typeName,
  type ControllerPlace,
  type NamedItem,
} from '../../core/process-image/controller';
import { ITEM_TYPES, readImage, type ImageOrder } from '../../core/process-image/image';
import { statesOf } from '../../core/profile/profile';
import { PROFIDRIVE } from '../../core/profile/profidrive';
import { wordText } from '../../core/sheet/describe';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { ActButton } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { HeadRow } from '../../ui/head-row';
import { Panel, Warning } from '../../ui/panel';
import { UnreadForm, useUnread } from '../../ui/unread';
import styles from './block-part.module.css';
import registers from './registers.module.css';

const ORDERS: readonly (readonly [ImageOrder, string])[] = [
  ['big', 'high byte first'],
  ['little', 'low byte first'],
  ['big-swapped-words', 'high byte first, words of 32 bits swapped'],
  ['little-swapped-words', 'low byte first, words of 32 bits swapped'],
];
const MOST_START = 65_535;

/** A cyclic block: which byte of the drive's is which of the controller's, and what a block that somebody copied says. */
export function BlockPart() {
  const unread = useUnread();
  const { index } = useCurrent();
  const blocks = [...(index ? blocksOfSheet(index) : []), ...TELEGRAM_BLOCKS];
  const [chosen, setChosen] = useTyped('block', 'block', blocks[0]?.id ?? '');
  const [order, setOrder] = useTyped('block', 'order', 'big');
  const [start, setStart] = useTyped('block', 'start', '256');
  const [counts, setCounts] = useTyped('block', 'counts', 'bytes');
  const [bytes, setBytes] = useTyped('block', 'bytes', '');
  const block = blocks.find(({ id }) => id === chosen) ?? blocks[0];
  const first = wholeIn(start);
  const isStart = first !== null && first >= 0 && first <= MOST_START;
  if (!block) return null;
  const place: ControllerPlace = {
    area: block.direction === 'to-drive' ? 'Q' : 'I',
    start: isStart ? first : 0,
    counts: counts === 'own-width' ? 'own-width' : 'bytes',
  };
  const pasted = bytes.trim() === '' ? null : readPasted(bytes);
  const read = pasted?.ok ? (pasted.value.frames[0]?.bytes ?? null) : null;
  const wire = ORDERS.find(([id]) => id === order)?.[0] ?? 'big';
  return (
    <UnreadForm unread={unread}>
      <div className={registers.stack}>
        <Panel title="Block" aside="what goes round between controller and drive; nothing is sent from here">
          <div className={registers.row}>
            <ChoiceField
              label="Block"
              width={280}
              value={block.id}
              onChange={setChosen}
              options={blocks.map(({ id, name }) => [id, name] as const)}
            />
            <ChoiceField label="Its bytes come" width={280} value={wire} onChange={setOrder} options={ORDERS} />
            <TypedField
              label="Begins at the controller’s byte"
              width={200}
              value={start}
              error={isStart ? '' : `a byte from 0 to ${MOST_START}`}
              onChange={setStart}
            />
            <ChoiceField
              label="Its addresses count"
              width={200}
              value={place.counts}
              onChange={setCounts}
              options={[
                ['bytes', 'bytes'],
                ['own-width', 'values of their own width'],
              ]}
            />
            <TypedField
              label="A block that was copied, in any notation"
              width={420}
              value={bytes}
              error={pasted && !pasted.ok ? pasted.error.text : ''}
              note={`${block.size} bytes, such as those of a controller’s watch table`}
              onChange={setBytes}
            />
          </div>
          <FaceToFace block={block} place={place} bytes={read} />
          <p className={registers.soft}>
            {place.area === 'I'
              ? 'What comes from the drive is the controller’s input.'
              : 'What goes to the drive is the controller’s output.'}{' '}
            The drive’s own manual may call it the other way round.
          </p>
        </Panel>
        <Items block={block} place={place} order={wire} bytes={read} index={index} />
      </div>
    </UnreadForm>
  );
}

const sizeOf = ({ type }: NamedItem): number => Math.max(1, ITEM_TYPES[type] / 8);
const bytesText = (item: NamedItem): string =>
  sizeOf(item) === 1 ? `${item.byte}` : `${item.byte} to ${item.byte + sizeOf(item) - 1}`;
const addressText = (place: ControllerPlace, item: NamedItem): string => {
  const address = addressIn(place, item);
  return address.ok ? address.value : '–';
};

interface SideProps {
  readonly block: Block;
  readonly place: ControllerPlace;
  readonly bytes: Uint8Array | null;
}

/** The drive's block above, the controller's memory below, item by item. */
function FaceToFace({ block, place, bytes }: SideProps) {
  return (
    <div
      className={registers.scroll}
      role="group"
      aria-label="The drive’s block over the controller’s memory"
      tabIndex={0}
    >
      <div className={styles.strip} style={{ gridTemplateColumns: `auto repeat(${block.size}, minmax(44px, 1fr))` }}>
        <span className={styles.side}>drive, byte</span>
        {Array.from({ length: block.size }, (_, i) => (
          <span key={i} className={styles.byte}>
            <small>{i}</small>
            {bytes?.[i] === undefined ? '··' : bytesToHex(bytes.slice(i, i + 1))}
          </span>
        ))}
        <span className={styles.side}>item</span>
        {block.items.map((item) => (
          <span
            key={item.name}
            className={styles.item}
            style={{ gridColumn: `${item.byte + 2} / span ${sizeOf(item)}` }}
          >
            {item.name}
          </span>
        ))}
        <span className={styles.side}>controller</span>
        {block.items.map((item) => (
          <span
            key={item.name}
            className={styles.address}
            style={{ gridColumn: `${item.byte + 2} / span ${sizeOf(item)}` }}
          >
            {addressText(place, item)}
          </span>
        ))}
      </div>
    </div>
  );
}

function Items({
  block,
  place,
  order,
  bytes,
  index,
}: SideProps & { readonly order: ImageOrder; readonly index: SheetIndex | null }) {
  const told = bytes ? readImage(block.items, block.size, order, bytes) : null;
  const declared = declarationsOf(block.items, place);
  return (
    <Panel
      title="Its items"
      aside="names, types and addresses as IEC 61131-3 writes them"
      tools={
        <ActButton
          variant="text"
          color="inherit"
          off={declared.ok ? '' : declared.error}
          onClick={() =>
            declared.ok && saveFile(new Blob([declared.value], { type: 'text/plain' }), fileName(block.name, 'st'))
          }
        >
          Export declarations
        </ActButton>
      }
    >
      {told?.faults.map(({ text }) => (
        <Warning key={text}>{text}.</Warning>
      ))}
      <div className={registers.scroll}>
        <table className={registers.found} aria-label="Items of the block">
          <HeadRow names={['item', 'the drive’s bytes', 'the controller’s address', 'type', 'value', 'that is']} />
          <tbody>
            {block.items.map((item) => {
              const value = told?.values.get(item.name);
              return (
                <tr key={item.name}>
                  <td>
                    {item.name} <span className={registers.soft}>{item.what}</span>
                  </td>
                  <td className={registers.mono}>{bytesText(item)}</td>
                  <td className={registers.mono}>{addressText(place, item)}</td>
                  <td className={registers.mono}>{typeName(item.type)}</td>
                  <td className={registers.mono}>{value === undefined ? '' : hexAndValue(item, value)}</td>
                  <td>{value === undefined ? '' : meaning(index, item, value)}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </Panel>
  );
}

/** A number with its pattern in hex; a float as it is. */
function hexAndValue({ type }: NamedItem, value: string): string {
  if (type.startsWith('float') || type === 'bool') return value;
  const pattern = BigInt.asUintN(ITEM_TYPES[type], BigInt(value));
  return `${value} = 0x${pattern
    .toString(16)
    .toUpperCase()
    .padStart(ITEM_TYPES[type] / 4, '0')}`;
}

/** What the sheet or the standard says of it, or its share of 100 %. */
function meaning(index: SheetIndex | null, { name, full, type }: NamedItem, value: string): string {
  if (full !== undefined) return `${((100 * Number(value)) / full).toFixed(2)} %`;
  if (name === 'ZSW1')
    return statesOf(PROFIDRIVE, Number(value))
      .map((state) => state.name)
      .join(' or ');
  const parameter = index?.byNumber.get(name);
  // A float is in its unit already.
  if (type.startsWith('float')) return parameter?.unit ?? '';
  return index && parameter ? wordText(index, parameter, Number(BigInt.asUintN(32, BigInt(value)))) : '';
}
