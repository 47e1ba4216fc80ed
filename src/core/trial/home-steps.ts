import { hexNumber } from '../bytes/hex';
import { actOf } from '../places/dialect-act';
import { levelOfRole } from '../procedure/route-procedure';
import type { ProcedureStep } from '../procedure/procedure';
import type { Pattern, Profile } from '../profile/profile';
import { done, failed, type Result } from '../result';
import { modeThatTakes, walkIn, walkToHeld } from './in-mode';
import { gathered, give, watchOf, type At, type Made, type TrialWay } from './requests';
import type { TrialStep } from './trial';

type HomeStep = Extract<TrialStep, { kind: 'home' }>;

/** Starts homing by the method that the drive holds, and waits until home is known and the axis stands; a homing that failed is told as such. */
export function homeSteps(step: HomeStep, way: TrialWay, at: At): Made {
  if (at.isUnderWay) return failed('a move is under way: let it end first');
  const made = way.index.sheet.dialect ? byCommand(step, way, at) : byMode(step, way, at);
  at.turns = true;
  return made;
}

/** Until all of `good` shows; what shows `bad` first has failed. */
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
  if (!watch.ok || watch.value.kind !== 'watch' || !bad) return watch;
  const { cells, order } = place;
  return done({ ...watch.value, never: { when: { place: { cells, order }, any: [bad] }, why: 'homing failed' } });
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
    give(inMode, at, 'control-word', start, `${hexNumber(start, 4)}: homing starts`),
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
    done<ProcedureStep>({
      kind: 'request',
      text: `${go.verb}: it looks for home`,
      station: way.station,
      bytes: go.bytes,
      needs: 'answer',
    }),
    untilHome(way, profile, levelOfRole(profile, 'turning', false), withinS),
  ]);
}
