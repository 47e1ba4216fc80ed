import type { Procedure, ProcedureStep } from '../procedure/procedure';
import { numbersHeld, scaleSettings } from '../drive/describe';
import { failed } from '../result';
import { DO } from './do-steps';
import { positionNow } from './goal';
import { modeNow } from './in-mode';
import { heldAt, type At, type TrialWay } from './requests';
import { stepText } from './step-text';
import { MOST_STEPS, type Trial, type TrialStep } from './trial';

/** Steps after which the axis is where it was sent, and those in which a drive that holds it goes on holding it. */
const MOVES: ReadonlySet<TrialStep['kind']> = new Set(['move', 'stored-move', 'home', 'zero']);
const KEEPS_ITS_PLACE: ReadonlySet<TrialStep['kind']> = new Set([
  'read',
  'wait',
  'wait-bit',
  'wait-flag',
  'hold',
  'ask',
  'ask-turning',
  'ask-number',
]);

/** Steps that set no shaft in motion, so that a question before them may wait for its answer. */
const SETS_NOTHING_IN_MOTION: ReadonlySet<TrialStep['kind']> = new Set([
  'stop',
  'stands',
  'read',
  'wait',
  'wait-bit',
  'wait-flag',
  'wait-state',
  'hold',
  'ask',
  'ask-turning',
  'ask-number',
]);

/** One step of a trial as the line will do it. */
export interface CompiledStep {
  readonly step: TrialStep;
  /** Which time of its repeats this is; 1 where it has none. */
  readonly time: number;
  readonly text: string;
  /** Steps of the procedure from this one to before that one. */
  readonly from: number;
  readonly to: number;
  /** The shaft may turn while it is done. */
  readonly turns: boolean;
  /** Why it cannot be done on this drive; empty where it can. */
  readonly fault: string;
  /** It is left out then, and the trial goes on without it. */
  readonly isLeftOut: boolean;
  /** What the settings hold on which scales of the sheet hang, by their numbers; absent where it has no such scale. */
  readonly held?: Readonly<Record<string, number>>;
}

export interface CompiledTrial {
  readonly trial: Trial;
  readonly steps: readonly CompiledStep[];
  /** Null where a step cannot be done; `why` says which and why. */
  readonly procedure: Procedure | null;
  readonly why: string;
}

/** The same, waiting before each of its steps but the first until it is told to go on. */
export const stepByStep = (compiled: CompiledTrial): CompiledTrial => ({
  ...compiled,
  procedure: compiled.procedure && {
    ...compiled.procedure,
    stopsAt: compiled.steps.flatMap(({ from, to }) => (from > 0 && from < to ? [from] : [])),
  },
});

/** A trial for one drive: each step as the requests that do it, or the reason why it cannot be done. Nothing is sent by this. */
export function compileTrial(trial: Trial, way: TrialWay): CompiledTrial {
  const at: At = {
    here: way.here,
    word: way.known('control-word') ?? null,
    reference: way.known('speed-reference'),
    mode: modeNow(way),
    position: positionNow(way),
    isThere: false,
    isUnderWay: false,
    turns: false,
    given: new Map(),
  };
  const all: ProcedureStep[] = [];
  const scales = scaleSettings(way.index);
  const rolled = unrolled(trial);
  const lastInMotion = rolled.findLastIndex(({ step }) => !SETS_NOTHING_IN_MOTION.has(step.kind));
  const steps = rolled.map(({ step, time, fault }, place): CompiledStep => {
    const from = all.length;
    const before = at.turns;
    const made = fault === '' ? DO[step.kind](step as never, way, at) : failed(fault);
    const mayWait = place > lastInMotion;
    at.isThere = MOVES.has(step.kind) ? !at.isUnderWay : at.isThere && KEEPS_ITS_PLACE.has(step.kind);
    if (made.ok) all.push(...asOneAct(made.value, step, time, from).map((one) => (mayWait ? putOff(one) : one)));
    return {
      step,
      time,
      text: stepText(step, way.index),
      from,
      to: all.length,
      turns: before || at.turns,
      fault: made.ok ? '' : made.error,
      isLeftOut: !made.ok && step.optional === true,
      ...(scales.length === 0 ? {} : { held: numbersHeld(scales, heldAt(way, at)) }),
    };
  });
  rolled.forEach(({ ends }, i) => {
    if (ends) endAt(all, steps, i, ends);
  });
  const bad = steps.findIndex(({ fault, isLeftOut }) => fault !== '' && !isLeftOut);
  const why =
    bad >= 0
      ? `step ${bad + 1}: ${steps[bad]?.fault ?? ''}`
      : all.length > MOST_STEPS
        ? `it comes to ${all.length} requests and waits; ${MOST_STEPS} are the most`
        : '';
  const procedure: Procedure = {
    kind: 'trial',
    title: trial.name,
    station: way.station,
    steps: all,
    rounds: 1,
    standsStill: false,
  };
  return { trial, steps, why, procedure: why === '' ? procedure : null };
}

