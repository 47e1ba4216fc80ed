import { cellsText } from '../drive/cells-text';
import type { KnownNumber } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { patternOfCells } from '../drive/seen';
import { isFloatType, isNumberType } from '../values/type';
import { isWide, wideWords } from '../values/wide';
import { patternOfNumber, wordsOfPattern } from '../values/pattern';

/** What somebody says of one parameter: the words of its cells as they stand on the wire, or why there are none. */
export type Said =
  | { readonly kind: 'value'; readonly words: readonly number[]; readonly atMs: number | null }
  | { readonly kind: 'refused'; readonly why: string }
  | { readonly kind: 'silent' };

/** What a witness says, by the parameters' numbers. */
export type SaidOf = ReadonlyMap<string, Said>;

/** The words on the wire of a pattern. */
export const wordsOfSaid = (
  { cells, order }: Pick<PlacedParameter, 'cells' | 'order'>,
  pattern: number,
): readonly number[] =>
  cells.length === 1 && order === undefined ? [pattern] : wordsOfPattern(pattern, cells.length, order);

/** The same from a raw number, such as a default; null for a text, and for a number that the type does not hold. */
export function wordsOfRaw(parameter: PlacedParameter, raw: number): readonly number[] | null {
  const { type, order, cells } = parameter;
  if (!isNumberType(type) && isWide(type)) return null;
  if (isWide(type)) {
    const words = wideWords({ type, order, words: cells.length }, `${raw}`);
    return words.ok ? words.value : null;
  }
  if (!isFloatType(type) && !Number.isInteger(raw)) return null;
  return wordsOfSaid(parameter, patternOfNumber(type, raw));
}

/** The raw numbers that a witness knows, for scales that hang on another parameter. */
export const knownOf =
  (index: SheetIndex, said: SaidOf): KnownNumber =>
  (number) => {
    const parameter = index.byNumber.get(number);
    const own = said.get(number);
    return parameter && own?.kind === 'value' ? (patternOfCells(parameter, own.words) ?? undefined) : undefined;
  };

/** A value in words, as the sheet of its witness reads it; a secret is never shown. */
export function saidText(index: SheetIndex, parameter: PlacedParameter, said: Said | undefined, known: SaidOf): string {
  if (!said) return '';
  if (said.kind === 'refused') return `refused: ${said.why}`;
  if (said.kind === 'silent') return 'no answer';
  if (parameter.secret) return '••••';
  return cellsText(index, parameter, said.words, knownOf(index, known));
}
