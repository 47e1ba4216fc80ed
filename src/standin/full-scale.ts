import type { PlacedParameter, SheetIndex } from '../core/sheet/index-sheet';

/** What the wire calls full scale, in the unit of the reference (Hz or rpm) and in counts. */
export interface FullScale {
  readonly value: number;
  readonly counts: number;
}

/** The full scale of a stand-in’s speed reference, as its sheet says. */
export function fullScaleOf(index: SheetIndex): FullScale {
  const place = index.byRole.get('speed-reference');
  const scale = place?.scale;
  const { scalings = [] } = index.sheet;
  const chain = scale?.kind === 'chain' ? scalings.find(({ id }) => id === scale.id)?.chain : undefined;
  const step = chain?.steps.find((candidate) => candidate.kind === 'full-scale');
  if (step) return { value: parseFloat(step.value), counts: parseFloat(step.raw) };
  // Without a full scale the highest reference stands for it.
  if (place && place.max > 0 && place.max < Number.MAX_VALUE)
    return { value: place.max * stepOf(place), counts: place.max };
  throw new RangeError(`sheet ${index.sheet.slug} gives its speed reference no full scale, so no shaft can turn by it`);
}

/** What one count of a parameter is worth in its unit, as the sheet says it. */
export const stepOf = (parameter: PlacedParameter | undefined): number =>
  parameter?.scale?.kind === 'resolution' ? parseFloat(parameter.scale.value) : 1;
