import { numberOf } from '../sheet/adopt-described';
import { cellsOf, type PlacedParameter, type SheetIndex } from '../sheet/index-sheet';
import type { Parameter } from '../sheet/parameter-section';
import { cellOf, type Place } from '../sheet/place';
import { wordsOfType } from '../values/type';
import type { WordField } from '../values/word-field';
import { IMAGE_ORDERS, isNumber, ITEM_TYPES } from './image';
import type { OwnBlock } from './own-block-schema';
import { bytesOf } from './pack';

/** Where a block of the user's lies at the drive: registers from one on, or the words of its process data. */
export type BlockAt =
  | { readonly kind: 'registers'; readonly table: 'holding-register' | 'input-register'; readonly first: number }
  | { readonly kind: 'process-data' };

/** What a sheet gains by a block: its entries, changed, and in words what became of each item. */
export interface BlockInSheet {
  /** The entries of the sheet with those of the block. */
  readonly parameters: readonly Parameter[];
  /** Items whose value the sheet knows already, and which are reached by the block too. */
  readonly further: readonly string[];
  /** Items that became entries of their own. */
  readonly fresh: readonly string[];
  /** Items that were left out, each with its reason. */
  readonly left: readonly string[];
}

type Item = OwnBlock['items'][number];

/** Most ways in which one entry is reached. */
const MOST_WAYS = 8;
const MOST_REGISTER = 0xffff;
const MOST_PROCESS_WORDS = 16;

const keyOf = (text: string): string => text.trim().toUpperCase();

/** Entries of the sheet by what they are called; what two are called says nothing. An array's further elements are no entries. */
function keyed(
  { parameters, sheet }: SheetIndex,
  called: (parameter: PlacedParameter) => string,
): ReadonlyMap<string, PlacedParameter | undefined> {
  const entries = new Set(sheet.parameters?.map(({ number }) => number));
  const found = new Map<string, PlacedParameter | undefined>();
  for (const parameter of parameters) {
    if (!entries.has(parameter.number)) continue;
    const key = keyOf(called(parameter));
    found.set(key, found.has(key) ? undefined : parameter);
  }
  return found;
}

/**
 * A block of the user's as entries of a sheet: an item that is called as an entry's number or name is a further way to that entry, any other an entry of its
 * own; single bytes and bits of one word are an entry with a field for each. What lies across two words, or in another order of bytes than the entry has, is
 * left out with its reason. Linear.
 */
export function blockIntoSheet(index: SheetIndex, block: OwnBlock, at: BlockAt): BlockInSheet {
  const [numbers, names] = [keyed(index, ({ number }) => number), keyed(index, ({ name }) => name)];
  const [further, fresh, left]: [string[], string[], string[]] = [[], [], []];
  const ways = new Map<string, Place>();
  const made: Parameter[] = [];
  for (const item of block.items.filter(({ type }) => isNumber(type))) {
    const place = placeOf(item, block, at);
    const leave = (why: string): void => void left.push(`${item.name}: ${why}`);
    if (typeof place === 'string') {
      leave(place);
      continue;
    }
    const there = cellsOf(place, item.type).map((cell) => index.byCell.get(cell));
    const own = numbers.get(keyOf(item.name)) ?? names.get(keyOf(item.name)) ?? there[0];
    const isThere = own !== undefined && [own.place, ...own.others].some((way) => cellOf(way) === cellOf(place));
    const why = whyNot(item, block, own, isThere, there);
    if (why !== '') leave(why);
    else if (!own) {
      fresh.push(item.name);
      made.push(entryOf(item, block, place));
    } else if (!isThere) {
      further.push(`${own.number} ${own.name}`);
      ways.set(own.number, place);
    }
  }
  for (const [word, parts] of partsByWord(block)) {
    const place = placeOfWord(word, 1, block, at);
    const fields = parts.map(fieldOf);
    const own = typeof place === 'string' ? undefined : index.byCell.get(cellOf(place));
    const why = typeof place === 'string' ? place : own ? `the sheet has ${own.number} ${own.name} there` : '';
    for (const part of parts) {
      if (own && fieldsIn(own, part)) continue;
      if (why !== '') left.push(`${part.name}: ${why}`);
      else fresh.push(part.name);
    }
    if (why === '' && typeof place !== 'string') made.push(entryOfParts(block, word, place, fields));
  }
  const parameters = (index.sheet.parameters ?? []).map((parameter): Parameter => {
    const way = ways.get(parameter.number);
    const placed = index.byNumber.get(parameter.number);
    return way && placed ? { ...parameter, at: [placed.place, ...placed.others, way] } : parameter;
  });
  return { parameters: [...parameters, ...made], further, fresh, left };
}

