import type { StepRecord, CycleTimes, RunState } from './run-state';
import { endRun, firstDueUs } from './run-state';
import { counted } from '../counted';
import type { Told } from '../places/place-link';
import { numberOfPattern } from '../values/pattern';
import { patternIn } from '../drive/seen';
import { fitsPattern } from '../profile/profile';
import { hexNumber } from '../bytes/hex';
import type { SerialSettings } from '../line/settings';
import { textToBytes } from '../bytes/text';
import { literalText } from '../dialect/literal';
import { heardIn, LONGEST_HEARD } from './heard';
import type { PersonStep, Procedure, ProcedureStep, RequestStep, SayStep, WatchStep, WordCondition } from './procedure';

/** Of a text that was not what was waited for, so much of its end is told. */
const LONGEST_END = 60;

const NO_CYCLE: CycleTimes = {
  done: 0,
  lost: 0,
  lostInARow: 0,
  missed: 0,
  beganUs: null,
  intervals: 0,
  sumUs: 0,
  leastUs: Infinity,
  worstUs: 0,
  inputUs: null,
  changedUs: [],
  goodUs: null,
};

/** What a run wants of its line now. */
export type Want =
  | { readonly kind: 'request'; readonly station: number; readonly bytes: Uint8Array }
  | { readonly kind: 'settings'; readonly settings: SerialSettings }
  | { readonly kind: 'wait'; readonly untilUs: number }
  | { readonly kind: 'person'; readonly step: PersonStep }
  | { readonly kind: 'withhold'; readonly station: number }
  | { readonly kind: 'nothing' };

/** An exchange of the run that is over. */
export interface ExchangeReport {
  /** `silent`: nothing sure came back. `sent`: nobody was to answer. */
  readonly outcome: 'answered' | 'refused' | 'sent' | 'silent';
  /** What the refusal means; empty where there was none. */
  readonly refusal: string;
  readonly words: Told;
  readonly exchange: number;
  /** When its request had left, and when it was over; line clock, microseconds. */
  readonly sentUs: number;
  readonly endedUs: number;
}

/** A run that asks nothing until it is told to go on. */
export const pauseRun = (run: RunState): RunState => (run.phase === 'running' ? { ...run, phase: 'paused' } : run);

/** Goes on after a pause; the time of the pause does not count. What did not come as it should stays noted as that. */
export function resumeRun(procedure: Procedure, run: RunState, nowUs: number): RunState {
  if (run.phase !== 'paused') return run;
  const step = stepOf(procedure, run);
  // Meanwhile the station was spoken to again: its silence begins anew.
  const isSilence = step?.kind === 'pause' && step.silent === true;
  const dueUs = isSilence ? firstDueUs(step, nowUs) : Math.max(run.dueUs, nowUs);
  const going = { ...run, phase: 'running' as const, asks: '', sinceUs: nowUs, dueUs };
  if (run.asks === '' && step?.kind === 'say' && run.heard !== undefined)
    return afterHeard(procedure, { ...going, dueUs: nowUs + step.withinUs }, '', nowUs);
  return run.asks === ''
    ? going
    : advanced(procedure, { ...going, sinceUs: run.sinceUs }, failedAt(run, nowUs, run.asks));
}

/** Does the act of which a step did not come as it should once more, from its first step. */
export function retryRun(procedure: Procedure, run: RunState, nowUs: number): RunState {
  if (run.phase !== 'paused' || run.asks === '') return run;
  const at = stepOf(procedure, run)?.act?.from ?? run.at;
  return {
    ...run,
    at,
    phase: 'running',
    asks: '',
    seen: null,
    notYetUs: null,
    heard: undefined,
    records: run.records.filter(({ step }) => step < at),
    sinceUs: nowUs,
    dueUs: firstDueUs(procedure.steps[at], nowUs),
  };
}

/** The step that a run is at; none after the last. */
export const stepOf = ({ steps }: Procedure, { at }: RunState): ProcedureStep | undefined => steps[at];

