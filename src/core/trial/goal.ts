import { asNumber } from '../as-number';
import { axisOf, type Axis } from '../motion/axis';
import type { AxisKnown } from '../motion/axis-pace';
import { lengthOf, whyOutOfReach } from '../motion/check-move';
import { countsOfWay } from '../motion/way-counts';
import { roundWayOf, whyOtherWay, type Round } from '../motion/round';
import type { ProcedureStep } from '../procedure/procedure';
import { done, failed, type Result } from '../result';
import { decimalText, divide, multiply, parseRational, ratio, type Rational } from '../scaling/rational';
import { rangeText } from '../drive/limits';
import { meaningOf, numberOf, valueIn } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import { numberOfPattern, patternOfNumber } from '../values/pattern';
import { isFloatType } from '../values/type';
import { patternFor, valueOf } from './place-value';
import { heldAt, watchOf, type At, type TrialWay } from './requests';
import type { TrialStep } from './trial';

type MoveStep = Extract<TrialStep, { kind: 'move' }>;

/** Where a move goes, in the drive's counts. */
export interface Goal {
  /** The way that was asked for, or the target. */
  readonly counts: number;
  /** Where it ends; undefined where it is not known where it begins. */
  readonly end: number | undefined;
}

/** The ends of the software limits by name. */
const ENDS: Readonly<Record<string, ParameterRole>> = { lowest: 'position-least', highest: 'position-most' };

/** What a step asks for, as its place counts it; refused where the machine or the drive's limits do not let it get there. */
export function goalOf(
  { to, relative }: MoveStep,
  way: TrialWay,
  at: At,
  place: PlacedParameter,
): Result<Goal, string> {
  const said = relative ? wayFor(way, at, place, to) : placeFor(way, at, place, to);
  if (!said.ok) return said;
  const counts = said.value;
  const end = relative ? (at.position === undefined ? undefined : at.position + counts) : counts;
  const axis = axisOf(way.index);
  if (axis?.round) return roundGoal(axis, axis.round, relative, way, at, { counts, end });
  const why = end === undefined ? '' : whyNot(way, to, counts, end);
  return why === '' ? done({ counts, end }) : failed(why);
}

/** On an axis that goes round every place is one within its turn, and a distance is gone only where the drive goes that way to its end. */
function roundGoal(
  axis: Axis,
  round: Round,
  relative: boolean,
  way: TrialWay,
  at: At,
  { counts, end }: Goal,
): Result<Goal, string> {
  const turn = countsOfTurn(axis, round);
  if (end === undefined) return done({ counts, end });
  const there = end - turn * Math.floor(end / turn);
  if (!relative) return done({ counts: there, end: there });
  // What the trial itself has written by then counts.
  const setting = way.index.byRole.get('round-way');
  const held = (setting && at.given.get(setting.number)) ?? way.known('round-way');
  const by = held === undefined ? null : roundWayOf(round, exactly(held));
  const why = way.index.sheet.dialect
    ? ''
    : whyOtherWay(
        exactly(turn),
        by,
        exactly(at.position ?? 0),
        exactly(counts),
        (value) => `${decimalText(multiply(value, axis.one), 3, false)} ${axis.unit}`,
      );
  return why === '' ? done({ counts, end: there }) : failed(why);
}

/** A number of counts, or of units where a float holds them; nothing that a drive told may throw. */
function exactly(number: number): Rational {
  const read = parseRational(number.toFixed(9));
  return read.ok ? read.value : ratio(0n);
}

/** After how many counts the position of an axis that goes round begins anew; nothing of any other place. */
export function turnAt(index: SheetIndex, { role }: PlacedParameter): { readonly turn?: number } {
  const axis = role === 'actual-position' ? axisOf(index) : null;
  return axis?.round ? { turn: countsOfTurn(axis, axis.round) } : {};
}

/** One turn as the drive counts it: a sheet gives it a whole number. */
const countsOfTurn = ({ one }: Axis, { turn }: Round): number => Math.abs(asNumber(divide(turn, one)));

