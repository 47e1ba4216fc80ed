import type { Rational } from '../scaling/rational';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import { patternOfNumber } from '../values/pattern';
import { chainOf, valueIn } from './describe';

/** Speeds that are held against the speed reference; counted as it is where their own entries say no scale. */
const BESIDE_REFERENCE: ReadonlySet<ParameterRole> = new Set([
  'actual-speed',
  'minimum-speed',
  'maximum-speed',
  'skip-from',
  'skip-to',
]);

/** The pattern in the place of a role: `seen`, else as it leaves the factory by the sheet; undefined where neither is known. */
export function rolePattern(index: SheetIndex, role: ParameterRole, seen: number | undefined): number | undefined {
  const place = index.byRole.get(role);
  return seen ?? (place?.default === undefined ? undefined : patternOfNumber(place.type, place.default));
}

/**
 * What a pattern in the place of a role stands for, exactly, in the unit of its entry; null where it is no number, or the sheet has no such role. A
 * speed is in the unit of the speed reference, and null where its entry has another one.
 */
export function roleValue(index: SheetIndex, role: ParameterRole, pattern: number | undefined): Rational | null {
  const place = index.byRole.get(role);
  if (!place || pattern === undefined) return null;
  const reference = BESIDE_REFERENCE.has(role) ? index.byRole.get('speed-reference') : undefined;
  if (!reference) return valueIn(index.sheet, place, pattern);
  const own = place.scale ? place : { ...place, scale: reference.scale, unit: reference.unit };
  return unitOf(index, own) === unitOf(index, reference) ? valueIn(index.sheet, own, pattern) : null;
}

const unitOf = ({ sheet }: SheetIndex, parameter: PlacedParameter): string =>
  chainOf(sheet, parameter)?.unit ?? parameter.unit ?? '';
