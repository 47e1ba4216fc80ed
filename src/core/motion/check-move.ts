import { done, failed, type Result } from '../result';
import { parseQuantity, unitFactor } from '../scaling/quantity';
import {
  add,
  compare,
  decimalText,
  divide,
  magnitude,
  multiply,
  parseRational,
  ratio,
  subtract,
  type Rational,
} from '../scaling/rational';
import { toRaw } from '../scaling/scale';
import { chainOf } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { rangeText } from '../drive/limits';
import { axisPlace, limitsOf, withoutTurns, type Axis } from './axis';
import { jerkOf, PACE_ROLES, paceUnit, type AxisKnown, type AxisPace, type PaceField } from './axis-pace';
import { planMove, type MovePlan } from './move-plan';
import { countsOfWay } from './way-counts';
import { roundWayOf, wayRound, whyOtherWay, withinTurn } from './round';

/** A move as people say it; what is left empty of its pace is the drive's own. */
export interface MoveWish extends Readonly<Record<PaceField, string>> {
  readonly to: string;
  /** By so much from where it stands, instead of to there. */
  readonly relative: boolean;
}

/** The drive’s own pace. */
export const OWN_PACE: Readonly<Record<PaceField, string>> = {
  speed: '',
  acceleration: '',
  deceleration: '',
  jerk: '',
};

/** Why a move is not made; `field` is where it was said. */
export interface MoveFault {
  readonly field: 'to' | PaceField;
  readonly text: string;
}

/** A move worked out before it is fired, in load units and seconds. */
export interface CheckedMove {
  /** Where it begins; null while the position was not read. */
  readonly start: Rational | null;
  readonly end: Rational | null;
  readonly distance: Rational | null;
  /** Turns of the motor, without sign; null where the sheet knows no turn. */
  readonly turns: Rational | null;
  /** What is written to the drive, and where: a way only where it has a place for one, else the target. Null while that is not known. */
  readonly written: { readonly place: PlacedParameter; readonly counts: bigint } | null;
  /** Null where the drive's speeds are not known in load units. */
  readonly plan: MovePlan | null;
  readonly faults: readonly MoveFault[];
  /** What may be meant otherwise, or is not known; it does not keep the move from being made. */
  readonly doubts: readonly string[];
}

const fault = (field: MoveFault['field'], text: string): MoveFault => ({ field, text });

/** Works a move out: start, end, counts, turns, shape and time, what the sheet, the drive's limits or the machine's travel have against it. */
export function checkMove(axis: Axis, wish: MoveWish, known: AxisKnown): CheckedMove {
  const faults: MoveFault[] = [];
  const doubts: string[] = [];
  const start = known('actual-position');
  const said = lengthOf(axis, wish.to);
  if (!said.ok) faults.push(fault('to', said.error));
  const way = said.ok ? said.value : null;
  const { end, distance } = courseOf(axis, wish, start, way, known);
  const distancePlace = wish.relative && axis.index.sheet.dialect ? axis.index.byRole.get('move-distance') : undefined;
  const written = way && writtenAs(axis, wish, { start, way, end: end ?? way }, distancePlace);
  if (written && !written.ok) faults.push(fault('to', written.error));
  if (start === null) doubts.push('where it stands was not read: start, travel and direction are not known');
  else if (way && distance?.num === 0n) doubts.push('it goes nowhere: it stands there already');
  if (axis.round && start && !wish.relative && !distance)
    doubts.push('by which way it goes round was not read: travel and direction are not known');
  if (axis.round && way && end && !wish.relative && compare(way, end) !== 0)
    doubts.push(`${show(way)} ${axis.unit} is ${show(end)} ${axis.unit} of another turn: it goes there`);
  const far = end && way ? whyOut(axis, wish, start, { way, end }, known, distancePlace) : '';
  if (far !== '') faults.push(fault('to', far));
  const pace = paceOf(axis, wish, known, faults);
  const plan = distance && typeof pace !== 'string' ? planMove({ ...pace, distance }) : null;
  if (typeof pace === 'string') doubts.push(pace);
  const made = plan?.ok ? plan.value : null;
  if (made?.shape === 'triangle' && made.phases.length > 0 && typeof pace !== 'string')
    doubts.push(
      `it is too short for its speed: the highest is ${made.peak.toPrecision(4)} ${axis.unit}/s of ${show(pace.speed)}`,
    );
  return {
    start,
    end,
    distance,
    turns: distance && axis.perTurn ? magnitude(divide(distance, axis.perTurn)) : null,
    written: written?.ok ? written.value : null,
    plan: made,
    faults,
    doubts,
  };
}

