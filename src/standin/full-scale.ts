import type { SheetIndex } from '../core/sheet/index-sheet';

/** What the wire calls full scale, in the unit of the reference (Hz or rpm) and in counts. */
export interface FullScale {
  readonly value: number;
  readonly counts: number;
}

export function fullScaleOf(index: SheetIndex): FullScale {
  const scale = index.byRole.get('speed-reference')?.scale;
  const { scalings = [] } = index.sheet;
  const chain = scale?.kind === 'chain' ? scalings.find(({ id }) => id === scale.id)?.chain : undefined;
  const step = chain?.steps.find((candidate) => candidate.kind === 'full-scale');
  if (!step)
    throw new RangeError(
      `sheet ${index.sheet.slug} gives its speed reference no full scale, so no shaft can turn by it`,
    );
  return { value: parseFloat(step.value), counts: parseFloat(step.raw) };
}
