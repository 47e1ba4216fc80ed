import { liveOf } from '../../bench/state/known-state';
import type { StationView } from '../../bench/state/live-values';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { ParameterRole } from '../../core/sheet/parameter-section';
import { joinHalves, splitHalves } from '../../core/words/halves';

/** A whole number of counts, as two words. */
const COUNTS = /^\s*[-\u2212]?\d{1,10}\s*$/;

/** The target of a move as it is typed, and the one that the drive holds. */
export interface MoveTarget {
  /** Null where nothing, or no number of 32 bits, is typed. */
  readonly typed: number | null;
  readonly halves: readonly [number, number] | null;
  readonly trouble: string;
  readonly held: number | null;
  /** Something is typed that the drive does not hold: a start now would go elsewhere. */
  readonly differs: boolean;
}

export function targetOf(index: SheetIndex, view: StationView, text: string): MoveTarget {
  const typed = COUNTS.test(text) ? parseInt(text.trim().replace('\u2212', '-'), 10) : null;
  const halves = typed === null ? null : splitHalves(typed);
  const held = wholeOf(index, view, 'target-high', 'target-low');
  return {
    typed: halves ? typed : null,
    halves,
    trouble: text.trim() !== '' && !halves ? 'expected a whole number of 32 bits' : '',
    held,
    differs: text.trim() !== '' && (halves === null || typed !== held),
  };
}

/** A number of 32 bits in two places; null where one of them is not known. */
export function wholeOf(index: SheetIndex, view: StationView, high: ParameterRole, low: ParameterRole): number | null {
  const [h, l] = [liveOf(index, view, high)?.word, liveOf(index, view, low)?.word];
  return h === undefined || l === undefined ? null : joinHalves(h, l);
}
