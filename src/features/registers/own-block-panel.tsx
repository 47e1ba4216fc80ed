'use client';

import Button from '@mui/material/Button';
import { useBench } from '../../bench/bench-context';
import { useKeptHistory } from '../../bench/hooks/use-kept-history';
import { useTyped } from '../../bench/hooks/use-typed';
import { wholeIn } from '../../core/bytes/whole';
import { counted } from '../../core/counted';
import { typeName } from '../../core/process-image/controller';
import { IMAGE_ORDERS, isNumber, ITEM_TYPES, type ImageOrder, type ItemType } from '../../core/process-image/image';
import { ORDER_NAMES } from '../../core/process-image/order-names';
import { itemsOfText } from '../../core/process-image/items-of-text';
import { clashesWith, remarksOn } from '../../core/process-image/own-block';
import { MOST_BYTES, MOST_ITEMS, MOST_START, type OwnBlock } from '../../core/process-image/own-block-schema';
import { lengthOf, packed } from '../../core/process-image/pack';
import { ActButton, whyOff } from '../../ui/act-button';
import { ChoiceField } from '../../ui/fields';
import { Panel, Warning } from '../../ui/panel';
import { PartField } from '../../ui/part-field';
import { PasteArea } from '../../ui/paste-area';
import { choiceColumn, RowsEditor, textColumn, type RowColumn } from '../../ui/rows-editor';
import { UndoButtons } from '../../ui/undo-buttons';
import { BlockStrip, placeText } from './block-strip';
import { dropBlock, keepBlock } from './own-blocks';
import registers from './registers.module.css';

const LONGEST_PASTE = 100_000;
/** More lines that were not read than these are counted only. */
const MOST_UNREAD = 20;

const TYPES = Object.keys(ITEM_TYPES) as ItemType[];
type Item = OwnBlock['items'][number];

function takePlace(item: Item, text: string): Item | string {
  const [, whole = '', own] = /^(\d{1,4})(?:\.([0-7]))?$/.exec(text.trim()) ?? [];
  const byte = Number(whole);
  if (whole === '' || byte >= MOST_BYTES) return `a byte from 0 to ${MOST_BYTES - 1}, of a bit such as 4.3`;
  if (item.type !== 'bool') return own === undefined ? { ...item, byte } : 'only a BOOL has a bit';
  return { ...item, byte, bit: Number(own ?? 0) };
}

const withoutBit = ({ bit: _, ...item }: Item): Item => item;
const withoutSlot = ({ slot: _, ...block }: OwnBlock): OwnBlock => block;
const withoutFull = ({ full: _, ...item }: Item): Item => item;

const withoutOrder = ({ order: _, ...item }: Item): Item => item;

const ORDERS = Object.keys(IMAGE_ORDERS) as ImageOrder[];

const COLUMNS: readonly RowColumn<Item>[] = [
  textColumn(
    'item',
    '20%',
    ({ name }) => name,
    (item, name) => ({ ...item, name }),
  ),
  textColumn(
    'what it is',
    '26%',
    ({ what }) => what,
    (item, what) => ({ ...item, what }),
    false,
  ),
  choiceColumn(
    'type',
    '14%',
    TYPES.map((type) => [type, typeName(type)] as const),
    ({ type }) => type,
    (item, text) => {
      const type = TYPES.find((one) => one === text) ?? item.type;
      const own = isNumber(type) ? item : withoutOrder(item);
      return type === 'bool' ? { ...own, type, bit: item.bit ?? 0 } : withoutBit({ ...own, type });
    },
  ),
  { label: 'byte', width: '10%', show: placeText, take: takePlace },
  choiceColumn(
    'bytes come',
    '16%',
    [['', 'as the block’s'], ...ORDERS.map((order) => [order, ORDER_NAMES[order]] as const)],
    ({ order }) => order ?? '',
    (item, text) => {
      const order = ORDERS.find((one) => one === text);
      return order && isNumber(item.type) ? { ...item, order } : withoutOrder(item);
    },
  ),
  {
    label: 'count of 100 %',
    width: '14%',
    show: ({ full }) => (full === undefined ? '' : `${full}`),
    take: (item, text) => {
      if (text.trim() === '') return withoutFull(item);
      const full = wholeIn(text);
      const most = 2 ** Math.min(32, ITEM_TYPES[item.type]);
      return full !== null && full >= 1 && full <= most ? { ...item, full } : `a count up to ${most}, or nothing`;
    },
  },
];

/** What a text of digits says, between two bounds; a sentence where it says nothing there. */
const between =
  (least: number, most: number) =>
  (text: string): { readonly value: number } | string => {
    const value = wholeIn(text);
    return value !== null && value >= least && value <= most ? { value } : `${least} to ${most}`;
  };

