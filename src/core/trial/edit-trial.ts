import * as v from 'valibot';
import { done, failed, type Result } from '../result';
import { STEP_FORMS } from './step-forms';
import { TrialSchema, TrialStepSchema, type Trial, type TrialStep } from './trial';

/** A name that none of these has: `hold`, `hold-2`, … */
function freeName(taken: readonly string[], wanted: string): string {
  for (let i = 1; ; i++) {
    const name = i === 1 ? wanted : `${wanted}-${i}`;
    if (!taken.includes(name)) return name;
  }
}

/** A name in machine form. */
export const slugOf = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 40) || 'trial';

/** The same trial under a name of its own, to be changed. */
export const copyOfTrial = (trial: Trial, taken: readonly string[], name: string): Trial => ({
  ...trial,
  id: freeName(taken, slugOf(name)),
  name,
});

/** A trial with a fresh step of a kind behind the step at `after`. */
export const withStepAdded = (trial: Trial, kind: TrialStep['kind'], after: number): Trial => {
  const id = freeName(
    trial.steps.map((step) => step.id),
    kind,
  );
  const steps = [...trial.steps];
  steps.splice(after + 1, 0, STEP_FORMS[kind].begin(id));
  return { ...trial, steps };
};

/** Without the step; a trial has one at least. */
export const withoutStep = (trial: Trial, at: number): Trial =>
  trial.steps.length > 1 ? { ...trial, steps: trial.steps.filter((_, i) => i !== at) } : trial;

/** The step moved by so many places, as far as there are any. */
export function withStepMoved(trial: Trial, at: number, by: number): Trial {
  const to = Math.min(trial.steps.length - 1, Math.max(0, at + by));
  const moved = trial.steps[at];
  if (!moved || to === at) return trial;
  const steps = trial.steps.filter((_, i) => i !== at);
  steps.splice(to, 0, moved);
  return { ...trial, steps };
}

/** One field of a step put to a value; a sentence where the step would be none with it. */
export function stepWithField(step: TrialStep, key: string, value: unknown): Result<TrialStep, string> {
  const rest = Object.fromEntries(Object.entries(step).filter(([own]) => own !== key));
  const read = v.safeParse(TrialStepSchema, value === undefined ? rest : { ...step, [key]: value });
  return read.success ? done(read.output) : failed(read.issues[0].message);
}

/** With another step in place of one. */
export const withStep = (trial: Trial, at: number, next: TrialStep): Trial => ({
  ...trial,
  steps: trial.steps.map((step, i) => (i === at ? next : step)),
});

/** Larger files are no trials. */
export const LARGEST_TRIAL_FILE = 500_000;

/** A trial out of a file's text; a sentence with the place where it is none. */
export function readTrialFile(text: string): Result<Trial, string> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return failed('it is no JSON');
  }
  const read = v.safeParse(TrialSchema, json);
  if (read.success) return done(read.output);
  const [issue] = read.issues;
  return failed(`${v.getDotPath(issue) ?? 'the whole'}: ${issue.message}`);
}
