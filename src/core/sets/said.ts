import { cellsText, type KnownNumber } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { isFloatType } from '../values/type';
import { patternOfNumber, patternOfWords, wordsOfPattern } from '../values/pattern';

/** What somebody says of one parameter: the words of its cells as they stand on the wire, or why there are none. */
export type Said =
  | { readonly kind: 'value'; readonly words: readonly number[]; readonly atMs: number | null }
  | { readonly kind: 'refused'; readonly why: string }
  | { readonly kind: 'silent' };

/** What a witness says, by the parameters' numbers. */
export type SaidOf = ReadonlyMap<string, Said>;

/** The words of a value as one pattern, the highest byte first; null where it has more than 32 bits. */
export const patternOfSaid = (
  { cells, order }: Pick<PlacedParameter, 'cells' | 'order'>,
  words: readonly number[],
): number | null =>
  // A parameter of USS or a command is one number, however wide.
  cells.length === 1 && order === undefined ? (words[0] ?? null) : patternOfWords(words, order);

/** The words on the wire of a pattern. */
export const wordsOfSaid = (
  { cells, order }: Pick<PlacedParameter, 'cells' | 'order'>,
  pattern: number,
): readonly number[] =>
  cells.length === 1 && order === undefined ? [pattern] : wordsOfPattern(pattern, cells.length, order);

/** The same from a raw number, such as a default; null for a text or a value of 64 bits, which no number holds. */
export function wordsOfRaw(parameter: PlacedParameter, raw: number): readonly number[] | null {
  const { type, cells } = parameter;
  if (type === 'text' || type === 'bytes' || cells.length > 2) return null;
  if (!isFloatType(type) && !Number.isInteger(raw)) return null;
  return wordsOfSaid(parameter, patternOfNumber(type, raw));
}

/** The raw numbers that a witness knows, for scales that hang on another parameter. */
export const knownOf =
  (index: SheetIndex, said: SaidOf): KnownNumber =>
  (number) => {
    const parameter = index.byNumber.get(number);
    const own = said.get(number);
    return parameter && own?.kind === 'value' ? (patternOfSaid(parameter, own.words) ?? undefined) : undefined;
  };

/** A value in words, as the sheet of its witness reads it; a secret is never shown. */
export function saidText(index: SheetIndex, parameter: PlacedParameter, said: Said | undefined, known: SaidOf): string {
  if (!said) return '';
  if (said.kind === 'refused') return `refused: ${said.why}`;
  if (said.kind === 'silent') return 'no answer';
  if (parameter.secret) return '••••';
  return cellsText(index, parameter, said.words, knownOf(index, known));
}
