import { patternOfWords } from '../values/pattern';
import type { PlacedParameter } from '../sheet/index-sheet';
import type { Cell } from '../sheet/place';

/** What a cell was last seen to hold, and when (line clock, microseconds). */
export interface SeenWord {
  readonly word: number;
  readonly atUs: number;
}

/** What a parameter's cells hold as one pattern, the highest byte first; null where it has more than 32 bits. */
export const patternOfCells = (
  { cells, order }: Pick<PlacedParameter, 'cells' | 'order'>,
  words: readonly number[],
): number | null =>
  // A parameter of USS or a command is one number, however wide.
  cells.length === 1 && order === undefined ? (words[0] ?? null) : patternOfWords(words, order);

/**
 * The value of a parameter from the cells that hold it, as one pattern, as old as its oldest word; undefined where one of them was not seen, or the
 * value has more than 32 bits.
 */
export function seenIn(
  { cells, order }: Pick<PlacedParameter, 'cells' | 'order'>,
  seen: (cell: Cell) => SeenWord | undefined,
): SeenWord | undefined {
  const [only] = cells;
  if (only === undefined) return undefined;
  // One cell says all that is known of it, also what a view keeps beside the word.
  if (cells.length === 1 && order === undefined) return seen(only);
  const found = cells.map(seen);
  if (!found.every((one) => one !== undefined)) return undefined;
  const word = patternOfCells(
    { cells, order },
    found.map((one) => one.word),
  );
  return word === null ? undefined : { word, atUs: Math.min(...found.map((one) => one.atUs)) };
}

/** The same from bare numbers. */
export const patternIn = (
  parameter: Pick<PlacedParameter, 'cells' | 'order'>,
  word: (cell: Cell) => number | undefined,
): number | undefined =>
  seenIn(parameter, (cell) => {
    const found = word(cell);
    return found === undefined ? undefined : { word: found, atUs: 0 };
  })?.word;
