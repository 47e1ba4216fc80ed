'use client';

import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useForm, useTyped } from '../../bench/hooks/use-typed';
import { newId } from '../../bench/new-id';
import { fileName, saveFile } from '../../bench/workers/ask-file-worker';
import { readPasted } from '../../core/bytes/pasted';
import { wholeIn } from '../../core/bytes/whole';
import { blockOfList, STANDARD_BLOCKS, type Block } from '../../core/process-image/blocks';
import { blocksOfDrive } from '../../core/process-image/register-blocks';
import { carriedText } from '../../core/process-image/carried';
import { typeName, type ControllerPlace, type NamedItem } from '../../core/process-image/controller';
import { csvOfBlock, structuredText } from '../../core/process-image/controller-text';
import { ITEM_TYPES, readImage, type ImageOrder } from '../../core/process-image/image';
import { ORDER_NAMES } from '../../core/process-image/order-names';
import { ADDRESS_FORMS, type AddressForm } from '../../core/process-image/written-address';
import { MOST_BLOCKS } from '../../core/job/job-limits';
import { ownBlockOf, placeOfOwn } from '../../core/process-image/own-block';
import { MOST_START, type OwnBlock } from '../../core/process-image/own-block-schema';
import { knownItem, MOST_COPIED, STATUS_ITEMS, windowOf, type KnownItem } from '../../core/process-image/likely';
import { statesOf } from '../../core/profile/profile';
import { wordText } from '../../core/drive/describe';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { ActButton } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { HeadRow } from '../../ui/head-row';
import { Panel, Warning } from '../../ui/panel';
import { UnreadForm, useUnread } from '../../ui/unread';
import { useLongList } from '../../ui/use-long-list';
import { BlockAtDrive } from './block-at-drive';
import { BlockLikely } from './block-likely';
import { BlockRead } from './block-read';
import { OwnBlockPanel } from './own-block-panel';
import { addressText, bytesText, FaceToFace, type SideProps, type Writing } from './face-to-face';
import { keepBlock } from './own-blocks';
import styles from './block-part.module.css';
import registers from './registers.module.css';

const FORMS = Object.entries(ADDRESS_FORMS) as readonly (readonly [AddressForm, string])[];
const ORDERS = Object.entries(ORDER_NAMES) as readonly (readonly [ImageOrder, string])[];
/** The usual height of an item. */
const ROW_PX = 34;
const NO_BLOCKS: readonly OwnBlock[] = [];
/** Bytes that are left before a block, or that were not copied of it. */
const MOST_SKIP = 240;
/** A block that is made of a list of the drive's values, one for each way. */
const LISTS = [
  ['list-to-drive', 'to-drive', 'a list of the drive’s values, to the drive'],
  ['list-from-drive', 'from-drive', 'a list of the drive’s values, from the drive'],
] as const;

/** The block that is chosen, the one of the other way, and what keeps a list from being one. */
function useBlocks(index: SheetIndex | null) {
  const [numbers, setNumbers] = useTyped('block', '', 'numbers', '');
  const mine = useBenchState(({ job }) => job?.blocks ?? NO_BLOCKS);
  const known: readonly Block[] = [...(index ? blocksOfDrive(index) : []), ...mine, ...STANDARD_BLOCKS];
  const [chosen, setChosen] = useTyped('block', '', 'block', known[0]?.id ?? '');
  const list = LISTS.find(([id]) => id === chosen);
  const made = list && index ? blockOfList(index, numbers, list[1]) : null;
  const block = list ? (made?.ok ? made.value : null) : (known.find(({ id }) => id === chosen) ?? known[0] ?? null);
  const own = mine.find(({ id }) => id === block?.id) ?? null;
  const pair = (id: string): string => id.replace(/(out|in)$/, (way) => (way === 'out' ? 'in' : 'out'));
  const isPair = (other: Block): boolean =>
    block !== null &&
    (own
      ? other.name === own.name && other.direction !== own.direction
      : other.id !== block.id && other.id === pair(block.id));
  const options = [
    ...known.map(({ id, name }) => [id, name] as const),
    ...(index ? LISTS.map(([id, , name]) => [id, name] as const) : []),
  ];
  return {
    block,
    own,
    mine,
    usualOrder: (id: string) => known.find((one) => one.id === id)?.order,
    otherSide: known.find(isPair) ?? null,
    options,
    chosen: list?.[0] ?? block?.id ?? '',
    setChosen,
    isList: list !== undefined,
    listFault: made && !made.ok ? made.error : '',
    numbers,
    setNumbers,
  };
}