/** Where a move ends, and how far that is; null while it is not known. */
function courseOf(
  { round }: Axis,
  { relative }: MoveWish,
  start: Rational | null,
  way: Rational | null,
  known: AxisKnown,
): Pick<CheckedMove, 'end' | 'distance'> {
  const there = way && (relative ? start && add(start, way) : way);
  if (!round) return { end: there, distance: way && (relative ? way : start && subtract(way, start)) };
  const end = there && withinTurn(round.turn, there);
  const by = roundWayOf(round, known('round-way'));
  return { end, distance: relative ? way : start && end && by && wayRound(round.turn, by, start, end) };
}

/** Why a move is not made as it is meant; a way that the drive takes as such is gone as it is. */
function whyOut(
  axis: Axis,
  { to, relative }: MoveWish,
  start: Rational | null,
  { way, end }: { readonly way: Rational; readonly end: Rational },
  known: AxisKnown,
  distancePlace: PlacedParameter | undefined,
): string {
  const { round, unit } = axis;
  if (!round) return whyOutOfReach(axis, to, way, end, known);
  if (!relative || !start || distancePlace) return '';
  return whyOtherWay(round.turn, roundWayOf(round, known('round-way')), start, way, (one) => `${show(one)} ${unit}`);
}

/**
 * What goes out; an error where the drive's field does not hold it. A way goes out as the target at its end, but for a drive that takes ways: what a stop left in
 * its target does not matter then.
 */
function writtenAs(
  axis: Axis,
  { relative }: MoveWish,
  { start, way, end }: { readonly start: Rational | null; readonly way: Rational; readonly end: Rational },
  distancePlace: PlacedParameter | undefined,
): Result<CheckedMove['written'], string> {
  const { target, round, one, index } = axis;
  if (!relative) return at(target, countsOf(axis, target, end));
  const place = distancePlace ?? target;
  const gone = countsOfWay(index.sheet, place, way);
  const held = gone.ok ? within(index, place, gone.value) : gone;
  if (!held.ok || distancePlace) return at(place, held);
  const from = start && countsOf(axis, target, start);
  if (!from?.ok) return done(null);
  const there = from.value + held.value;
  const counts = round ? withinTurn(divide(round.turn, one), ratio(there)).num : there;
  return at(target, within(index, target, counts));
}

const at = (place: PlacedParameter, counts: Result<bigint, string>): Result<CheckedMove['written'], string> =>
  counts.ok ? done({ place, counts: counts.value }) : counts;

/** A way or a position as it is typed, in load units: with its own unit, another of its kind, or in turns of the motor. */
export function lengthOf(axis: Axis, text: string): Result<Rational, string> {
  if (text.trim() === '') return failed('nothing is said yet');
  const plain = withoutTurns(axis, text);
  if (plain === null) return failed('the sheet does not say how far one turn of the motor moves the load');
  const read = parseQuantity(plain, axis.unit === 'counts' ? '' : axis.unit);
  return read.ok ? done(read.value) : failed(read.error.text);
}

/** The counts of a value, or why the drive's field does not hold it. */
function countsOf({ index }: Axis, place: PlacedParameter, value: Rational): Result<bigint, string> {
  const chain = chainOf(index.sheet, place);
  const scaled = chain ? toRaw(chain, value) : null;
  if (scaled && !scaled.ok) return failed(scaled.error.text);
  if (scaled?.ok && scaled.value.faults[0]) return failed(scaled.value.faults[0].text);
  if (!scaled && value.den !== 1n) return failed('a whole number of counts is expected: the sheet gives no scale');
  return within(index, place, scaled?.ok ? scaled.value.raw : value.num);
}

const within = (index: SheetIndex, place: PlacedParameter, raw: bigint): Result<bigint, string> =>
  compare(ratio(raw), exactly(place.min)) < 0 || compare(ratio(raw), exactly(place.max)) > 0
    ? failed(`${place.name} takes ${rangeText(index, place)}`)
    : done(raw);

const exactly = (number: number): Rational => ratio(BigInt(Math.trunc(number)));

/**
 * What the machine's travel, or the software limits of the drive, have against an end; empty where it can be reached. `typed` and `way` are what was asked
 * for, from which another meaning is proposed.
 */
