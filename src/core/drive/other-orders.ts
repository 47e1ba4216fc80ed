import { ordersOf, sizeOfNumber, type NumberType } from '../bytes/number';
import { asNumber } from '../as-number';
import { parseQuantity } from '../scaling/quantity';
import { cellsMeasure, cellsNumber, cellsText } from './cells-text';
import { chainOf } from './describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { isNumberType } from '../values/type';

/** What an entry's words say in one order of bytes. */
export interface OrderReading {
  readonly order: string;
  readonly text: string;
  /** It is the order that the entry has now. */
  readonly isNow: boolean;
  /** It is what the display shows, as far as the display shows places; null where nothing is known of a display. */
  readonly agrees: boolean | null;
  /** A quantity that a drive could hold: no float far out, no number near the end of 32 bits. */
  readonly isPlausible: boolean;
}

const PLAUSIBLE = { least: 1e-6, most: 1e9 };

/** The entry's words in every order that its size has: those that agree with the display first, then those that may be. Empty for one register and for texts. */
export function otherOrders(
  index: SheetIndex,
  parameter: PlacedParameter,
  words: readonly number[],
  shows: string,
): readonly OrderReading[] {
  const { type } = parameter;
  if (!isNumberType(type) || words.length < 2 || parameter.cells.length !== words.length) return [];
  // Decimal digits lie in as many bytes as the number of the same width.
  const like = (type === 'bcd32' ? 'uint32' : type) as NumberType;
  if (sizeOfNumber(like) !== 2 * words.length) return [];
  const display = displayOf(shows, chainOf(index.sheet, parameter)?.unit ?? parameter.unit ?? '');
  const readings = ordersOf(like).map((order, i): OrderReading => {
    const own = { ...parameter, order: (i === 0 ? undefined : order) as PlacedParameter['order'] };
    const value = cellsMeasure(index, own, words);
    return {
      order,
      text: cellsText(index, own, words),
      isNow: order === (parameter.order ?? ordersOf(like)[0]),
      agrees: display && (value === null ? false : Math.abs(value - display.value) <= display.half),
      isPlausible: isPlausible(own, words),
    };
  });
  const rank = ({ agrees, isPlausible: may, isNow }: OrderReading): number =>
    (agrees === true ? 4 : 0) + (may ? 2 : 0) + (isNow ? 1 : 0);
  return readings.sort((a, b) => rank(b) - rank(a));
}

/** A display's number with half of its last place; null where nothing, or no number, is typed. */
function displayOf(shows: string, unit: string): { readonly value: number; readonly half: number } | null {
  const read = parseQuantity(shows, unit);
  if (shows.trim() === '' || !read.ok) return null;
  const places = /[.,](\d+)/.exec(shows)?.[1]?.length ?? 0;
  // A hair more than half: a display may round half up or down.
  return { value: asNumber(read.value), half: 0.5000001 * 10 ** -places };
}

function isPlausible(parameter: PlacedParameter, words: readonly number[]): boolean {
  const size = Math.abs(cellsNumber(parameter, words) ?? NaN);
  return size === 0 || (size >= PLAUSIBLE.least && size <= PLAUSIBLE.most);
}
