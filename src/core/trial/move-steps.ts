import { hexNumber } from '../bytes/hex';
import { wordsOfSaid } from '../sets/said';
import { actOf } from '../places/dialect-act';
import { levelOfRole } from '../procedure/route-procedure';
import type { Pattern } from '../profile/profile';
import { failed } from '../result';
import type { PlacedParameter } from '../sheet/index-sheet';
import { patternOfNumber } from '../values/pattern';
import { goalOf, goalText, stillThere, type Goal } from './goal';
import { modeThatTakes, walkIn, walkToHeld } from './in-mode';
import { acted, begins, gathered, give, unless, watchOf, written, type At, type Made, type TrialWay } from './requests';
import type { TrialStep } from './trial';

type MoveStep = Extract<TrialStep, { kind: 'move' }>;

/** Bits of the control word in the profile position mode of CiA 402 (IEC 61800-7-201): new set-point, change at once, relative. */
const SET_POINT = 0x10;
const AT_ONCE = 0x20;
const RELATIVE = 0x40;
/** The set-point is taken, or given back, within this. */
export const HANDSHAKE_US = 2_000_000;
/** Why a move is not waited for any longer. */
export const FAULT = 'a fault came on the way';

/** Sends the drive to a target, in the way that it takes one, and waits until it is there, or not where the next move takes over. */
export function moveSteps(step: MoveStep, way: TrialWay, at: At): Made {
  const place = placeOf(step, way);
  if (!place) return failed('the sheet does not say how it is sent to a position');
  const goal = goalOf(step, way, at, place);
  if (!goal.ok) return goal;
  const made = (way.index.sheet.dialect ? byCommands : bySetPoint)(step, way, at, place, goal.value);
  at.turns = true;
  at.isUnderWay = step.blended === true;
  at.position = step.blended === true ? undefined : goal.value.end;
  return made;
}

/** What the number of a move is written to: a dialect has a place of its own for a distance. */
const placeOf = ({ relative }: MoveStep, { index: { sheet, byRole } }: TrialWay): PlacedParameter | undefined =>
  byRole.get(relative && sheet.dialect ? 'move-distance' : 'target-position');

/**
 * A way is counted from where the axis stands, as far as that is known: by the standard a relative set-point goes on from the last target, which a stop may
 * have left far away. Target, then the set-point bit as it rises, acknowledged, taken back, and then until the drive says that it is there: what “reached” said before the
 * acknowledge was about the move before. While a move is under way, the new one takes over at once.
 */
function bySetPoint(step: MoveStep, way: TrialWay, at: At, target: PlacedParameter, { counts, end }: Goal): Made {
  const { withinS, blended } = step;
  const own = modeThatTakes(way, 'position');
  const profile = own?.index.profile;
  const status = way.index.byRole.get('status-word');
  if (!own || profile?.id !== 'cia402' || !profile.runs || !status)
    return failed('the sheet has no mode in which it is sent to a position');
  const [taken, reached] = [levelOfRole(profile, 'set-point-taken', true), levelOfRole(profile, 'at-speed', true)];
  if (!taken || !reached) return failed('its status word does not say that a set-point is taken, or reached');
  const inMode = { ...way, index: own.index };
  const ready = at.isUnderWay ? [] : walkIn(inMode, profile, at, own.mode);
  const start = profile.runs.value | (end === undefined ? RELATIVE : 0) | (at.isUnderWay ? AT_ONCE : 0);
  const lower = start & ~SET_POINT;
  const fault = levelOfRole(profile, 'fault', true);
  const until = (level: Pattern, text: string, withinUs: number) =>
    unless(watchOf(inMode, { place: status, any: [level] }, { text, withinUs }), status, [fault], FAULT);
  return gathered([
    ...stillThere(way, at),
    ...ready,
    written(
      way,
      at,
      target,
      wordsOfSaid(target, patternOfNumber(target.type, end ?? counts)),
      `target ← ${goalText(way, target, end ?? counts)}`,
    ),
    begins(give(inMode, at, 'control-word', start, `${hexNumber(start, 4)}: the set-point rises`)),
    until(taken, 'the set-point is acknowledged', HANDSHAKE_US),
    give(inMode, at, 'control-word', lower, `${hexNumber(lower, 4)}: it is taken back`),
    until({ ...taken, value: 0 }, 'another set-point may come', HANDSHAKE_US),
    ...(blended ? [] : [until(reached, 'the target is reached', withinS * 1e6)]),
  ]);
}

/** Target or distance, the command that moves, and then until it stands within its window. */
function byCommands(
  { relative, withinS, blended }: MoveStep,
  way: TrialWay,
  at: At,
  place: PlacedParameter,
  { counts }: Goal,
): Made {
  const { profile, byRole } = way.index;
  const status = byRole.get('status-word');
  const go = actOf(way.index, way.station, relative ? 'move-relative' : 'move-absolute');
  if (!profile || !status || !go) return failed('its commands do not say how it is sent to a position');
  const [turning, there] = [levelOfRole(profile, 'turning', false), levelOfRole(profile, 'at-speed', true)];
  if (!turning || !there) return failed('its status word does not say whether it moves, and whether it is there');
  if (at.isUnderWay || blended) return failed('this drive takes no other target while it moves');
  const stands = { mask: turning.mask | there.mask, value: turning.value | there.value };
  return gathered([
    ...stillThere(way, at),
    ...walkToHeld(way, profile, at),
    written(
      way,
      at,
      place,
      wordsOfSaid(place, patternOfNumber(place.type, counts)),
      `${place.number} ← ${goalText(way, place, counts)}`,
    ),
    begins(acted(way, go, 'it moves')),
    unless(
      watchOf(way, { place: status, any: [stands] }, { text: 'it stands within its window', withinUs: withinS * 1e6 }),
      status,
      [levelOfRole(profile, 'fault', true)],
      FAULT,
    ),
  ]);
}
