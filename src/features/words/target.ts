import { liveOf } from '../../bench/state/known-state';
import type { StationView } from '../../bench/state/live-values';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { ParameterRole } from '../../core/sheet/parameter-section';
import { numberOf } from '../../core/drive/describe';

/** A whole number of counts, as two words. */
const COUNTS = /^\s*[-\u2212]?\d{1,10}\s*$/;

/** The target of a move as it is typed, and the one that the drive holds. */
export interface MoveTarget {
  /** Null where nothing, or no number that fits, is typed. */
  readonly typed: number | null;
  readonly trouble: string;
  readonly held: number | null;
  /** Something is typed that the drive does not hold: a start now would go elsewhere. */
  readonly differs: boolean;
}

export function targetOf(index: SheetIndex, view: StationView, text: string): MoveTarget {
  const place = index.byRole.get('target-position');
  const count = COUNTS.test(text) ? parseInt(text.trim().replace('\u2212', '-'), 10) : null;
  const fits = count !== null && place !== undefined && count >= place.min && count <= place.max;
  const typed = fits ? count : null;
  const held = countsOf(index, view, 'target-position');
  return {
    typed,
    trouble: text.trim() !== '' && !fits ? `expected a whole number from ${place?.min ?? 0} to ${place?.max ?? 0}` : '',
    held,
    differs: text.trim() !== '' && (typed === null || typed !== held),
  };
}

/** A position in counts; null where it is not known. */
export function countsOf(index: SheetIndex, view: StationView, role: ParameterRole): number | null {
  const [place, live] = [index.byRole.get(role), liveOf(index, view, role)];
  return place && live ? numberOf(place, live.word) : null;
}
