import { chainOf, valueIn, type KnownNumber } from '../drive/describe';
import { done, failed, type Result } from '../result';
import { round } from '../scaling/rounding';
import { divide, ratio, subtract, type Rational } from '../scaling/rational';
import type { PlacedParameter } from '../sheet/index-sheet';
import type { Sheet } from '../sheet/sheet';
import { isFloatType } from '../values/type';

/**
 * One count of a place in its unit; null where it has none. Where its counting begins, an offset of its scaling, is no part of it: a way is not counted from
 * there. `known` has the settings on which a scale hangs.
 */
export function oneCount(sheet: Sheet, place: PlacedParameter, known?: KnownNumber): Rational | null {
  // What a float holds is in its unit already.
  if (isFloatType(place.type)) return ratio(1n);
  const [two, one] = [valueIn(sheet, place, 2, known), valueIn(sheet, place, 1, known)];
  return two && one ? subtract(two, one) : null;
}

/** What a place shows where it counts 0; null where it has no numbers. */
export const atNoCounts = (sheet: Sheet, place: PlacedParameter): Rational | null => valueIn(sheet, place, 0);

/** A way as a place counts it, by the rounding of its scaling; a sentence where it is no way of that place. */
export function countsOfWay(
  sheet: Sheet,
  place: PlacedParameter,
  way: Rational,
  known?: KnownNumber,
): Result<bigint, string> {
  const one = oneCount(sheet, place, known);
  if (!one || one.num === 0n) return failed(`the sheet does not say what a count of ${place.name} is`);
  const counts = divide(way, one);
  const chain = chainOf(sheet, place, known);
  if (!chain && counts.den !== 1n) return failed('a whole number of counts is expected: the sheet gives no scale');
  return done(round(counts, chain?.rounding ?? 'nearestHalfUp'));
}
