import { useMemo } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { knownIn, liveOf } from '../../bench/state/known-state';
import { axisOf, axisPlace, type Axis } from '../../core/motion/axis';
import type { AxisKnown } from '../../core/motion/axis-pace';
import { homeShows } from '../../core/motion/axis-settings';
import { fractionText } from '../../core/scaling/rational';
import { numbersHeld, valueIn, type KnownNumber } from '../../core/drive/describe';
import { storedEntries, storedTableOf } from '../../core/motion/stored-moves';
import { roleActive } from '../../core/words/read';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { AxisStart } from '../../core/trial/expect-position';

/** Where it stands is believed for so long. */
const FRESH_US = 10_000_000;

/** An axis, and what was read of it. */
export interface SeenAxis {
  readonly axis: Axis;
  readonly known: AxisKnown;
  /** Raw numbers, by the numbers of entries. */
  readonly held: KnownNumber;
  /** The drive says that it does not know its home: places counted from zero are none. */
  readonly isLost: boolean;
}

/** The axis of the drive that is looked at, and what was read of it; null where its sheet describes none. */
export function useAxis(index: SheetIndex | null): SeenAxis | null {
  const { view } = useCurrent();
  const atUs = index ? liveOf(index, view, 'actual-position')?.atUs : undefined;
  const isFresh = useBenchState((state) => atUs !== undefined && state.nowUs - atUs <= FRESH_US);
  const axis = useMemo(() => index && axisOf(index), [index]);
  if (!index || !axis) return null;
  const status = liveOf(index, view, 'status-word')?.word;
  return {
    axis,
    isLost:
      status !== undefined && index.words !== undefined && roleActive(index.words.status, 'homed', status) === false,
    held: knownIn(index, view.values),
    known: (role) => {
      if (role === 'actual-position' && !isFresh) return null;
      const place = axisPlace(index, role);
      const live = place?.role && liveOf(index, view, place.role);
      return place && live ? valueIn(index.sheet, place, live.word) : null;
    },
  };
}

/** What is known of the axis now, to be kept with a run. */
export function axisStart(axis: Axis, known: AxisKnown, held: KnownNumber): AxisStart {
  const { index } = axis;
  const text = (value: ReturnType<AxisKnown>): string | null => value && fractionText(value);
  const offset = known('home-offset');
  const acceleration = known('move-acceleration');
  return {
    position: text(known('actual-position')),
    speed: text(known('move-speed')),
    acceleration: text(acceleration),
    deceleration: text(axisPlace(index, 'move-deceleration') ? known('move-deceleration') : acceleration),
    jerk: text(known('move-jerk')),
    least: text(known('position-least')),
    most: text(known('position-most')),
    atHome: text(offset && homeShows(axis, offset)),
    ...(index.byRole.has('round-way') ? { roundWay: text(known('round-way')) } : {}),
    ...(storedTableOf(index) ? { stored: numbersHeld(storedNumbers(index), held) } : {}),
  };
}

/** The entries of the drive's own table of moves, by their numbers. */
export const storedNumbers = (index: SheetIndex): readonly string[] => {
  const table = storedTableOf(index);
  return table ? storedEntries(table).map(({ number }) => number) : [];
};