export function whyOutOfReach(axis: Axis, typed: string, way: Rational, end: Rational, known: AxisKnown): string {
  const text = (value: Rational): string => `${show(value)} ${axis.unit}`;
  const limits = limitsOf(axis, known);
  const { travel } = axis;
  if (travel && (compare(end, travel.from) < 0 || compare(end, travel.to) > 0))
    return `it would end at ${text(end)}; the machine goes from ${text(travel.from)} to ${text(travel.to)}${meantOtherwise(axis, typed, way, end)}`;
  if (!limits) return '';
  const [low, high] = limits;
  return compare(low, high) < 0 && (compare(end, low) < 0 || compare(end, high) > 0)
    ? `it would end at ${text(end)}, outside the drive’s own limits, ${text(low)} to ${text(high)}`
    : '';
}

/** Units in which the same number would stay within the travel: people mix up cm and mm, and turns of the motor and millimetres. */
function meantOtherwise({ unit, travel }: Axis, typed: string, way: Rational, end: Rational): string {
  const number = parseRational(typed.replace(/[^\d.,]*$/, ''));
  if (!travel || !number.ok) return '';
  const from = subtract(end, way);
  const all = [...new Set([unit, ...MIXED_UP])].filter((other) => {
    const factor = unitFactor(other, unit);
    const there = factor && add(from, multiply(number.value, factor));
    return there !== null && compare(there, travel.from) >= 0 && compare(there, travel.to) <= 0;
  });
  return all.length === 0
    ? ''
    : `. Was it meant as ${all.map((other) => `${show(number.value)} ${other}`).join(', or ')}?`;
}

const show = (value: Rational): string => decimalText(value, 3, false);

const MIXED_UP = ['mm', 'cm', 'in'] as const;

/** Why a field that the drive does not have takes nothing. */
const NOT_HELD = {
  deceleration: 'this drive has no deceleration of its own: it brakes as it accelerates',
  jerk: 'this drive has no limit of jerk: its acceleration comes at once',
} as const;

/** What the move runs at, typed or the drive's own, or a sentence why that is not known. What does not fit is added to the faults. */
function paceOf(axis: Axis, wish: MoveWish, known: AxisKnown, faults: MoveFault[]): AxisPace | string {
  const one = (field: PaceField): Rational | string => {
    const place = axisPlace(axis.index, PACE_ROLES[field]);
    if (!place) return `the sheet lists no ${field} of a move: its time and its highest speed are not known`;
    const unit = chainOf(axis.index.sheet, place)?.unit ?? place.unit ?? '';
    if (unit !== paceUnit(axis, field))
      return `the sheet counts the ${field} in ${unit || 'counts'}, not in ${paceUnit(axis, field)}: the move’s time is not known`;
    if (wish[field].trim() === '') {
      const own = known(place.role ?? PACE_ROLES[field]);
      return own ?? `the drive’s ${field} was not read: the move’s time is not known`;
    }
    const read = parseQuantity(wish[field], unit);
    if (!read.ok) {
      faults.push(fault(field, read.error.text));
      return `the ${field} that is typed cannot be read`;
    }
    const counts = countsOf(axis, place, read.value);
    if (!counts.ok) faults.push(fault(field, counts.error));
    return read.value;
  };
  /** A field that the drive need not have, or what stands for it. */
  const orElse = <T>(field: keyof typeof NOT_HELD, other: T): Rational | string | T => {
    if (axisPlace(axis.index, PACE_ROLES[field])) return one(field);
    if (wish[field].trim() !== '') faults.push(fault(field, NOT_HELD[field]));
    return other;
  };
  const speed = one('speed');
  const acceleration = one('acceleration');
  const deceleration = orElse('deceleration', acceleration);
  const jerk = orElse('jerk', null);
  if (typeof speed === 'string') return speed;
  if (typeof acceleration === 'string') return acceleration;
  if (typeof deceleration === 'string') return deceleration;
  if (typeof jerk === 'string') return jerk;
  const most = known('maximum-speed');
  const place = axis.index.byRole.get('maximum-speed');
  const limit = place && chainOf(axis.index.sheet, place)?.unit === paceUnit(axis, 'speed') ? most : null;
  if (limit && compare(speed, limit) > 0)
    faults.push(fault('speed', `the drive’s own limit is ${show(limit)} ${axis.unit}/s: it would go no faster`));
  return { speed, acceleration, deceleration, jerk: jerkOf(jerk) };
}

/** Seconds within which such a move must be over, with room for a drive that is slower than its profile. */
export const withinS = ({ plan }: CheckedMove): number => (plan ? Math.ceil(plan.seconds * 1.5) + 5 : 120);
