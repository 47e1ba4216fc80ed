import { speedScaleOf, type SideUnit, type SpeedScale } from '../scaling/speed-scale';
import { chainOf, type KnownNumber } from './describe';
import type { SheetIndex } from '../sheet/index-sheet';

/** Poles where neither drive nor sheet says any. */
const USUAL_POLES = 4;

/**
 * The scales of the sheet's speed reference; null where it has none, none with a full scale, or one that an entry sets whose value is not `known`.
 * `poles` as the drive has them, where that is known.
 */
export function referenceScale(
  index: SheetIndex,
  poles?: number,
  machine: SideUnit | null = null,
  known?: KnownNumber,
): SpeedScale | null {
  const place = index.byRole.get('speed-reference');
  const chain = place ? chainOf(index.sheet, place, known) : null;
  const said = poles ?? index.byRole.get('motor-poles')?.default ?? USUAL_POLES;
  return place && chain ? speedScaleOf(chain, said, BigInt(place.max), machine) : null;
}
