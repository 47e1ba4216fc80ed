import { hexNumber } from '../bytes/hex';
import { wordsOfSaid } from '../sets/said';
import { actOf } from '../places/dialect-act';
import { levelOfRole } from '../procedure/route-procedure';
import type { ProcedureStep } from '../procedure/procedure';
import type { Pattern, Profile } from '../profile/profile';
import { done, failed, type Result } from '../result';
import { numberOf } from '../drive/describe';
import type { PlacedParameter } from '../sheet/index-sheet';
import { modeThatTakes, walkIn, walkToHeld } from './in-mode';
import { acted, begins, gathered, give, unless, watchOf, written, type At, type Made, type TrialWay } from './requests';
import type { TrialStep } from './trial';

type HomeStep = Extract<TrialStep, { kind: 'home' }>;

/** Starts homing by the method that the drive holds, and waits until home is known and the axis stands; a homing that failed is told as such. */
export function homeSteps(step: HomeStep, way: TrialWay, at: At): Made {
  if (at.isUnderWay) return failed('a move is under way: let it end first');
  const made = way.index.sheet.dialect ? byCommand(step, way, at) : byMode(step, way, at);
  at.turns = true;
  at.position = atHome(way);
  return made;
}

/** What the position shows at home, in its counts; undefined where the offset was not read. */
function atHome({ index, known }: TrialWay): number | undefined {
  const [place, pattern] = [index.byRole.get('home-offset'), known('home-offset')];
  if (!place || pattern === undefined) return undefined;
  return numberOf(place, pattern) * (index.sheet.axis?.homeShows === 'minus-offset' ? -1 : 1);
}

/** Until home is known, and what `also` says; a fault, or what says that homing failed, ends it. */
function untilHome(
  way: TrialWay,
  profile: Profile,
  also: Pattern | null,
  withinS: number,
): Result<ProcedureStep, string> {
  const place = way.index.byRole.get('status-word');
  const [homed, bad] = [levelOfRole(profile, 'homed', true), levelOfRole(profile, 'homing-failed', true)];
  if (!place || !homed || !also) return failed('its status word does not say that home was found');
  const good = { mask: homed.mask | also.mask, value: homed.value | also.value };
  const watch = watchOf(way, { place, any: [good] }, { text: 'home is known', withinUs: withinS * 1e6 });
  const failing = [bad, levelOfRole(profile, 'fault', true)];
  return unless(watch, place, failing, 'homing failed');
}

/** Homing mode of CiA 402 (IEC 61800-7-201): the rise of bit 4 starts it, attained and target reached end it. */
function byMode({ withinS }: HomeStep, way: TrialWay, at: At): Made {
  const own = modeThatTakes(way, 'home');
  const profile = own?.index.profile;
  if (!own || !profile?.runs) return failed('the sheet has no homing mode');
  const inMode = { ...way, index: own.index };
  const start = profile.runs.value;
  const ready = walkIn(inMode, profile, at, own.mode);
  const lower = start & ~(1 << (profile.runs.rise ?? 0));
  return gathered([
    ...ready,
    begins(give(inMode, at, 'control-word', start, `${hexNumber(start, 4)}: homing starts`)),
    untilHome(inMode, profile, levelOfRole(profile, 'at-speed', true), withinS),
    give(inMode, at, 'control-word', lower, `${hexNumber(lower, 4)}: its start is taken back`),
  ]);
}

function byCommand({ withinS }: HomeStep, way: TrialWay, at: At): Made {
  const { profile } = way.index;
  const go = actOf(way.index, way.station, 'go-home');
  if (!profile || !go) return failed('its commands do not say how home is looked for');
  return gathered([
    ...walkToHeld(way, profile, at),
    begins(acted(way, go, 'it looks for home')),
    untilHome(way, profile, levelOfRole(profile, 'turning', false), withinS),
  ]);
}

/**
 * The position becomes 0 where the axis stands: by the drive's own act, or by homing on the spot with no offset, after which method and offset are put
 * back as they were.
 */
export function zeroSteps(way: TrialWay, at: At): Made {
  if (at.isUnderWay) return failed('a move is under way: let it end first');
  const act = actOf(way.index, way.station, 'set-zero');
  if (act) {
    at.position = 0;
    return gathered([acted(way, act, 'this is zero')]);
  }
  const [method, offset] = (['homing-method', 'home-offset'] as const).map((role) => way.index.byRole.get(role));
  const here = HERE.find((number) => method?.choices?.some(({ value }) => value === number));
  if (!method || here === undefined) return failed('this drive has no homing on the spot');
  const [was, moved] = [way.known('homing-method'), offset ? way.known('home-offset') : 0];
  if (was === undefined || moved === undefined)
    return failed('homing method and offset were not read, so that they could not be put back: press Read once');
  const put = (place: PlacedParameter, value: number, text: string) =>
    written(way, at, place, wordsOfSaid(place, value), text);
  const homed = homeSteps({ id: 'zero', kind: 'home', withinS: ON_THE_SPOT_S }, way, at);
  if (!homed.ok) return homed;
  at.turns = false;
  at.position = 0;
  return gathered([
    put(method, here, `${method.number} ← ${here}, on the spot`),
    ...(offset && moved !== 0 ? [put(offset, 0, `${offset.number} ← 0`)] : []),
    ...homed.value.map((step) => done(step)),
    ...(was === here ? [] : [put(method, was, `${method.number} ← ${was}, as it was`)]),
    ...(offset && moved !== 0 ? [put(offset, moved, `${offset.number} as it was`)] : []),
  ]);
}

/** Homing on the spot by IEC 61800-7-201: 37, and 35 in its earlier edition (from memory). */
const HERE = [37, 35] as const;
const ON_THE_SPOT_S = 10;
