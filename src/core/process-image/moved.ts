import { hexNumber } from '../bytes/hex';
import { wordText } from '../drive/describe';
import { patternIn, patternOfCells } from '../drive/seen';
import type { Told } from '../places/place-link';
import type { SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import type { Cell } from '../sheet/place';
import { readWord } from '../words/read';
import type { WordSpec } from '../words/spec';
import { itemName, type CycleItem, type OutputItem } from './output-block';

/** An item of the output block that was put in with other words than before. */
export interface PutItem {
  readonly item: CycleItem;
  readonly before: readonly number[];
  readonly after: readonly number[];
}

/** One change, told to a person. */
export interface Change {
  readonly name: string;
  readonly text: string;
}

/** What came of it in the input block; `why` says of each what it has to do with what was put in. */
export interface WhatMoved {
  readonly put: readonly Change[];
  readonly moved: readonly (Change & { readonly why: string })[];
  /** What is not as it should be, if the blocks are laid out as the sheet says. */
  readonly wrong: readonly string[];
}

/** What should follow a value that a controller gives. */
const FOLLOWS: Readonly<Partial<Record<ParameterRole, readonly ParameterRole[]>>> = {
  'control-word': ['status-word', 'actual-speed', 'actual-position'],
  'speed-reference': ['actual-speed', 'status-word'],
  'target-position': ['actual-position', 'status-word'],
  mode: ['mode-display', 'status-word'],
  'life-sign': ['life-sign-back'],
};
/** Values that the drive gives back as they came, within a cycle or two. */
const ECHOES: Readonly<Partial<Record<ParameterRole, ParameterRole>>> = {
  mode: 'mode-display',
  'life-sign': 'life-sign-back',
};
/** What moves with the machine, or by itself, whatever a controller does. */
const BY_ITSELF: ReadonlySet<ParameterRole | undefined> = new Set<ParameterRole>([
  'actual-speed',
  'actual-position',
  'current',
  'torque',
  'life-sign-back',
]);
/** A word that small is found anywhere by chance. */
const TELLING = 0x0100;

/** The items that differ between two output blocks of the same layout. */
export function putBetween(before: readonly OutputItem[], after: readonly OutputItem[]): readonly PutItem[] {
  return after.flatMap(({ item, words }, i): readonly PutItem[] => {
    const earlier = before[i]?.words;
    const isSame = !earlier || !words || earlier.every((word, at) => word === words[at]);
    return isSame ? [] : [{ item, before: earlier, after: words }];
  });
}

/** What moved in the input block since something was put into the output block, and what does not fit. */
export function whatMoved(
  index: SheetIndex,
  put: readonly PutItem[],
  inputs: readonly CycleItem[],
  before: Told,
  now: Told,
): WhatMoved {
  const [was, is] = [new Map(before), new Map(now)];
  const moved = inputs.flatMap((item) => {
    const text = changeText(index, item, wordsOf(item, was), wordsOf(item, is));
    return text === '' ? [] : [{ item, text, name: itemName(item), why: whyMoved(put, item) }];
  });
  return {
    put: put.map(({ item, before: from, after }) => ({
      name: itemName(item),
      text: changeText(index, item, from, after),
    })),
    moved: moved.map(({ name, text, why }) => ({ name, text, why })),
    wrong: put.flatMap((one) =>
      whatIsWrong(
        one,
        inputs,
        moved.map(({ item }) => item),
        is,
      ),
    ),
  };
}

/** An item's words; null where one of them was not told. */
function wordsOf({ cells }: CycleItem, told: ReadonlyMap<Cell, number>): readonly number[] | null {
  const words = cells.flatMap((cell) => told.get(cell) ?? []);
  return words.length === cells.length ? words : null;
}

/** A change by names of bits, or as what it was and is; empty where there is none, or where one of the two is not known. */
function changeText(
  index: SheetIndex,
  { parameter }: CycleItem,
  before: readonly number[] | null,
  after: readonly number[] | null,
): string {
  if (!before || !after || before.every((word, i) => word === after[i])) return '';
  const spec =
    parameter?.role === 'status-word'
      ? index.words?.status
      : parameter?.role === 'control-word'
        ? index.words?.control
        : undefined;
  if (spec) return bitsText(spec, before[0] ?? 0, after[0] ?? 0);
  const text = (words: readonly number[]): string => {
    const pattern = parameter ? patternOfCells(parameter, words) : null;
    return parameter && pattern !== null
      ? wordText(index, parameter, pattern)
      : words.map((word) => hexNumber(word)).join(' ');
  };
  return `${text(before)} → ${text(after)}`;
}

/** `bit 3 operation enabled rose, bit 6 switch on disabled fell` */
function bitsText(spec: WordSpec, before: number, after: number): string {
  const [was, is] = [readWord(spec, before), readWord(spec, after)];
  return is
    .filter(({ level }, bit) => level !== was[bit]?.level)
    .map(({ bit, name, level, spec: known }) => `bit ${bit}${known ? ` ${name}` : ''} ${level ? 'rose' : 'fell'}`)
    .join(', ');
}

function whyMoved(put: readonly PutItem[], { parameter }: CycleItem): string {
  const role = parameter?.role;
  // A speed follows the reference before it follows the control word.
  const [cause] = put
    .map(({ item }) => ({ item, at: followsAt(item.parameter?.role, role) }))
    .filter(({ at }) => at >= 0)
    .sort((a, b) => a.at - b.at);
  if (cause) return `as is expected of ${itemName(cause.item)}`;
  return BY_ITSELF.has(role) ? 'it moves by itself' : 'nobody expects it of what was put in';
}

const followsAt = (own: ParameterRole | undefined, role: ParameterRole | undefined): number =>
  own === undefined || role === undefined ? -1 : (FOLLOWS[own] ?? []).indexOf(role);

const swapped = (word: number): number => ((word & 0xff) << 8) | (word >>> 8);

/** What does not fit of one item: a value that came back turned round, or in another place, or that nothing followed. */
function whatIsWrong(
  { item, after }: PutItem,
  inputs: readonly CycleItem[],
  moved: readonly CycleItem[],
  is: ReadonlyMap<Cell, number>,
): readonly string[] {
  const role = item.parameter?.role;
  const [word = 0] = after;
  const name = itemName(item);
  const echo = role && inputs.find(({ parameter }) => parameter !== null && parameter.role === ECHOES[role]);
  const back = echo?.parameter ? patternIn(echo.parameter, (cell) => is.get(cell)) : undefined;
  if (echo && back === word) return [];
  if (echo && back !== undefined && back === swapped(word))
    return [
      `${name} went out as ${hexNumber(word)} and came back as ${hexNumber(back)}: the two bytes of a word are swapped`,
    ];
  const expected = role ? (FOLLOWS[role] ?? []) : [];
  const isExpected = ({ parameter }: CycleItem): boolean =>
    parameter?.role !== undefined && expected.includes(parameter.role);
  const holds = ({ cells }: CycleItem): boolean =>
    cells.some((cell) => is.get(cell) === word || is.get(cell) === swapped(word));
  const elsewhere = word < TELLING ? undefined : moved.find((other) => !isExpected(other) && holds(other));
  if (elsewhere)
    return [
      `what was put into ${name}, ${hexNumber(word)}, now stands in ${itemName(elsewhere)}: the words are exchanged or shifted`,
    ];
  return expected.length > 0 && !moved.some(isExpected) ? [`nothing followed ${name}`] : [];
}
