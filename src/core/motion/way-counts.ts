import { chainOf, valueIn } from '../drive/describe';
import { done, failed, type Result } from '../result';
import { round } from '../scaling/rounding';
import { divide, subtract, type Rational } from '../scaling/rational';
import type { PlacedParameter } from '../sheet/index-sheet';
import type { Sheet } from '../sheet/sheet';

/**
 * One count of a place in its unit; null where it has none. Where its counting begins, an offset of its scaling, is no part of it: a way is not counted from
 * there.
 */
export function oneCount(sheet: Sheet, place: PlacedParameter): Rational | null {
  const [two, one] = [valueIn(sheet, place, 2), valueIn(sheet, place, 1)];
  return two && one ? subtract(two, one) : null;
}

/** What a place shows where it counts 0; null where it has no numbers. */
export const atNoCounts = (sheet: Sheet, place: PlacedParameter): Rational | null => valueIn(sheet, place, 0);

/** A way as a place counts it, by the rounding of its scaling; a sentence where it is no way of that place. */
export function countsOfWay(sheet: Sheet, place: PlacedParameter, way: Rational): Result<bigint, string> {
  const one = oneCount(sheet, place);
  if (!one || one.num === 0n) return failed(`the sheet does not say what a count of ${place.name} is`);
  const counts = divide(way, one);
  const chain = chainOf(sheet, place);
  if (!chain && counts.den !== 1n) return failed('a whole number of counts is expected: the sheet gives no scale');
  return done(round(counts, chain?.rounding ?? 'nearestHalfUp'));
}
