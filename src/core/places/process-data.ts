import { patternIn } from '../drive/seen';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import { cellOf, type Cell, type PlaceOf } from '../sheet/place';
import { wordsOfPattern } from '../values/pattern';

export type ProcessWay = 'out' | 'in';

/** A word of the process data as a cell. */
export const processCell = (direction: ProcessWay, word: number): Cell => cellOf({ kind: 'process', direction, word });

/** Where a value lies in the process data of USS; undefined where it is not in them that way. */
export const processPlace = (
  { place, others }: PlacedParameter,
  direction: ProcessWay,
): PlaceOf<'process'> | undefined =>
  [place, ...others].find((way): way is PlaceOf<'process'> => way.kind === 'process' && way.direction === direction);

/** The number that the words of the process data have for a value; undefined where they do not carry all of it. */
export function inProcessData(
  parameter: PlacedParameter | undefined,
  direction: ProcessWay,
  pzd: readonly number[],
): number | undefined {
  const way = parameter && processPlace(parameter, direction);
  if (!way) return undefined;
  const first = way.word;
  const at = new Map(parameter.cells.map((_, i) => [processCell(direction, first + i), pzd[first + i]] as const));
  return patternIn({ cells: [...at.keys()], order: parameter.order }, (cell) => at.get(cell));
}

/**
 * The words of the process data to the drive with what is known of its values, by role; the rest is 0. `pzd` are the words to begin with.
 */
export function withProcessData(
  index: SheetIndex,
  pzd: readonly number[],
  known: (role: ParameterRole) => number | undefined,
): number[] {
  const words = [...pzd];
  for (const parameter of index.parameters) {
    const way = processPlace(parameter, 'out');
    const pattern = way && parameter.role && known(parameter.role);
    if (!way || pattern === undefined) continue;
    for (const [i, word] of wordsOfPattern(pattern, parameter.cells.length, parameter.order).entries())
      if (way.word + i < words.length) words[way.word + i] = word;
  }
  return words;
}
