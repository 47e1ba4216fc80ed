import type { Scaled } from '../../core/scaling/scale';
import type { PlacedParameter } from '../../core/sheet/index-sheet';

/** Why a scaled value is not sent; empty where nothing is against it. */
export function limitTrouble({ raw, faults }: Scaled, { min, max }: PlacedParameter): string {
  if (faults[0]) return faults[0].text;
  return raw < BigInt(min) || raw > BigInt(max)
    ? `${raw} counts are outside the sheet’s limits, ${min} to ${max}: not sent.`
    : '';
}
