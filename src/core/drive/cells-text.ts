import { bytesToHex } from '../bytes/hex';
import { numberOf, wordText, type KnownNumber } from './describe';
import { patternOfCells } from './seen';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { patternOfWords } from '../values/pattern';
import { isWide, wideText } from '../values/wide';

/**
 * What several words hold, by the entry's type: a number of any width, a text, bytes. Exact: 64 bits are not put through a double.
 */
export function cellsText(
  index: SheetIndex,
  parameter: PlacedParameter,
  words: readonly number[],
  known: KnownNumber = () => undefined,
): string {
  const pattern = patternOfWords(words, parameter.order);
  if (pattern !== null && parameter.type !== 'text' && parameter.type !== 'bytes')
    return wordText(index, parameter, pattern, known);
  const { type, order, unit } = parameter;
  if (!isWide(type)) return bytesToHex(Uint8Array.from(words.flatMap((word) => [word >>> 8, word & 0xff])), ' ');
  const text = wideText({ type, order }, words);
  if (type === 'text') return `“${text}”`;
  return type === 'bytes' ? text : `${text.replace('-', '−')}${unit ? ` ${unit}` : ''}`;
}

/** The number that the words hold, before any scale; to judge by, since 64 bits are rounded to a double here. Null for texts and bytes. */
export function cellsNumber(parameter: PlacedParameter, words: readonly number[]): number | null {
  const { type, order } = parameter;
  if (type === 'text' || type === 'bytes') return null;
  if (isWide(type)) return Number(wideText({ type, order }, words));
  const pattern = patternOfCells(parameter, words);
  return pattern === null ? null : numberOf(parameter, pattern);
}
