import type { Rational } from '../scaling/rational';
import type { ParameterRole } from '../sheet/parameter-section';
import { axisPlace, type Axis } from './axis';

/** What is known of the drive, in the unit that its sheet gives each value; null where it was not read. */
export type AxisKnown = (role: ParameterRole) => Rational | null;

/** Where a drive keeps how its moves are made. */
export const PACE_ROLES = {
  speed: 'move-speed',
  acceleration: 'move-acceleration',
  deceleration: 'move-deceleration',
  jerk: 'move-jerk',
} as const satisfies Readonly<Record<string, ParameterRole>>;
export type PaceField = keyof typeof PACE_ROLES;
export const PACE_FIELDS = Object.keys(PACE_ROLES) as readonly PaceField[];

/** The time behind the load unit: mm/s, mm/s², mm/s³. */
const PER: Readonly<Record<PaceField, string>> = { speed: 's', acceleration: 's²', deceleration: 's²', jerk: 's³' };

/** The unit in which a move's pace is said. */
export const paceUnit = ({ unit }: Axis, field: PaceField): string => `${unit}/${PER[field]}`;

/** How the moves of an axis are made, in load units and seconds; without `jerk` its acceleration changes at once. */
export interface AxisPace {
  readonly speed: Rational;
  readonly acceleration: Rational;
  readonly deceleration: Rational;
  readonly jerk?: Rational | undefined;
}

/** A drive that keeps 0 as its jerk has no limit of it. */
export const jerkOf = (value: Rational | null): Rational | undefined => (value && value.num !== 0n ? value : undefined);

/** What the drive keeps of its pace; null while something of it was not read. A drive without a deceleration brakes as it accelerates. */
export function axisPace(axis: Axis, known: AxisKnown): AxisPace | null {
  const has = (field: PaceField): boolean => axisPlace(axis.index, PACE_ROLES[field]) !== undefined;
  const [speed, acceleration, jerk] = [known('move-speed'), known('move-acceleration'), known('move-jerk')];
  const deceleration = has('deceleration') ? known('move-deceleration') : acceleration;
  if (!speed || !acceleration || !deceleration || (has('jerk') && !jerk)) return null;
  return { speed, acceleration, deceleration, jerk: jerkOf(jerk) };
}