/** A cyclic block: which byte of the drive's is which of the controller's, and what a block that somebody copied says. */
export function BlockPart() {
  const unread = useUnread();
  const layout = useUnread();
  const notLaidOut = layout.why === '' ? '' : 'a field of the block shows what is not in it';
  const bench = useBench();
  const { index } = useCurrent();
  const {
    block,
    own,
    mine,
    usualOrder,
    otherSide,
    options,
    chosen,
    setChosen,
    isList,
    listFault,
    numbers,
    setNumbers,
  } = useBlocks(index);
  const [order, setOrder] = useTyped('block', '', 'order', 'big');
  const [start, setStart] = useTyped('block', '', 'start', '256');
  const [counts, setCounts] = useTyped('block', '', 'counts', 'bytes');
  const [formText, setForm] = useTyped('block', '', 'form', 'direct');
  const [bytes, setBytes] = useTyped('block', '', 'bytes', '');
  const [before, setBefore] = useTyped('block', '', 'before', '0');
  const first = wholeIn(start);
  const isStart = first !== null && first >= 0 && first <= MOST_START;
  const skip = /^[-−]?\d{1,3}$/.test(before.trim()) ? Number(before.trim().replace('−', '-')) : NaN;
  const isSkip = Math.abs(skip) <= MOST_SKIP;
  const known = useKnown(index, block);
  const place: ControllerPlace = own
    ? placeOfOwn(own)
    : {
        area: block?.direction === 'to-drive' ? 'Q' : 'I',
        start: isStart ? first : 0,
        counts: counts === 'own-width' ? 'own-width' : 'bytes',
      };
  const pasted = bytes.trim() === '' ? null : readPasted(bytes);
  const all = pasted?.ok ? (pasted.value.frames[0]?.bytes ?? null) : null;
  const copied = all && all.length <= MOST_COPIED ? all : null;
  const skipped = isSkip ? skip : 0;
  // Too few bytes are said as what they are; of too many, those of the block are read.
  const read = !isSkip
    ? undefined
    : copied && block && copied.length >= block.size + skipped
      ? windowOf(copied, block.size, skipped)
      : copied?.subarray(Math.max(0, skipped));
  const form = FORMS.find(([id]) => id === formText)?.[0] ?? 'direct';
  const writing: Writing = { form, place, block: block?.name ?? '' };
  const wire = own?.order ?? ORDERS.find(([id]) => id === order)?.[0] ?? 'big';
  const choose = (id: string): void => {
    setChosen(id);
    const usual = usualOrder(id);
    if (usual) setOrder(usual);
  };
  return (
    <UnreadForm unread={unread}>
      <div className={registers.stack}>
        <Panel title="Block" aside="what goes round between controller and drive; nothing but a read is sent from here">
          <div className={registers.row}>
            <ChoiceField label="Block" width={280} value={chosen} onChange={choose} options={options} />
            {isList && (
              <TypedField
                label="Their numbers, in the order of the list"
                width={420}
                value={numbers}
                error={listFault}
                note="such as a scanner gathers them; 0 keeps a word free"
                onChange={setNumbers}
              />
            )}
            {!own && (
              <>
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
              </>
            )}
            <ChoiceField
              label="The controller writes addresses"
              width={280}
              value={form}
              onChange={setForm}
              options={FORMS}
            />
            <TypedField
              label="A block that was copied, in any notation"
              width={420}
              value={bytes}
              error={
                pasted && !pasted.ok
                  ? pasted.error.text
                  : all && !copied
                    ? `${all.length} bytes: no cyclic block has more than ${MOST_COPIED}`
                    : ''
              }
              note={block ? `${block.size} bytes, such as those of a controller’s watch table` : ''}
              onChange={setBytes}
            />
            <TypedField
              label="Bytes copied before it"
              width={180}
              value={before}
              error={isSkip ? '' : `a number from −${MOST_SKIP} to ${MOST_SKIP}`}
              note="a head of the slot; negative: its first bytes are missing"
              onChange={setBefore}
            />
          </div>
          {block && <BlockRead size={own?.slot ?? block.size} off={notLaidOut} onBytes={setBytes} />}
          <OwnBlockButtons
            from={own ? null : block}
            setting={{ order: wire, start: place.start, counts: place.counts }}
            count={mine.length}
            onMade={setChosen}
          />
          {block && (
            <>
              <FaceToFace
                block={block}
                writing={writing}
                bytes={read ?? null}
                slot={own?.slot ?? block.size}
                order={wire}
              />
              <p className={registers.soft}>
                {place.area === 'I'
                  ? 'What comes from the drive is the controller’s input.'
                  : 'What goes to the drive is the controller’s output.'}{' '}
                The drive’s own manual may call it the other way round. {carriedText(block, index)}
              </p>
            </>
          )}
        </Panel>
        {own && (
          <UnreadForm unread={layout}>
            <OwnBlockPanel key={own.id} block={own} all={mine} />
          </UnreadForm>
        )}
        {own && <BlockAtDrive key={`${own.id} at`} block={own} index={index} notLaidOut={notLaidOut} />}
        {block && copied && isSkip && (
          <BlockLikely
            index={index}
            own={{ block, order: wire, skip: skipped }}
            otherSide={otherSide}
            bytes={copied}
            known={known}
            onTake={(reading) => {
              setChosen(reading.block.id);
              if (own) keepBlock(bench, { ...own, order: reading.order });
              else setOrder(reading.order);
              setBefore(`${reading.skip}`);
            }}
          />
        )}
        {block && (
          <Items
            block={block}
            writing={writing}
            order={wire}
            bytes={read ?? null}
            index={index}
            off={notLaidOut || (own || isStart ? '' : 'the byte at which it begins is none')}
          />
        )}
      </div>
    </UnreadForm>
  );
}