/** The requests of a step as one act: no word of a way goes out after one that did not come. What is read is kept by the step's name and time. */
const asOneAct = (
  requests: readonly ProcedureStep[],
  { id, ifNot = 'end' }: TrialStep,
  time: number,
  from: number,
): readonly ProcedureStep[] =>
  requests.map((one) => ({
    ...one,
    ifNot,
    act: { from, to: from + requests.length },
    ...(one.kind === 'request' && one.keeps !== undefined ? { keeps: keptName(id, time) } : {}),
  }));

const putOff = (step: ProcedureStep): ProcedureStep => (step.kind === 'person' ? { ...step, mayWait: true } : step);

/** What a step read is kept under, each time that it is done. */
export const keptName = (id: string, time: number): string => `${id} ${time}`;

/** Tells the looks of a repeat whether it is over since when it counts, and what is left out then. */
function endAt(all: ProcedureStep[], steps: readonly CompiledStep[], i: number, { since, to }: RepeatEnd): void {
  const look = steps[i];
  const [from = 0, end = all.length] = [steps[since]?.from, steps[to]?.from];
  for (let at = look?.from ?? 0; look && at < look.to; at++) {
    const one = all[at];
    if (one?.kind === 'pause' && one.leaves) all[at] = { ...one, leaves: { ...one.leaves, since: from, to: end } };
    else if (one?.kind === 'watch') all[at] = { ...one, leavesTo: end };
  }
}

/** Where a repeat began first, and what comes after it, by their places among all steps. */
interface RepeatEnd {
  readonly since: number;
  readonly to: number;
}

interface Unrolled {
  readonly step: TrialStep;
  readonly time: number;
  readonly fault: string;
  /** Of a look whether a repeat is over. */
  readonly ends?: RepeatEnd;
}

/** Whether a repeat may end before it was done so many times. */
const mayEndEarly = ({ forS, untilWhat }: Extract<TrialStep, { kind: 'repeat' }>): boolean =>
  (forS ?? null) !== null || (untilWhat ?? null) !== null;

/** The steps one by one, with those that are repeated as often as they are done, and a look whether it is over before each time. */
function unrolled({ steps }: Trial): readonly Unrolled[] {
  const out: Unrolled[] = [];
  /** Where each step came first, and how often it came. */
  const first = new Map<string, number>();
  const times = new Map<string, number>();
  const put = (step: TrialStep): void => {
    const time = (times.get(step.id) ?? 0) + 1;
    times.set(step.id, time);
    out.push({ step, time, fault: '' });
  };
  steps.forEach((step) => {
    if (first.has(step.id)) return void out.push({ step, time: 1, fault: `another step is called ${step.id} too` });
    const since = step.kind === 'repeat' ? first.get(step.from) : undefined;
    first.set(step.id, out.length);
    if (step.kind !== 'repeat') return put(step);
    if (since === undefined) return void out.push({ step, time: 1, fault: `no step before it is called ${step.from}` });
    const body = out.slice(since);
    const looks = mayEndEarly(step);
    if (out.length + (body.length + (looks ? 1 : 0)) * (step.times - 1) > MOST_STEPS)
      return void out.push({ step, time: 1, fault: `a trial has at most ${MOST_STEPS} steps` });
    const to = out.length + (body.length + (looks ? 1 : 0)) * (step.times - 1);
    for (let time = 2; time <= step.times; time++) {
      if (looks) {
        put(step);
        out[out.length - 1] = { ...(out[out.length - 1] as Unrolled), ends: { since, to } };
      }
      const shift = out.length - since;
      for (const { step: one, ends } of body) {
        put(one);
        // A repeat among them begins and ends with them.
        if (ends)
          out[out.length - 1] = {
            ...(out[out.length - 1] as Unrolled),
            ends: { since: ends.since + shift, to: ends.to + shift },
          };
      }
    }
  });
  return out;
}