/** What a run wants of its line now: a request, a person’s answer, time, or nothing. */
export function wants(procedure: Procedure, run: RunState, nowUs: number): Want {
  const step = stepOf(procedure, run);
  if (run.phase !== 'running' || !step) return { kind: 'nothing' };
  if (step.kind === 'person') return { kind: 'person', step };
  if (run.dueUs > nowUs) return { kind: 'wait', untilUs: run.dueUs };
  switch (step.kind) {
    case 'withhold':
      return { kind: 'withhold', station: step.station };
    case 'settings':
      return { kind: 'settings', settings: step.settings };
    case 'pause':
      return { kind: 'wait', untilUs: run.dueUs };
    case 'say':
      if (run.heard !== undefined) return { kind: 'wait', untilUs: run.dueUs };
      return { kind: 'request', station: step.station, bytes: step.bytes };
    default:
      return { kind: 'request', station: step.station, bytes: bytesOf(step, run.round) };
  }
}

/** What a step sends in a round. */
const bytesOf = (step: Extract<ProcedureStep, { readonly bytes: Uint8Array }>, round: number): Uint8Array => {
  const then = step.kind === 'request' ? (step.then ?? []) : [];
  const turn = round % (then.length + 1);
  return turn === 0 ? step.bytes : (then[turn - 1] ?? step.bytes);
};

/** A pause that is over, settings that were made: the step is done. A text that was waited for did not come in its time. */
export function afterAct(procedure: Procedure, run: RunState, nowUs: number): RunState {
  const step = stepOf(procedure, run);
  const record = { good: true, seen: null, notYetUs: null, toUs: nowUs, exchange: 0, said: '' };
  if (step?.kind === 'say') return unmet(procedure, run, { ...record, good: false }, unheardText(step, run));
  if (step?.kind !== 'pause' || !step.leaves) return advanced(procedure, run, record);
  const { since, us, to } = step.leaves;
  const passedUs = nowUs - (run.records.find((one) => one.step === since)?.fromUs ?? nowUs);
  const said = `${(passedUs / 1e6).toFixed(1)} s since it began`;
  return advanced(procedure, run, { ...record, said }, passedUs >= us ? to : undefined);
}

/** Text came on a line of plain text: the step that waits for it is done once it is there. */
export function afterHeard(procedure: Procedure, run: RunState, text: string, nowUs: number): RunState {
  const step = stepOf(procedure, run);
  if (run.phase === 'over' || step?.kind !== 'say' || run.heard === undefined) return run;
  const heard = run.heard + text;
  // What comes in a pause is looked at when it is over.
  const found = run.phase === 'running' ? heardIn(step.hears, heard) : null;
  const record = { good: true, seen: null, notYetUs: null, toUs: nowUs, exchange: 0, said: found?.text ?? '' };
  return found ? advanced(procedure, run, record) : { ...run, heard: heard.slice(-LONGEST_HEARD) };
}

/** What came in place of a text that was waited for. */
function unheardText({ text, hears, withinUs }: SayStep, { heard = '' }: RunState): string {
  const end = heard.slice(-LONGEST_END);
  const came = heard === '' ? 'nothing came' : `what came ends with “${literalText(textToBytes(end))}”`;
  return `${text}: ${hears === '' ? 'an answer' : `“${hears}”`} did not come within ${withinUs / 1e6} s; ${came}`;
}

/** A person answers the question of the step under way when the run is over, where that may wait. */
export function afterPostponed(procedure: Procedure, run: RunState, nowUs: number): RunState {
  const step = stepOf(procedure, run);
  if (run.phase !== 'running' || step?.kind !== 'person' || step.mayWait !== true) return run;
  const record = { good: true, seen: null, notYetUs: null, toUs: nowUs, exchange: 0, said: '', waits: true };
  return advanced(procedure, run, record);
}

/** The same answer that was put off, by the place of its record; the run as it is where that takes no such answer. */
export function answeredLater({ steps }: Procedure, run: RunState, at: number, said: string): RunState {
  const record = run.records[at];
  const step = record && steps[record.step];
  const good = record?.waits && step?.kind === 'person' ? goodAnswer(step, said) : null;
  if (!record || good === null) return run;
  return { ...run, records: run.records.map((one, i) => (i === at ? { ...one, good, said, waits: false } : one)) };
}

