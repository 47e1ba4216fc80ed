import { bytesToHex } from '../bytes/hex';
import { asNumber } from '../as-number';
import { decimalText, parseRational, type Rational } from '../scaling/rational';
import { toValue } from '../scaling/scale';
import { chainOf, numberOf, valueIn, wordText, type KnownNumber } from './describe';
import { patternOfCells } from './seen';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { isNumberType } from '../values/type';
import { isWide, wideText, type WideType } from '../values/wide';

/**
 * What several words hold, by the entry's type: a number of any width, a text, bytes, a date. Exact: 64 bits are not put through a double.
 */
export function cellsText(
  index: SheetIndex,
  parameter: PlacedParameter,
  words: readonly number[],
  known?: KnownNumber,
): string {
  const { type } = parameter;
  if (isWide(type)) return wideCellsText(index, parameter, type, words, known);
  const pattern = patternOfCells(parameter, words);
  return pattern === null
    ? bytesToHex(Uint8Array.from(words.flatMap((word) => [word >>> 8, word & 0xff])), ' ')
    : wordText(index, parameter, pattern, known);
}

function wideCellsText(
  index: SheetIndex,
  parameter: PlacedParameter,
  type: WideType,
  words: readonly number[],
  known?: KnownNumber,
): string {
  const { order, unit, scale, choices } = parameter;
  const text = wideText({ type, order }, words);
  if (type === 'text') return `“${text}”`;
  if (!isNumberType(type)) return text;
  const raw = text.replace('-', '−');
  const choice = choices?.find(({ value }) => `${value}` === text);
  if (choice) return `${raw} = ${choice.name}`;
  const chain = chainOf(index.sheet, parameter, known);
  const value = chain && cellsValue(index, parameter, words, known);
  if (chain && value) return `${raw} = ${decimalText(value, 3, false)} ${chain.unit}`.trim();
  if (scale?.kind === 'by') return `${raw} counts of a size that ${scale.parameter} sets`;
  return `${raw}${unit ? ` ${unit}` : ''}`;
}

/** What the words stand for in the entry's unit, exactly, however wide; null where it is no number, or hangs on a value that is not known. */
export function cellsValue(
  index: SheetIndex,
  parameter: PlacedParameter,
  words: readonly number[],
  known?: KnownNumber,
): Rational | null {
  const { type, order, scale } = parameter;
  if (!isNumberType(type)) return null;
  if (!isWide(type)) {
    const pattern = patternOfCells(parameter, words);
    return pattern === null ? null : valueIn(index.sheet, parameter, pattern, known);
  }
  const raw = parseRational(wideText({ type, order }, words));
  const chain = chainOf(index.sheet, parameter, known);
  if (!raw.ok || (!chain && scale?.kind === 'by')) return null;
  const value = chain && toValue(chain, raw.value.num);
  return !value ? raw.value : value.ok ? value.value.value : null;
}

/** The number that the words hold, before any scale; to judge by, since 64 bits are rounded to a double here. Null for texts, bytes and dates. */
export function cellsNumber(parameter: PlacedParameter, words: readonly number[]): number | null {
  const { type, order } = parameter;
  if (!isNumberType(type)) return null;
  if (isWide(type)) return Number(wideText({ type, order }, words));
  const pattern = patternOfCells(parameter, words);
  return pattern === null ? null : numberOf(parameter, pattern);
}

/** The value in the entry's unit as the nearest double, for pictures and comparisons with what was measured; null as `cellsValue` has it. */
export function cellsMeasure(index: SheetIndex, parameter: PlacedParameter, words: readonly number[]): number | null {
  const value = cellsValue(index, parameter, words);
  return value && asNumber(value);
}