/** A place that is typed, in its counts; names of the limits as what the drive holds. */
function placeFor(way: TrialWay, at: At, place: PlacedParameter, text: string): Result<number, string> {
  const end = ENDS[text.trim().toLowerCase()];
  const pattern = end ? limitOf(way, end) : patternFor(way.index, place, text, heldAt(way, at));
  return pattern.ok ? done(numberOfPattern(place.type, pattern.value)) : pattern;
}

/** A way that is typed, in counts, as far as the field of its place goes. */
function wayFor(way: TrialWay, at: At, place: PlacedParameter, text: string): Result<number, string> {
  const { index } = way;
  const value = valueOf(index, place, text);
  if (!value.ok) return value;
  const counts = isFloatType(place.type)
    ? done(asNumber(value.value))
    : countsOfWay(index.sheet, place, value.value, heldAt(way, at));
  if (!counts.ok) return counts;
  const number = Number(counts.value);
  return number < place.min || number > place.max
    ? failed(`${place.name} takes ${rangeText(index, place)}`)
    : done(number);
}

function limitOf({ known, index }: TrialWay, end: ParameterRole): Result<number, string> {
  if (!index.byRole.has(end)) return failed(`the sheet has no ${end.replace('-', ' ')}`);
  const [least, most, own] = [known('position-least'), known('position-most'), known(end)];
  if (least === undefined || most === undefined || own === undefined)
    return failed('the software limits of the drive were not read: press Read once');
  return least === most ? failed('the drive has no software limits: its lowest is its highest') : done(own);
}

function whyNot({ index, known }: TrialWay, typed: string, counts: number, end: number): string {
  const axis = axisOf(index);
  const { target } = axis ?? {};
  if (!axis || !target) return '';
  if (end < target.min || end > target.max) return `it would end at ${end} counts, which ${target.name} does not hold`;
  const values: AxisKnown = (role) => {
    const [place, pattern] = [index.byRole.get(role), known(role)];
    return place && pattern !== undefined ? valueIn(index.sheet, place, pattern) : null;
  };
  const [way, place] = [counts, end].map((raw) => valueIn(index.sheet, target, patternOfNumber(target.type, raw)));
  // The name of a limit is where the axis may be.
  return way && place && lengthOf(axis, typed).ok ? whyOutOfReach(axis, typed, way, place, values) : '';
}

/** Where the axis stands before the first step, in its counts; undefined where that was not read. */
export function positionNow({ index, known }: TrialWay): number | undefined {
  const [place, pattern] = [index.byRole.get('actual-position'), known('actual-position')];
  return place && pattern !== undefined ? numberOf(place, pattern) : undefined;
}

/** It may have been moved by so much since its position was read: two windows, or a hundredth of a turn. */
function drift({ index, known }: TrialWay): number {
  const [window, axis] = [index.byRole.get('position-window'), axisOf(index)];
  const pattern = known('position-window') ?? window?.default;
  const counts = axis?.perTurn ? Math.abs(asNumber(divide(axis.perTurn, axis.one))) / 100 : 0;
  return Math.ceil(Math.max(1, counts, window && pattern !== undefined ? 2 * numberOf(window, pattern) : 0));
}

/**
 * Before a move whose end, direction and drawing rest on a position that was read: it must stand there still. Nothing where no such thing is known, or where
 * the trial itself has just sent it there.
 */
export function stillThere(way: TrialWay, at: At): readonly Result<ProcedureStep, string>[] {
  const place = way.index.byRole.get('actual-position');
  if (!place || at.position === undefined || at.isThere || at.isUnderWay) return [];
  const by = drift(way);
  const range = { type: place.type, least: at.position - by, most: at.position + by, ...turnAt(way.index, place) };
  const text = `it stands at ${goalText(way, place, at.position)}, as it was read`;
  return [watchOf(way, { place, any: [], range }, { text, withinUs: LOOK_US })];
}

/** One look is enough: an axis that stands elsewhere does not come back, nor does a setting that was changed. */
export const LOOK_US = 500_000;

/** A place of the axis in words. */
export const goalText = ({ index }: TrialWay, target: PlacedParameter, counts: number): string =>
  meaningOf(index, target, patternOfNumber(target.type, counts));