/** Whether an answer is as it should be; null where it is no answer to this question. */
function goodAnswer({ choices, number }: PersonStep, said: string): boolean | null {
  const choice = choices.find(({ name }) => name === said);
  if (choices.length > 0 && !choice) return null;
  return number ? isWithin(number, said) : choice?.goesOn !== false;
}

/** A person answered the question of the step under way. */
export function afterPerson(procedure: Procedure, run: RunState, said: string, nowUs: number): RunState {
  const step = stepOf(procedure, run);
  if (run.phase !== 'running' || step?.kind !== 'person') return run;
  const good = goodAnswer(step, said);
  if (good === null) return run;
  const record = { good, seen: null, notYetUs: null, toUs: nowUs, exchange: 0, said };
  return good ? advanced(procedure, run, record) : unmet(procedure, run, record, `${step.text}: ${said}`);
}

/** Whether a typed number lies where it should; null where it is none. */
function isWithin({ least, most }: NonNullable<PersonStep['number']>, said: string): boolean | null {
  const number = said.trim() === '' ? NaN : Number(said);
  return Number.isFinite(number) ? number >= (least ?? -Infinity) && number <= (most ?? Infinity) : null;
}

/** A step did not come as it should: the run ends there, goes on, or waits for a person, as the step has it. */
function unmet(procedure: Procedure, run: RunState, record: Noted, why: string): RunState {
  switch (stepOf(procedure, run)?.ifNot ?? 'end') {
    case 'go-on':
      return advanced(procedure, run, { ...record, said: record.said === '' ? why : record.said });
    case 'ask':
      return { ...run, phase: 'paused', asks: why, dueUs: record.toUs };
    case 'end':
      return endRun(recorded(run, record), 'surprise', why);
  }
}

const failedAt = ({ seen, notYetUs }: RunState, toUs: number, said: string): Noted => ({
  good: false,
  seen,
  notYetUs,
  toUs,
  exchange: 0,
  said,
});

/** What an exchange of the run led to. */
export function afterReport(procedure: Procedure, before: RunState, report: ExchangeReport): RunState {
  const step = stepOf(procedure, before);
  if (before.phase === 'over' || !step) return before;
  const run = {
    ...before,
    sent: before.sent + 1,
    answered: before.answered + (report.outcome === 'answered' ? 1 : 0),
  };
  switch (step.kind) {
    case 'request': {
      const good = isGood(step, report);
      const record = { ...failedAt(run, report.endedUs, troubleOf(report)), good, exchange: report.exchange };
      const kept = step.keeps === undefined ? run : withKept(procedure, run, step.keeps, report);
      return good || step.needs === 'end'
        ? advanced(procedure, kept, record)
        : unmet(
            procedure,
            kept,
            record,
            `${step.text}: ${troubleOf(report) || 'it was answered, and should have been refused'}`,
          );
    }
    case 'watch':
      return afterWatch(procedure, run, step, report);
    case 'say':
      return { ...run, heard: '', dueUs: report.endedUs + step.withinUs };
    case 'return':
      if (report.outcome === 'answered' || report.outcome === 'refused')
        return advanced(procedure, run, {
          ...failedAt(run, report.endedUs, ''),
          good: true,
          exchange: report.exchange,
        });
      return report.endedUs - run.sinceUs > step.withinUs
        ? unmet(
            procedure,
            run,
            failedAt(run, report.endedUs, ''),
            `${step.text}: nothing answered within ${step.withinUs / 1e6} s`,
          )
        : { ...run, dueUs: report.endedUs + step.everyUs };
    default:
      return run;
  }
}

/** Whether what came is what the request needs. */
const isGood = ({ needs }: RequestStep, { outcome }: ExchangeReport): boolean =>
  needs === 'any' || (needs === 'refusal' ? outcome === 'refused' : outcome === 'answered' || outcome === 'sent');

