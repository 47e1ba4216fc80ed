import { counted } from '../counted';
import type { RunState } from '../procedure/run-state';
import { done, type Result } from '../result';
import type { CompiledTrial } from './compile';
import type { Trial, TrialStep } from './trial';

type Repeat = Extract<TrialStep, { kind: 'repeat' }>;

/** How far a run came that ended among rounds, and the trial of those that are left. */
export interface RestOfRun {
  readonly done: number;
  readonly of: number;
  readonly trial: Trial;
}

/** A repeat that is within no other, by the places of its first step and its own among the steps of its trial. */
interface Outer {
  readonly repeat: Repeat;
  readonly first: number;
  readonly place: number;
}

function outerRepeats({ steps }: Trial): readonly Outer[] {
  const all = steps.flatMap((repeat, place): readonly Outer[] => {
    if (repeat.kind !== 'repeat') return [];
    const first = steps.findIndex(({ id }) => id === repeat.from);
    return first >= 0 && first < place ? [{ repeat, first, place }] : [];
  });
  return all.filter(({ place }) => !all.some((other) => other.place > place && other.first <= place));
}

/**
 * The rounds that a run had done when it ended before its end, of the outermost repeat in which that was: what comes before the repeat is done again, since
 * nobody knows how the drive stands now. Null where it ended well, in no repeat, or in its last round.
 */
export function restOfRun({ trial, steps }: CompiledTrial, run: RunState | null): RestOfRun | null {
  if (run?.phase !== 'over' || run.end === 'done') return null;
  const at = steps.findIndex(({ to }) => to > run.at);
  if (at < 0) return null;
  for (const { repeat, first, place } of outerRepeats(trial)) {
    const begin = steps.findIndex(({ step }) => step.id === trial.steps[first]?.id);
    const next = trial.steps[place + 1];
    const end = next ? steps.findIndex(({ step }) => step.id === next.id) : steps.length;
    if (begin < 0 || at < begin || at >= end) continue;
    const { times, forS = null, untilWhat = null } = repeat;
    const looks = forS !== null || untilWhat !== null ? 1 : 0;
    const body = (end - begin - looks * (times - 1)) / times;
    const round = at < begin + body ? 0 : 1 + Math.floor((at - begin - body) / (body + looks));
    const left = secondsLeft(forS, run, steps[begin]?.from ?? 0);
    return left.ok && round < times
      ? { done: round, of: times, trial: withRounds(trial, place, round, left.value) }
      : null;
  }
  return null;
}

/** Of the time that a repeat lasts, what is left; null where it has none. An error where none is left. */
function secondsLeft(forS: number | null, { records }: RunState, first: number): Result<number | null, null> {
  if (forS === null) return done(null);
  const [begun, last] = [records.find(({ step }) => step >= first), records.at(-1)];
  const left = forS - (begun && last ? (last.toUs - begun.fromUs) / 1e6 : 0);
  return left > 0 ? done(left) : { ok: false, error: null };
}

/** A trial's id has so many characters at most, and its name this many before what is added here. */
const MOST_ID = 60;
const MOST_NAME = 380;

const REST = '-rest';
const LEFT = /, \d+ rounds? left$/;

/** The trial of which a rest is a part; its own id where it is a whole. */
export const wholeOf = (id: string): string => (id.endsWith(REST) ? id.slice(0, -REST.length) : id);

/** It has an id of its own: what was done in parts is not told as if it had been done at once. */
function withRounds(trial: Trial, place: number, round: number, forS: number | null): Trial {
  const repeat = trial.steps[place];
  const left = repeat?.kind === 'repeat' ? repeat.times - round : 0;
  const steps = trial.steps.flatMap((step, i): readonly TrialStep[] => {
    if (i !== place || step.kind !== 'repeat') return [step];
    return left > 1 ? [{ ...step, times: left, ...(forS === null ? {} : { forS }) }] : [];
  });
  return {
    ...trial,
    id: `${wholeOf(trial.id)
      .slice(0, MOST_ID - REST.length)
      .replace(/-$/, '')}${REST}`,
    name: `${trial.name.replace(LEFT, '').slice(0, MOST_NAME)}, ${counted(left, 'round', 'rounds')} left`,
    steps,
  };
}
