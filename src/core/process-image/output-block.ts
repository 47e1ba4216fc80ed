import { hexNumber } from '../bytes/hex';
import { readTyped } from '../sets/typed-value';
import { wordText } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { patternIn } from '../drive/seen';
import type { Cell } from '../sheet/place';
import { wordsOfPattern } from '../values/pattern';
import { neutralControlWord } from '../places/uss-link';
import type { CycleWord } from './cycle-blocks';

/** One value of a block, over the words that it takes; `at`: the first of them. */
export interface CycleItem {
  readonly parameter: PlacedParameter | null;
  readonly cells: readonly Cell[];
  readonly at: number;
}

/** The values of a block, each once. */
export function itemsOf(words: readonly CycleWord[]): readonly CycleItem[] {
  const items: { readonly parameter: PlacedParameter | null; readonly cells: Cell[]; readonly at: number }[] = [];
  words.forEach(({ cell, parameter }, at) => {
    const last = items[items.length - 1];
    if (parameter && last?.parameter === parameter) last.cells.push(cell);
    else items.push({ parameter, cells: [cell], at });
  });
  return items;
}

/** An item as it is named to a person: the entry that it carries, else the place of its word. */
export const itemName = ({ parameter, at }: CycleItem): string =>
  parameter ? `${parameter.number} ${parameter.name}` : `word ${at}`;

/** One value of the output block as it is typed. */
export interface OutputItem {
  readonly item: CycleItem;
  readonly text: string;
  /** Why the text is none that can go out; empty where it is, and where nothing is typed. */
  readonly error: string;
  readonly meaning: string;
  /** Nothing was typed: it is what the drive held when that was read. */
  readonly isHeld: boolean;
  /** Null where it is not known what would go out. */
  readonly words: readonly number[] | null;
}

export interface OutputBlock {
  readonly items: readonly OutputItem[];
  /** The words of the block; null while one of them is not known. */
  readonly words: readonly number[] | null;
  /** Why there are none; empty where there are. */
  readonly why: string;
  /** The control word in it; undefined where it has none. */
  readonly control: number | undefined;
}

/**
 * The output block out of what is typed: where nothing is, a value is what the drive holds, and the control word its word of rest. A value that was not
 * read and is not typed keeps the block from going out, since nobody knows what would be changed by it.
 */
export function outputBlock(
  index: SheetIndex,
  out: readonly CycleWord[],
  typed: (item: CycleItem) => string | undefined,
  held: (parameter: PlacedParameter) => number | undefined,
): OutputBlock {
  const items = itemsOf(out).map((item) => outputItem(index, item, typed(item), held));
  const missing = items.find(({ words }) => words === null);
  const control = items.find(({ item }) => item.parameter?.role === 'control-word')?.words?.[0];
  return {
    items,
    words: missing ? null : items.flatMap(({ words }) => words ?? []),
    why: missing
      ? missing.error === ''
        ? `what ${itemName(missing.item)} holds was not read, and nothing is typed for it`
        : `${itemName(missing.item)}: ${missing.error}`
      : '',
    control,
  };
}

function outputItem(
  index: SheetIndex,
  item: CycleItem,
  typed: string | undefined,
  held: (parameter: PlacedParameter) => number | undefined,
): OutputItem {
  const { parameter, cells } = item;
  if (!parameter) {
    const text = typed ?? '0';
    const isWord = /^\d{1,5}$/.test(text.trim()) && Number(text) <= 0xffff;
    return isWord
      ? { item, text, error: '', meaning: '', isHeld: false, words: [Number(text)] }
      : { item, text, error: 'a word from 0 to 65535', meaning: '', isHeld: false, words: null };
  }
  const own = parameter.role === 'control-word' ? neutralControlWord(index) : held(parameter);
  const isHeld = typed === undefined && parameter.role !== 'control-word';
  const text = typed ?? (own === undefined ? '' : hexNumber(own, 4 * cells.length));
  if (text.trim() === '') return { item, text, error: '', meaning: 'not known', isHeld: false, words: null };
  const read = readTyped(index, parameter, text, () => undefined);
  if (!read.ok) return { item, text, error: read.error, meaning: '', isHeld, words: null };
  // A parameter that is one number is spread over the words that it takes here.
  const words =
    read.value.length === cells.length ? read.value : wordsOfPattern(read.value[0] ?? 0, cells.length, parameter.order);
  const pattern = patternIn(parameter, (cell) => words[parameter.cells.indexOf(cell)]);
  return {
    item,
    text,
    error: '',
    meaning: pattern === undefined ? '' : wordText(index, parameter, pattern),
    isHeld,
    words,
  };
}