const troubleOf = ({ outcome, refusal }: ExchangeReport): string =>
  outcome === 'refused' ? `the drive refused it: ${refusal}` : outcome === 'silent' ? 'no sure answer came' : '';

/** A trial keeps all that was told under a name; of a cycle, which has no end, the last counts, and only where it was told. */
function withKept({ kind }: Procedure, run: RunState, name: string, { words, endedUs }: ExchangeReport): RunState {
  if (kind !== 'cycle') return { ...run, kept: { ...run.kept, [name]: [...(run.kept[name] ?? []), ...words] } };
  if (words.length === 0) return run;
  const before = new Map(run.kept[name]);
  const cycle = run.cycle ?? NO_CYCLE;
  const changedUs = new Map(cycle.changedUs);
  for (const [cell, word] of words) if (before.get(cell) !== word) changedUs.set(cell, endedUs);
  return { ...run, kept: { ...run.kept, [name]: words }, cycle: { ...cycle, changedUs: [...changedUs] } };
}

const holds = ({ any, none = [], range }: WordCondition, word: number): boolean =>
  (any.some((pattern) => fitsPattern(pattern, word)) || isInRange(range, word)) &&
  !none.some((pattern) => fitsPattern(pattern, word));

function isInRange(range: WordCondition['range'], word: number): boolean {
  if (!range) return false;
  const number = numberOfPattern(range.type, word);
  const { least, most, turn } = range;
  if (turn === undefined) return number >= least && number <= most;
  return number - least - turn * Math.floor((number - least) / turn) <= most - least;
}

function afterWatch(procedure: Procedure, before: RunState, step: WatchStep, report: ExchangeReport): RunState {
  const told = new Map(report.words);
  const wordAt = (place: WordCondition['place']): number | undefined => patternIn(place, (cell) => told.get(cell));
  const seen = wordAt(step.until.place) ?? null;
  const run = { ...before, seen: seen ?? before.seen };
  const { notYetUs } = before;
  const record = { good: true, seen, notYetUs, toUs: report.endedUs, exchange: report.exchange, said: '' };
  if (seen !== null && holds(step.until, seen)) return advanced(procedure, run, record, step.leavesTo);
  if (seen !== null && step.leavesTo !== undefined) return advanced(procedure, run, record);
  const bad = step.never && wordAt(step.never.when.place);
  if (step.never && bad !== undefined && holds(step.never.when, bad))
    return unmet(procedure, run, { ...record, good: false }, `${step.never.why}: ${hexNumber(bad, step.width / 4)}`);
  if (report.endedUs - run.sinceUs > step.withinUs)
    return unmet(procedure, run, { ...record, seen: run.seen, good: false }, overdueText(step, run.seen));
  // The drive looked after it was asked, and before its answer was here: it was not so yet at the first of the two.
  return { ...run, notYetUs: seen === null ? notYetUs : report.sentUs, dueUs: report.endedUs + step.everyUs };
}

/** What was seen in place of what should have been. */
function overdueText({ overdue, names, hints, width, withinUs, until }: WatchStep, seen: number | null): string {
  if (seen === null) return `${overdue}, but nothing was seen of it within ${withinUs / 1e6} s`;
  if (until.range) return `${overdue}, but it did not come within ${withinUs / 1e6} s`;
  const called = names.filter((pattern) => fitsPattern(pattern, seen)).map(({ name }) => name);
  const is = called.length > 0 ? `“${called.join(' or ')}”` : 'what has no name';
  const why = hints.filter((pattern) => fitsPattern(pattern, seen)).map(({ text }) => `; ${text}`);
  return `${overdue}, but for ${withinUs / 1e6} s it is ${is}, ${hexNumber(seen, width / 4)}${why.join('')}`;
}

type Noted = Omit<StepRecord, 'step' | 'fromUs'>;

const recorded = (run: RunState, record: Noted): RunState => ({
  ...run,
  records: [...run.records, { ...record, step: run.at, fromUs: run.sinceUs }],
});

