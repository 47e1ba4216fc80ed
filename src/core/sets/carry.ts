import { done, failed, type Result } from '../result';
import { choiceOf, meaningOf, valueIn, type KnownNumber } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { patternOfNumber } from '../values/pattern';
import { whyNotPlanned, type Plan, type PlannedValue } from './plan';
import { patternOfCells } from '../drive/seen';
import { knownOf, wordsOfSaid } from './said';
import { wordsOfValue } from './typed-value';
import type { Witness } from './witness';

/** What decides how the words of a value are read. */
const formOf = (index: SheetIndex, { type, order, size, scale, choices, fields, unit }: PlacedParameter): string =>
  JSON.stringify([
    type,
    order,
    size,
    scale?.kind === 'chain' ? index.sheet.scalings?.find(({ id }) => id === scale.id)?.chain : scale,
    choices,
    fields,
    unit,
  ]);

/** Words that the cells of a parameter can hold; a file may say anything. */
const fits = ({ cells, place }: PlacedParameter, words: readonly number[]): boolean => {
  const most = place.kind === 'uss' || place.kind === 'command' ? 0xffff_ffff : 0xffff;
  return words.length === cells.length && words.every((word) => word >= 0 && word <= most);
};

/**
 * What a witness says of a parameter, as the words of this sheet's entry: the same words where both are read alike, else the same value in this
 * one's counts, or the choice of the same name. A sentence where it cannot be carried: never the words of another scale.
 */
export function carried(
  from: Witness,
  index: SheetIndex,
  number: string,
  known: KnownNumber,
): Result<readonly number[], string> {
  const [own, other, said] = [index.byNumber.get(number), from.index.byNumber.get(number), from.said.get(number)];
  if (!own) return failed('this sheet has no such entry');
  if (!other || said?.kind !== 'value') return failed(`${from.name} does not know it`);
  if (!fits(other, said.words)) return failed(`what ${from.name} has for it does not fit ${other.type}`);
  if (own.name !== other.name && (own.role === undefined || own.role !== other.role))
    return failed(`it is ${other.name} there and ${own.name} here`);
  const isBy = own.scale?.kind === 'by' || other.scale?.kind === 'by';
  if (!isBy && (own === other || formOf(index, own) === formOf(from.index, other))) return done(said.words);
  return byValue(from, other, said.words, index, own, known);
}

function byValue(
  from: Witness,
  other: PlacedParameter,
  words: readonly number[],
  index: SheetIndex,
  own: PlacedParameter,
  known: KnownNumber,
): Result<readonly number[], string> {
  const word = patternOfCells(other, words);
  if (word === null) return failed(`a value of ${other.type} cannot be carried into ${own.type}`);
  if (own.choices || other.choices) {
    const name = choiceOf(other, word)?.name;
    const choice = own.choices?.find((one) => one.name === name);
    return choice && name !== undefined
      ? done(wordsOfSaid(own, patternOfNumber(own.type, choice.value)))
      : failed(`${name ?? word} is no choice here`);
  }
  if (own.fields || other.fields) return failed('its fields are others here');
  if ((own.unit ?? '') !== (other.unit ?? ''))
    return failed(`it is in ${other.unit ?? 'counts'} there and in ${own.unit ?? 'counts'} here`);
  const value = valueIn(from.index.sheet, other, word, knownOf(from.index, from.said));
  return value
    ? wordsOfValue(index, own, value, known)
    : failed(`${meaningOf(from.index, other, word)} is no value that can be carried`);
}

/** A plan out of what a witness says, and what stays behind with its reason. */
export interface CarriedPlan {
  readonly plan: Plan;
  readonly left: readonly { readonly number: string; readonly why: string }[];
}

/** Carries the values with these numbers. What belongs to the size stays behind where the witness is another drive's. */
export function carryPlan(
  from: Witness,
  index: SheetIndex,
  numbers: Iterable<string>,
  known: KnownNumber,
  isOtherDrive = false,
): CarriedPlan {
  const plan = new Map<string, PlannedValue>();
  const left: { number: string; why: string }[] = [];
  for (const number of numbers) {
    const own = index.byNumber.get(number);
    const never = own ? whyNotPlanned(own) : '';
    const words = carried(from, index, number, known);
    const why =
      never !== ''
        ? never
        : own?.sizeBound && isOtherDrive
          ? 'it belongs to the drive’s size'
          : words.ok
            ? ''
            : words.error;
    if (why !== '' || !words.ok) left.push({ number, why });
    else plan.set(number, { words: words.value, reason: `from ${from.name}` });
  }
  return { plan, left };
}

/** `2 stay behind: 20.02, it belongs to the drive’s size; …`; empty where none does. */
export function leftText(left: CarriedPlan['left'], most = 3): string {
  if (left.length === 0) return '';
  const named = left.slice(0, most).map(({ number, why }) => `${number}, ${why}`);
  const more = left.length > most ? ` and ${left.length - most} more` : '';
  return `${left.length} stay${left.length === 1 ? 's' : ''} behind: ${named.join('; ')}${more}`;
}
