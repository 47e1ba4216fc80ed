import { hexNumber } from '../bytes/hex';
import { axisOf, withoutTurns } from '../motion/axis';
import { actOf } from '../places/dialect-act';
import { levelOfRole } from '../procedure/route-procedure';
import type { ProcedureStep } from '../procedure/procedure';
import type { Pattern } from '../profile/profile';
import { done, failed, type Result } from '../result';
import type { PlacedParameter } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import { modeThatTakes, walkIn, walkToHeld } from './in-mode';
import { patternFor } from './place-value';
import { acted, begins, gathered, give, knownOf, watchOf, type At, type Made, type TrialWay } from './requests';
import type { TrialStep } from './trial';

type MoveStep = Extract<TrialStep, { kind: 'move' }>;

/** Bits of the control word in the profile position mode of CiA 402 (IEC 61800-7-201): new set-point, change at once, relative. */
const SET_POINT = 0x10;
const AT_ONCE = 0x20;
const RELATIVE = 0x40;
/** The set-point is taken, or given back, within this. */
const HANDSHAKE_US = 2_000_000;

/** Sends the drive to a target, in the way that it takes one, and waits until it is there, or not where the next move takes over. */
export function moveSteps(step: MoveStep, way: TrialWay, at: At): Made {
  const made = way.index.sheet.dialect ? byCommands(step, way, at) : bySetPoint(step, way, at);
  at.turns = true;
  at.isUnderWay = step.blended === true;
  return made;
}

/** The ends of the software limits by name. */
const ENDS: Readonly<Record<string, ParameterRole>> = { lowest: 'position-least', highest: 'position-most' };

/** What is typed as the pattern of a place, turns of the motor and names of its limits written out. */
function wayFor(way: TrialWay, place: PlacedParameter, text: string): Result<number, string> {
  const end = ENDS[text.trim().toLowerCase()];
  if (end) return limitOf(way, end);
  const axis = axisOf(way.index);
  const plain = axis ? withoutTurns(axis, text) : text;
  return plain === null
    ? failed('the sheet does not say how far one turn of the motor moves the load')
    : patternFor(way.index, place, plain);
}

function limitOf({ known, index }: TrialWay, end: ParameterRole): Result<number, string> {
  if (!index.byRole.has(end)) return failed(`the sheet has no ${end.replace('-', ' ')}`);
  const [least, most, own] = [known('position-least'), known('position-most'), known(end)];
  if (least === undefined || most === undefined || own === undefined)
    return failed('the software limits of the drive were not read: press Read once');
  return least === most ? failed('the drive has no software limits: its lowest is its highest') : done(own);
}

const written = (way: TrialWay, at: At, place: PlacedParameter, pattern: number, text: string) => {
  const bytes = way.places.write(way.station, place, pattern, knownOf(way, at));
  return bytes
    ? done<ProcedureStep>({ kind: 'request', text, station: way.station, bytes, needs: 'answer' })
    : failed<string>(`this link cannot write ${place.number}`);
};

/**
 * Target, then the set-point bit as it rises, acknowledged, taken back, and then until the drive says that it is there: what “reached” said before the
 * acknowledge was about the move before. While a move is under way, the new one takes over at once.
 */
function bySetPoint({ to, relative, withinS, blended }: MoveStep, way: TrialWay, at: At): Made {
  const own = modeThatTakes(way, 'position');
  const profile = own?.index.profile;
  const [target, status] = (['target-position', 'status-word'] as const).map((role) => way.index.byRole.get(role));
  if (!own || profile?.id !== 'cia402' || !profile.runs || !target || !status)
    return failed('the sheet has no mode in which it is sent to a position');
  const [taken, reached] = [levelOfRole(profile, 'set-point-taken', true), levelOfRole(profile, 'at-speed', true)];
  const pattern = wayFor(way, target, to);
  if (!pattern.ok) return pattern;
  if (!taken || !reached) return failed('its status word does not say that a set-point is taken, or reached');
  const inMode = { ...way, index: own.index };
  const ready = at.isUnderWay ? [] : walkIn(inMode, profile, at, own.mode);
  const start = profile.runs.value | (relative ? RELATIVE : 0) | (at.isUnderWay ? AT_ONCE : 0);
  const lower = start & ~SET_POINT;
  const until = (level: Pattern, text: string, withinUs: number) =>
    watchOf(inMode, { place: status, any: [level] }, { text, withinUs });
  return gathered([
    ...ready,
    written(way, at, target, pattern.value, `target ← ${to}`),
    begins(give(inMode, at, 'control-word', start, `${hexNumber(start, 4)}: the set-point rises`)),
    until(taken, 'the set-point is acknowledged', HANDSHAKE_US),
    give(inMode, at, 'control-word', lower, `${hexNumber(lower, 4)}: it is taken back`),
    until({ ...taken, value: 0 }, 'another set-point may come', HANDSHAKE_US),
    ...(blended ? [] : [until(reached, 'the target is reached', withinS * 1e6)]),
  ]);
}

/** Target or distance, the command that moves, and then until it stands within its window. */
function byCommands({ to, relative, withinS, blended }: MoveStep, way: TrialWay, at: At): Made {
  const { profile, byRole } = way.index;
  const [place, status] = [byRole.get(relative ? 'move-distance' : 'target-position'), byRole.get('status-word')];
  const go = actOf(way.index, way.station, relative ? 'move-relative' : 'move-absolute');
  if (!profile || !place || !status || !go) return failed('its commands do not say how it is sent to a position');
  const [turning, there] = [levelOfRole(profile, 'turning', false), levelOfRole(profile, 'at-speed', true)];
  if (!turning || !there) return failed('its status word does not say whether it moves, and whether it is there');
  if (at.isUnderWay || blended) return failed('this drive takes no other target while it moves');
  const pattern = wayFor(way, place, to);
  if (!pattern.ok) return pattern;
  const stands = { mask: turning.mask | there.mask, value: turning.value | there.value };
  return gathered([
    ...walkToHeld(way, profile, at),
    written(way, at, place, pattern.value, `${place.number} ← ${to}`),
    begins(acted(way, go, 'it moves')),
    watchOf(way, { place: status, any: [stands] }, { text: 'it stands within its window', withinUs: withinS * 1e6 }),
  ]);
}
