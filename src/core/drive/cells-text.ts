import { bytesToHex } from '../bytes/hex';
import { wordText, type KnownNumber } from './describe';
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