/** What was typed as known of a block's items, as far as it can be read. */
function useKnown(index: SheetIndex | null, block: Block | null): ReadonlyMap<string, KnownItem> {
  const { text: typed } = useForm('known items', block?.id);
  return new Map(
    (block?.items ?? []).flatMap((item) => {
      const text = typed(item.name).trim();
      const read = text === '' ? null : knownItem(index, item, text);
      return read?.ok ? [[item.name, read.value] as const] : [];
    }),
  );
}

/** What a person knows of a value, from the drive's display or from the machine. */
function KnownField({
  block,
  item,
  index,
}: {
  readonly block: Block;
  readonly item: NamedItem;
  readonly index: SheetIndex | null;
}) {
  const [text, setText] = useTyped('known items', block.id, item.name, '');
  const read = text.trim() === '' ? null : knownItem(index, item, text);
  return (
    <TypedField
      label={`${item.name} is, as you know`}
      width={170}
      value={text}
      error={read && !read.ok ? read.error : ''}
      onChange={setText}
    />
  );
}

/** Ways to a block of one's own: an empty one, or a copy of the one that is shown. */
function OwnBlockButtons({
  from,
  setting,
  count,
  onMade,
}: {
  readonly from: Block | null;
  readonly setting: Pick<OwnBlock, 'order' | 'start' | 'counts'>;
  readonly count: number;
  readonly onMade: (id: string) => void;
}) {
  const bench = useBench();
  const isFull = count >= MOST_BLOCKS ? `a job has at most ${MOST_BLOCKS} blocks` : '';
  const make = (block: Pick<Block, 'direction' | 'size' | 'items'>, name: string): void => {
    const own = ownBlockOf(block, { id: newId(), name, ...setting });
    if (keepBlock(bench, own)) onMade(own.id);
  };
  return (
    <div className={registers.row}>
      <ActButton
        variant="outlined"
        color="inherit"
        off={isFull}
        onClick={() => make({ direction: 'from-drive', size: 2, items: [] }, `Block ${count + 1}`)}
      >
        Lay out a block of your own
      </ActButton>
      {from && (
        <ActButton
          variant="outlined"
          color="inherit"
          off={isFull}
          onClick={() => make(from, `${from.name}, own`.slice(0, 400))}
        >
          Copy this one to change it
        </ActButton>
      )}
    </div>
  );
}

