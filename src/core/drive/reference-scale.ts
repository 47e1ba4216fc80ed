import { speedScaleOf, type SideUnit, type SpeedScale } from '../scaling/speed-scale';
import { chainOf } from './describe';
import type { SheetIndex } from '../sheet/index-sheet';

/** Poles where neither drive nor sheet says any. */
const USUAL_POLES = 4;

/** The scales of the sheet's speed reference; null where it has none, or none with a full scale. `poles` as the drive has them, where that is known. */
export function referenceScale(index: SheetIndex, poles?: number, machine: SideUnit | null = null): SpeedScale | null {
  const place = index.byRole.get('speed-reference');
  const chain = place ? chainOf(index.sheet, place) : null;
  const known = poles ?? index.byRole.get('motor-poles')?.default ?? USUAL_POLES;
  return place && chain ? speedScaleOf(chain, known, BigInt(place.max), machine) : null;
}
