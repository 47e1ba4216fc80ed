import { onceFor } from '../once-for';
import { hexNumber } from '../bytes/hex';
import type { ScalingChain } from '../scaling/chain';
import { exactDecimal } from '../bytes/number';
import { decimalText, parseRational, type Rational } from '../scaling/rational';
import { toValue } from '../scaling/scale';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { Sheet } from '../sheet/sheet';
import { statusText } from './status';
import { dateText } from '../values/date';
import { numberOfPattern, wordsOfPattern } from '../values/pattern';
import { fieldsText, type NamedValue } from '../values/word-field';
import { bitsOfParameter, isDateType, isFloatType, isSignedType, wordsOfType, type DateType } from '../values/type';

type Scaled = Pick<PlacedParameter, 'scale' | 'unit' | 'type'>;

/** The raw number that another parameter holds; undefined where it is not known. */
export type KnownNumber = (number: string) => number | undefined;
const nothingKnown = (): undefined => undefined;

/** What is known of these, as data; what is not known is left out. */
export const numbersHeld = (numbers: readonly string[], known: KnownNumber): Readonly<Record<string, number>> =>
  Object.fromEntries(
    numbers.flatMap((number) => {
      const held = known(number);
      return held === undefined ? [] : [[number, held] as const];
    }),
  );

/** What one count is; null where the scale is no such number, or hangs on a parameter whose value is not known. */
function countOf(scale: NonNullable<Scaled['scale']>, known: KnownNumber): string | null {
  if (scale.kind === 'resolution') return scale.value;
  if (scale.kind === 'chain') return null;
  const by = known(scale.parameter);
  return scale.cases.find(({ value }) => value === by)?.one ?? null;
}

/** Numbers of the settings on which scales of other entries hang. */
export const scaleSettings = onceFor(({ parameters }: Pick<SheetIndex, 'parameters'>): readonly string[] => [
  ...new Set(parameters.flatMap(({ scale }) => (scale?.kind === 'by' ? [scale.parameter] : []))),
]);

/** The scaling chain of a parameter, or null where its raw number is read as it is. `known` gives the parameter that a scale hangs on. */
export function chainOf(
  sheet: Sheet,
  { scale, unit, type }: Scaled,
  known: KnownNumber = nothingKnown,
): ScalingChain | null {
  // What a float holds is in its unit already.
  if (!scale || isFloatType(type)) return null;
  const word = { bits: bitsOfParameter(type), signed: isSignedType(type) };
  if (scale.kind === 'chain') {
    const chain = sheet.scalings?.find(({ id }) => id === scale.id)?.chain;
    // A chain says 32 bits at most; where the entry has more of them, they count.
    return chain && word.bits > 32 ? { ...chain, word } : (chain ?? null);
  }
  const one = countOf(scale, known);
  if (one === null) return null;
  return {
    unit: unit ?? '',
    steps: [{ kind: 'resolution', value: one }],
    rounding: 'nearestHalfUp',
    word,
  };
}

/** What a pattern counts before its scale: of decimal digits and of single bytes the number that they are; null where it is none. */
function countIn({ type }: Pick<PlacedParameter, 'type'>, pattern: number): bigint | null {
  if (type !== 'bcd16' && type !== 'bcd32' && type !== 'int8' && type !== 'uint8') return BigInt(pattern);
  const number = numberOfPattern(type, pattern);
  return Number.isFinite(number) ? BigInt(number) : null;
}

/** A pattern read through its entry's scaling chain. */
export interface Scaling {
  readonly chain: ScalingChain;
  /** The counts, signed as the chain has them. */
  readonly raw: bigint;
  /** What they stand for in the chain's unit, exactly. */
  readonly value: Rational;
}

/** What an entry's pattern counts and stands for by its scale; null without a scale that is known, or where the pattern is no number of its type. */
export function scalingOf(
  sheet: Sheet,
  parameter: Scaled,
  pattern: number,
  known: KnownNumber = nothingKnown,
): Scaling | null {
  const chain = chainOf(sheet, parameter, known);
  const count = chain && countIn(parameter, pattern);
  const found = chain && count !== null ? toValue(chain, count) : null;
  return chain && found?.ok ? { chain, raw: found.value.raw, value: found.value.value } : null;
}