/** A block of the user's own: every part of it is changed here; each change is kept at once and can be undone. */
export function OwnBlockPanel({ block, all }: { readonly block: OwnBlock; readonly all: readonly OwnBlock[] }) {
  const bench = useBench();
  const history = useKeptHistory(block, (next) => keepBlock(bench, next));
  const put = (change: Partial<OwnBlock>): void => history.type({ ...block, ...change });
  const length = lengthOf(block.items);
  return (
    <Panel
      title="The block and the controller’s side of it"
      aside="one of your own, kept in the job"
      tools={
        <>
          <UndoButtons {...history} />
          <Button variant="text" color="inherit" onClick={() => dropBlock(bench, block)}>
            Delete this block
          </Button>
        </>
      }
    >
      <div className={registers.stack}>
        <div className={registers.row}>
          <PartField
            label="Name"
            width={220}
            value={block.name}
            read={(text) => (text.trim() === '' || text.length > 400 ? 'a name' : { name: text })}
            onValue={put}
          />
          <ChoiceField
            label="It goes"
            width={150}
            value={block.direction}
            onChange={(way) => put({ direction: way === 'to-drive' ? 'to-drive' : 'from-drive' })}
            options={[
              ['to-drive', 'to the drive'],
              ['from-drive', 'from the drive'],
            ]}
          />
          <PartField
            label="Its bytes"
            width={130}
            value={`${block.size}`}
            note={`its items take ${length}`}
            read={between(1, MOST_BYTES)}
            onValue={({ value: size }) => put({ size })}
          />
          <PartField
            label="Bytes of its slot"
            width={150}
            value={block.slot === undefined ? '' : `${block.slot}`}
            note="where it is longer"
            read={(text) => (text.trim() === '' ? {} : between(1, MOST_BYTES)(text))}
            onValue={(read: { readonly value?: number }) => {
              history.type(read.value === undefined ? withoutSlot(block) : { ...block, slot: read.value });
            }}
          />
          <ChoiceField
            label="Its bytes come"
            width={280}
            value={block.order}
            onChange={(order) => put({ order: order as ImageOrder })}
            options={(Object.keys(IMAGE_ORDERS) as ImageOrder[]).map((order) => [order, ORDER_NAMES[order]] as const)}
          />
          <PartField
            label="Begins at the controller’s byte"
            width={200}
            value={`${block.start}`}
            read={between(0, MOST_START)}
            onValue={({ value: start }) => put({ start })}
          />
          <ChoiceField
            label="Its addresses count"
            width={200}
            value={block.counts}
            onChange={(counts) => put({ counts: counts === 'own-width' ? 'own-width' : 'bytes' })}
            options={[
              ['bytes', 'bytes'],
              ['own-width', 'values of their own width'],
            ]}
          />
        </div>
        <Remarks block={block} all={all} />
        <BlockStrip
          block={block}
          onItems={(items) => history.put({ ...block, items: [...items], size: Math.max(block.size, lengthOf(items)) })}
        />
        <RowsEditor<Item>
          label="The items of your block"
          noun="item"
          rows={block.items}
          columns={COLUMNS}
          fresh={() => ({ name: `item ${block.items.length + 1}`, what: '', type: 'uint16', byte: length })}
          onRows={(items) => put({ items: [...items], size: Math.max(block.size, lengthOf(items)) })}
          most={MOST_ITEMS}
        />
        <ActButton
          variant="text"
          color="inherit"
          off={block.items.length === 0 ? 'it has no items' : ''}
          onClick={() => {
            const items = [...packed(block.items)];
            put({ items, size: Math.max(1, lengthOf(items)) });
          }}
        >
          Lay the items one behind the other
        </ActButton>
        <PastedItems key={block.id} block={block} onTake={put} />
      </div>
    </Panel>
  );
}

function Remarks({ block, all }: { readonly block: OwnBlock; readonly all: readonly OwnBlock[] }) {
  const remarks = remarksOn(block);
  const wrong = [...remarks.flatMap(({ kind, text }) => (kind === 'wrong' ? [text] : [])), ...clashesWith(block, all)];
  const notes = remarks.flatMap(({ kind, text }) => (kind === 'note' ? [text] : []));
  return (
    <>
      {wrong.map((text) => (
        <Warning key={text}>{text}.</Warning>
      ))}
      {notes.length > 0 && (
        <ul className={registers.soft} aria-label="What a programmer has to know of it">
          {notes.map((text) => (
            <li key={text}>{text}.</li>
          ))}
        </ul>
      )}
    </>
  );
}

/** Items from a table or from a controller's declarations; nothing is taken before the user says so. */
function PastedItems({
  block,
  onTake,
}: {
  readonly block: OwnBlock;
  readonly onTake: (change: Partial<OwnBlock>) => void;
}) {
  const [text, setText] = useTyped('own block', block.id, 'rows', '');
  const { items, start, area, unread } = itemsOfText(text, block.counts);
  const where = start === null ? '' : `, from the controller’s ${area === 'Q' ? 'output' : 'input'} byte ${start} on`;
  return (
    <>
      <PasteArea
        rows={3}
        longest={LONGEST_PASTE}
        label="Items that were copied: rows of name, type, byte, meaning; or declarations"
        value={text}
        onChange={setText}
      />
      {unread.slice(0, MOST_UNREAD).map(({ line, text: own, why }) => (
        <p key={line} className={registers.soft}>
          Line {line} was not read: {why}. <span className={registers.mono}>{own}</span>
        </p>
      ))}
      {unread.length > MOST_UNREAD && <p className={registers.soft}>And {unread.length - MOST_UNREAD} more.</p>}
      {text.trim() !== '' && (
        <ActButton
          variant="outlined"
          color="inherit"
          off={whyOff([items.length === 0, 'no item was found in this text'])}
          onClick={() => {
            onTake({
              items: [...items],
              size: lengthOf(items),
              ...(start === null ? {} : { start }),
              ...(area === null ? {} : { direction: area === 'Q' ? 'to-drive' : 'from-drive' }),
            });
            setText('');
          }}
        >
          {block.items.length === 0 ? 'Take' : `Replace ${counted(block.items.length, 'item')} with`}{' '}
          {counted(items.length, 'item')}
          {where}
        </ActButton>
      )}
    </>
  );
}