/** Notes a step and goes to the next one, past the rest of its act where it did not come as it should, past what it leaves out, to the next round, or to the end. */
function advanced(procedure: Procedure, run: RunState, record: Noted, leavesTo?: number): RunState {
  const noted = recorded(run, record);
  const next = (record.good ? leavesTo : stepOf(procedure, run)?.act?.to) ?? run.at + 1;
  const last = next >= procedure.steps.length;
  const round = run.round + (last ? 1 : 0);
  if (last && procedure.rounds !== null && round >= procedure.rounds)
    return { ...noted, round, phase: 'over', end: 'done' };
  const at = last ? 0 : next;
  const cycle = procedure.kind === 'cycle' ? cycled(procedure, noted, record, last) : undefined;
  const dueUs = firstDueUs(procedure.steps[at], record.toUs);
  const silence = cycle && last ? silenceIn(procedure, cycle, dueUs) : '';
  if (silence !== '') return endRun({ ...noted, ...(cycle ? { cycle } : {}) }, 'surprise', silence);
  return {
    ...noted,
    ...(cycle ? { cycle } : {}),
    // Only the present round is kept step by step: an endless run must not grow.
    records: last ? [] : noted.records,
    at,
    round,
    seen: null,
    notYetUs: null,
    heard: undefined,
    sinceUs: record.toUs,
    dueUs,
    ...(procedure.stopsAt?.includes(at) ? { phase: 'paused' } : {}),
  };
}

/** The times of a cycle after one more of its steps; `isLast`: the round is over by it. */
function cycled(procedure: Procedure, run: RunState, record: Noted, isLast: boolean): CycleTimes {
  const before = run.cycle ?? NO_CYCLE;
  const step = stepOf(procedure, run);
  const begun = step?.kind === 'pause' && step.beat ? beaten(before, step.us, record.toUs) : before;
  const told = step?.kind === 'request' && record.good && step.keeps !== undefined;
  const cycle = told ? { ...begun, inputUs: record.toUs } : begun;
  if (!isLast) return cycle;
  const isGood = run.records.every(({ good }) => good);
  return isGood
    ? { ...cycle, done: cycle.done + 1, lostInARow: 0, goodUs: record.toUs }
    : { ...cycle, lost: cycle.lost + 1, lostInARow: cycle.lostInARow + 1 };
}

/** Why a cycle does not go on: answers stayed away too often, or for so long that nobody knows what became of the drive; empty where it does. */
function silenceIn(
  { lostMost = Infinity, silentMostUs = Infinity, life }: Procedure,
  cycle: CycleTimes,
  nextUs: number,
): string {
  const { lostInARow, goodUs, beganUs } = cycle;
  if (lostInARow > lostMost) return `${counted(lostInARow, 'cycle')} in a row came without an answer`;
  const changedUs = life && cycle.changedUs.find(([cell]) => cell === life.cell)?.[1];
  const stoodUs = nextUs - (changedUs ?? nextUs);
  if (life && stoodUs > life.withinUs)
    return `the drive’s sign of life has been the same for ${(stoodUs / 1e6).toFixed(1)} s`;
  const silentUs = nextUs - (goodUs ?? beganUs ?? nextUs);
  return lostInARow > 0 && silentUs > silentMostUs
    ? `no answer for ${(silentUs / 1e6).toFixed(1)} s: the drive may have been off, and is not asked to run again`
    : '';
}

function beaten(cycle: CycleTimes, everyUs: number, nowUs: number): CycleTimes {
  if (cycle.beganUs === null) return { ...cycle, beganUs: nowUs };
  const us = nowUs - cycle.beganUs;
  return {
    ...cycle,
    beganUs: nowUs,
    missed: cycle.missed + Math.max(0, Math.round(us / everyUs) - 1),
    intervals: cycle.intervals + 1,
    sumUs: cycle.sumUs + us,
    leastUs: Math.min(cycle.leastUs, us),
    worstUs: Math.max(cycle.worstUs, us),
  };
}