/** Items of less than a word, by the word of the block in which they lie. */
function partsByWord({ items }: OwnBlock): ReadonlyMap<number, readonly Item[]> {
  const words = new Map<number, Item[]>();
  for (const item of items.filter(({ type }) => !isNumber(type))) {
    const word = Math.floor(item.byte / 2);
    const own = words.get(word);
    if (own) own.push(item);
    else words.set(word, [item]);
  }
  return words;
}

/** A bit or a byte as a part of its word, whose first byte is the high one. */
function fieldOf({ name, type, byte, bit = 0 }: Item): WordField {
  const first = byte % 2 === 0 ? 8 : 0;
  if (type === 'bool') return { name, bit: first + bit, bits: 1 };
  return { name, bit: first, bits: 8, ...(type === 'int8' ? { signed: true } : {}) };
}

/** Whether an entry has a part as its field already. */
const fieldsIn = ({ fields = [] }: PlacedParameter, part: Item): boolean => {
  const field = fieldOf(part);
  return fields.some(({ name, bit, bits }) => name === field.name && bit === field.bit && bits === field.bits);
};

const entryOfParts = (block: OwnBlock, word: number, place: Place, fields: readonly WordField[]): Parameter => ({
  number: numberOf(
    place.kind === 'register'
      ? `word ${place.address}`
      : `PZD word ${word} ${block.direction === 'to-drive' ? 'out' : 'in'}`,
  ),
  name: `${block.name}, word ${word}`,
  at: [place],
  type: 'uint16',
  fields: [...fields],
  ...(block.direction === 'from-drive' ? { write: 'never' as const } : {}),
});

/** Where an item is at the drive; a sentence where it is no word there. */
function placeOf(item: Item, block: OwnBlock, at: BlockAt): Place | string {
  return item.byte % 2 === 0
    ? placeOfWord(item.byte / 2, bytesOf(item.type) / 2, block, at)
    : `it begins in byte ${item.byte}, within a word`;
}

function placeOfWord(word: number, words: number, { direction }: OwnBlock, at: BlockAt): Place | string {
  if (at.kind === 'process-data')
    return word + words > MOST_PROCESS_WORDS
      ? `the process data has ${MOST_PROCESS_WORDS} words at most`
      : { kind: 'process', direction: direction === 'to-drive' ? 'out' : 'in', word };
  return at.first + word + words - 1 > MOST_REGISTER
    ? `it would lie behind register ${MOST_REGISTER}`
    : { kind: 'register', table: at.table, address: at.first + word };
}

/** The order in which an item's bytes come, as an entry says it; undefined for the highest first. */
function orderOf({ type, order: ofItem }: Item, block: OwnBlock): Parameter['order'] {
  const order = ofItem ?? block.order;
  const bits = isNumber(type) ? ITEM_TYPES[type] : 16;
  const own = IMAGE_ORDERS[order][bits];
  return own === IMAGE_ORDERS.big[bits] ? undefined : (own as Parameter['order']);
}

/**
 * Why an item is not taken; empty where it is. `own`: the entry that it is by its name or its place; `isThere`: the sheet reaches it there already; `there`: what
 * the sheet has in each of its words.
 */
function whyNot(
  item: Item,
  block: OwnBlock,
  own: PlacedParameter | undefined,
  isThere: boolean,
  there: readonly (PlacedParameter | undefined)[],
): string {
  const other = there.find((one) => one !== undefined && one !== own);
  if (other) return `the sheet has ${other.number} ${other.name} there`;
  if (!own) return '';
  if (!isThere && there[0] === own) return `it begins within ${own.number} ${own.name}`;
  const words = bytesOf(item.type) / 2;
  if (wordsOfType(own.type, own.size) !== words)
    return `${own.number} has ${wordsOfType(own.type, own.size)} words, the item ${words}`;
  const order = orderOf(item, block);
  if ((own.order ?? '') !== (order ?? ''))
    return `its bytes come ${order ?? 'the highest first'} here and ${own.order ?? 'the highest first'} at ${own.number}: an entry has one order`;
  return own.others.length + 1 >= MOST_WAYS && !isThere ? `${own.number} is reached in ${MOST_WAYS} ways already` : '';
}

const entryOf = (item: Item, block: OwnBlock, place: Place): Parameter => {
  const order = orderOf(item, block);
  const { name, what, type } = item;
  return {
    number: numberOf(name),
    name: what === '' || keyOf(what) === keyOf(name) ? name : what,
    at: [place],
    type,
    ...(order ? { order } : {}),
    ...(block.direction === 'from-drive' ? { write: 'never' as const } : {}),
  };
};