/** What a pattern stands for in the parameter's unit, exactly; null where it is no number. */
export function valueIn(
  sheet: Sheet,
  parameter: Scaled,
  pattern: number,
  known: KnownNumber = nothingKnown,
): Rational | null {
  if (chainOf(sheet, parameter, known)) return scalingOf(sheet, parameter, pattern, known)?.value ?? null;
  // Counts of an unknown size are no value.
  if (parameter.scale?.kind === 'by') return null;
  const number = numberOf(parameter, pattern);
  const read = Number.isFinite(number) ? parseRational(exactDecimal(number)) : null;
  return read?.ok ? read.value : null;
}

/** The word as the signed or plain number that the parameter holds. */
export const numberOf = ({ type }: Pick<PlacedParameter, 'type'>, word: number): number => numberOfPattern(type, word);

const dateOf = (type: DateType, pattern: number): string =>
  dateText(type, wordsOfPattern(pattern, wordsOfType(type), undefined));

/** The same as text, with a true minus sign. */
const numberText = (parameter: PlacedParameter, word: number): string => {
  const number = numberOf(parameter, word);
  return String(parameter.type === 'float32' ? Number(number.toPrecision(7)) : number).replace('-', '−');
};

/** The choice that a parameter holds by its word: of its number, or of the pattern itself. */
export const choiceOf = (
  { type, choices }: Pick<PlacedParameter, 'type' | 'choices'>,
  word: number,
): NamedValue | undefined => {
  const number = numberOfPattern(type, word);
  return choices?.find(({ value }) => value === number || value === word);
};

/** What a register's word means, without its name: `17.498 Hz`, `network`, `0x2A0D`. */
export function meaningOf(
  { sheet }: SheetIndex,
  parameter: PlacedParameter,
  word: number,
  known: KnownNumber = nothingKnown,
): string {
  if (parameter.role === 'status-word' || parameter.role === 'control-word') return hexNumber(word);
  const choice = choiceOf(parameter, word);
  if (choice) return choice.name;
  if (parameter.role === 'fault-code') return faultName(sheet, word);
  if (isDateType(parameter.type)) return dateOf(parameter.type, word);
  if (parameter.fields) return `${hexNumber(word)}: ${fieldsText(word, parameter.fields)}`;
  const scaled = scalingOf(sheet, parameter, word, known);
  if (scaled) return `${decimalText(scaled.value, 3, false)} ${scaled.chain.unit}`.trim();
  if (parameter.scale?.kind === 'by' && !chainOf(sheet, parameter, known))
    return `${numberText(parameter, word)} counts of a size that ${parameter.scale.parameter} sets`;
  return `${numberText(parameter, word)}${parameter.unit ? ` ${parameter.unit}` : ''}`;
}

const faultName = ({ faults = [] }: Sheet, code: number): string =>
  code === 0 ? 'no fault' : `fault ${code}${textOfFault(faults, code)}`;

const textOfFault = (faults: NonNullable<Sheet['faults']>, code: number): string => {
  const known = faults.find((entry) => entry.code === code);
  return known ? `, ${known.name}` : ', not in the sheet';
};

/** A register's word with everything that the sheet says of it: `3909 = 17.498 Hz`, `0x2A0D · in remote, running forward`. */
export function wordText(
  index: SheetIndex,
  parameter: PlacedParameter,
  word: number,
  known: KnownNumber = nothingKnown,
): string {
  const meaning = meaningOf(index, parameter, word, known);
  if (parameter.role === 'status-word' && index.words) return `${meaning} · ${statusText(index, word)}`;
  if (parameter.role === 'control-word') return `${meaning}${commandName(index, word)}`;
  if (isDateType(parameter.type)) return meaning;
  const number = numberText(parameter, word);
  // A number with its unit says the number already.
  // A choice may begin with a number of its own, such as 0 to 10 V.
  const isPlain = parameter.scale?.kind !== 'resolution' && parameter.scale?.kind !== 'chain' && !parameter.choices;
  const saysIt = meaning === number || (isPlain && meaning.startsWith(`${number} `));
  return saysIt ? meaning : `${number} = ${meaning}`;
}

function commandName({ commands }: SheetIndex, word: number): string {
  const known = commands.find((entry) => entry.word === word);
  return known ? ` · ${known.name}` : '';
}
