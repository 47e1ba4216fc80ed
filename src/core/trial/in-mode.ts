import type { ProcedureStep } from '../procedure/procedure';
import { wordsOfSaid } from '../sets/said';
import { RUNNING, stateOf, type Profile } from '../profile/profile';
import { done, failed, type Result } from '../result';
import type { SheetIndex } from '../sheet/index-sheet';
import { numberOfPattern, patternOfNumber } from '../values/pattern';
import { walk, written, type At, type TrialWay } from './requests';

type Steps = readonly Result<ProcedureStep, string>[];

/** The drive's own index in the mode in which it takes this, and that mode's number; null where it has no such mode. */
export function modeThatTakes(
  { index }: TrialWay,
  takes: 'position' | 'home' | 'stored-move',
): { readonly index: SheetIndex; readonly mode: number | null } | null {
  if (index.profile?.takes === takes && index.modes.size === 0) return { index, mode: null };
  const found = [...index.modes].find(([, own]) => own.profile?.takes === takes);
  return found ? { index: found[1], mode: found[0] } : null;
}

/** The mode that the drive shows, else the one that was asked for; undefined where neither was read. */
export function modeNow({ index, known }: TrialWay): number | undefined {
  for (const role of ['mode-display', 'mode'] as const) {
    const [place, pattern] = [index.byRole.get(role), known(role)];
    if (place && pattern !== undefined) return numberOfPattern(place.type, pattern);
  }
  return undefined;
}

/** The mode, where it is another, and the way to the state in which a move can be started, with nothing that starts one. */
export function walkIn(way: TrialWay, profile: Profile, at: At, number: number | null): Steps {
  const steps: Result<ProcedureStep, string>[] = [];
  if (number !== null && at.mode !== number) {
    const mode = way.index.byRole.get('mode');
    if (!mode) return [failed('the sheet does not say where the mode of operation is')];
    const name = mode.choices?.find(({ value }) => value === number)?.name ?? `${number}`;
    steps.push(written(way, at, mode, wordsOfSaid(mode, patternOfNumber(mode.type, number)), `mode ← ${name}`));
    at.mode = number;
  }
  const made = walk(way, profile, at, profile.runs?.state ?? RUNNING);
  return made.ok ? [...steps, ...made.value.map((step) => done(step))] : [made];
}

/** To the state in which a drive that is moved by commands takes them: the one in which a move of its own ends. */
export function walkToHeld(way: TrialWay, profile: Profile, at: At): Steps {
  const held = profile.own.find(({ from }) => stateOf(profile, from)?.turns === true)?.to;
  if (held === undefined) return [failed('the sheet lists no state in which a move ends')];
  const made = walk(way, profile, at, held);
  return made.ok ? made.value.map((step) => done(step)) : [made];
}