function Items({
  block,
  writing,
  order,
  bytes,
  index,
  off,
}: SideProps & {
  readonly order: ImageOrder;
  readonly index: SheetIndex | null;
  /** Why its files are not made; empty where they are. */
  readonly off: string;
}) {
  const told = bytes ? readImage(block.items, block.size, order, bytes) : null;
  const declared = structuredText(block, writing.place, index);
  const { scroller, shown, before, after, measure, isLong } = useLongList<HTMLDivElement>(block.items.length, ROW_PX);
  return (
    <Panel
      title="Its items"
      aside="names, types and addresses as IEC 61131-3 writes them"
      tools={
        <>
          <ActButton
            variant="text"
            color="inherit"
            off={off}
            onClick={() =>
              saveFile(
                new Blob([csvOfBlock(block, writing.place, index)], { type: 'text/csv' }),
                fileName(block.name, 'csv'),
              )
            }
          >
            Export as CSV
          </ActButton>
          <ActButton
            variant="text"
            color="inherit"
            off={off || (declared.ok ? '' : declared.error)}
            onClick={() =>
              declared.ok && saveFile(new Blob([declared.value], { type: 'text/plain' }), fileName(block.name, 'st'))
            }
          >
            Export declarations
          </ActButton>
        </>
      }
    >
      {told?.faults.map(({ text }) => (
        <Warning key={text}>{text}.</Warning>
      ))}
      <div ref={scroller} className={isLong ? styles.long : registers.scroll}>
        <table className={registers.found} aria-label="Items of the block" aria-rowcount={block.items.length + 1}>
          <HeadRow
            names={[
              'item',
              'the drive’s bytes',
              'the controller’s address',
              'type',
              'value',
              'that is',
              ...(bytes ? ['you know it'] : []),
            ]}
          />
          <tbody>
            {before > 0 && <tr style={{ height: before }} />}
            {shown.map((at) => {
              const item = block.items[at];
              if (!item) return null;
              const value = told?.values.get(item.name);
              return (
                <tr key={at} ref={measure} data-index={at}>
                  <td>
                    {item.name} <span className={registers.soft}>{item.what}</span>
                  </td>
                  <td className={registers.mono}>{bytesText(item)}</td>
                  <td className={registers.mono}>{addressText(writing, item)}</td>
                  <td className={registers.mono}>{typeName(item.type)}</td>
                  <td className={registers.mono}>{value === undefined ? '' : hexAndValue(item, value)}</td>
                  <td>{value === undefined ? '' : meaning(index, item, value)}</td>
                  {bytes && (
                    <td className={styles.known}>
                      <KnownField block={block} item={item} index={index} />
                    </td>
                  )}
                </tr>
              );
            })}
            {after > 0 && <tr style={{ height: after }} />}
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
  const profile = STATUS_ITEMS.get(name);
  if (profile)
    return statesOf(profile, Number(value))
      .map((state) => state.name)
      .join(' or ');
  const parameter = index?.byNumber.get(name);
  // A float is in its unit already.
  if (type.startsWith('float')) return parameter?.unit ?? '';
  return index && parameter ? wordText(index, parameter, Number(BigInt.asUintN(32, BigInt(value)))) : '';
}
