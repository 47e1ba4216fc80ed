import type { ProcedureStep, WordCondition } from '../procedure/procedure';
import { RUNNING, type Profile } from '../profile/profile';
import { done, failed, type Result } from '../result';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { patternFor } from './place-value';
import { gathered, give, knownOf, walk, watchOf, wordText, type At, type Made, type TrialWay } from './requests';
import type { TrialStep } from './trial';

/** Bits of the status word in the profile position mode of CiA 402 (IEC 61800-7-201): set-point acknowledged, target reached. */
const ACKNOWLEDGED = 0x1000;
const REACHED = 0x0400;
/** The set-point is taken, or given back, within this. */
const HANDSHAKE_US = 2_000_000;

/** The drive's own index in the mode in which it is sent to a position, and that mode's number. */
function positionMode({ index }: TrialWay): { readonly index: SheetIndex; readonly mode: number | null } | null {
  if (index.profile?.takes === 'position' && index.modes.size === 0) return { index, mode: null };
  const found = [...index.modes].find(([, own]) => own.profile?.takes === 'position');
  return found ? { index: found[1], mode: found[0] } : null;
}

/**
 * Target, then the set-point bit as it rises, acknowledged, taken back, and then until the drive says that it is there: what “reached” said before the
 * acknowledge was about the move before.
 */
export function moveSteps(
  { to, relative, withinS }: Extract<TrialStep, { kind: 'move' }>,
  way: TrialWay,
  at: At,
): Made {
  const own = positionMode(way);
  const profile = own?.index.profile;
  const [target, status, mode] = (['target-position', 'status-word', 'mode'] as const).map((role) =>
    way.index.byRole.get(role),
  );
  if (!own || profile?.id !== 'cia402' || !profile.runs || !target || !status)
    return failed('the sheet has no mode of CiA 402 in which it is sent to a position');
  const counts = patternFor(way.index, target, to);
  if (!counts.ok) return counts;
  const start = profile.commands.find(({ id }) => id === (relative ? 'start-relative' : 'start-move'))?.word;
  const bytes = way.places.write(way.station, target, counts.value, knownOf(way, at));
  if (start === undefined || !bytes) return failed('this link cannot write the target');
  const inMode = { ...way, index: own.index };
  const ready = walkIn(inMode, profile, at, own.mode, mode);
  const lower = start & ~(1 << (profile.runs.rise ?? 0));
  const bit = (mask: number, isSet: boolean): WordCondition & { readonly place: PlacedParameter } => ({
    place: status,
    any: [{ mask, value: isSet ? mask : 0 }],
  });
  const made = gathered([
    ...ready,
    done<ProcedureStep>({ kind: 'request', text: `target ← ${to}`, station: way.station, bytes, needs: 'answer' }),
    give(inMode, at, 'control-word', start, `${wordText(way, start)}: the set-point rises`),
    watchOf(way, bit(ACKNOWLEDGED, true), { text: 'the set-point is acknowledged', withinUs: HANDSHAKE_US }),
    give(inMode, at, 'control-word', lower, `${wordText(way, lower)}: it is taken back`),
    watchOf(way, bit(ACKNOWLEDGED, false), { text: 'another set-point may come', withinUs: HANDSHAKE_US }),
    watchOf(way, bit(REACHED, true), { text: 'the target is reached', withinUs: withinS * 1e6 }),
  ]);
  at.turns = true;
  return made;
}

/** The mode, where it is another, and the way to the state in which a move can be started, with nothing that starts one. */
function walkIn(
  way: TrialWay,
  profile: Profile,
  at: At,
  number: number | null,
  mode: PlacedParameter | undefined,
): readonly Result<ProcedureStep, string>[] {
  const steps: Result<ProcedureStep, string>[] = [];
  if (number !== null && at.mode !== number) {
    const bytes = mode && way.places.write(way.station, mode, number, knownOf(way, at));
    if (!bytes) return [failed('this link cannot write the mode of operation')];
    steps.push(done({ kind: 'request', text: `mode ← ${number}`, station: way.station, bytes, needs: 'answer' }));
    at.mode = number;
  }
  const made = walk(way, profile, at, profile.runs?.state ?? RUNNING);
  return made.ok ? [...steps, ...made.value.map((step) => done(step))] : [made];
}
