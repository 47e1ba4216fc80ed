import type { Told } from '../places/place-link';
import type { ProcedureStep } from '../procedure/procedure';
import type { RunState, StepRecord } from '../procedure/run-state';
import { textToBytes } from '../bytes/text';
import { literalText } from '../dialect/literal';
import { meaningOf } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { patternIn } from '../drive/seen';
import type { CompiledStep, CompiledTrial } from './compile';
import { measured, type Measured } from './measure';
import { recordsByStep } from './records';
import { parameterOf } from './place-value';
import type { TrialStep } from './trial';

/** `open`: it was done, and what it came to cannot be told. `not-done`: it was not reached, or was left out. */
export type Verdict = 'passed' | 'failed' | 'open' | 'under-way' | 'not-done';

export interface StepReport {
  readonly compiled: CompiledStep;
  readonly verdict: Verdict;
  /** Why it is not passed; empty where it is. */
  readonly why: string;
  /** What was read, seen or answered, for people; empty where there was nothing. */
  readonly seen: string;
  /** Line clock, microseconds; null before it began and ended. */
  readonly fromUs: number | null;
  readonly toUs: number | null;
  /** Exchanges on which it rests. */
  readonly exchanges: readonly number[];
}

export interface TrialReport {
  readonly steps: readonly StepReport[];
  readonly measures: readonly Measured[];
  readonly verdict: Verdict;
}

/** What a run came to, step by step, with what is worked out of it; of a run that is under way, what is known so far. */
export function reportOf(index: SheetIndex, compiled: CompiledTrial, run: RunState | null): TrialReport {
  const records = recordsByStep(compiled.steps, run);
  const steps = compiled.steps.map((step, i) => stepReport(index, compiled, step, records[i] ?? [], run));
  const measures = run ? (compiled.trial.measures ?? []).map((measure) => measured(index, compiled, run, measure)) : [];
  return { steps, measures, verdict: verdictOf(run, steps, measures) };
}

function verdictOf(run: RunState | null, steps: readonly StepReport[], measures: readonly Measured[]): Verdict {
  if (!run) return 'not-done';
  const has = (verdict: Verdict): boolean => [...steps, ...measures].some((one) => one.verdict === verdict);
  if (steps.some(({ verdict }) => verdict === 'failed')) return 'failed';
  if (run.phase !== 'over') return 'under-way';
  if (run.end !== 'done') return 'not-done';
  return has('failed') ? 'failed' : has('open') ? 'open' : 'passed';
}

function stepReport(
  index: SheetIndex,
  { procedure }: CompiledTrial,
  compiled: CompiledStep,
  records: readonly StepRecord[],
  run: RunState | null,
): StepReport {
  const { from, to, fault } = compiled;
  const seen = records
    .map((record) => seenText(index, compiled, procedure?.steps[record.step], record, run))
    .filter((text) => text !== '');
  const bad = records.find(({ good }) => !good);
  const isOver = run?.phase === 'over';
  const isHere = run !== null && run.at >= from && run.at < to;
  const isLeftOut = run !== null && records.length === 0 && from < to && (run.at >= to || run.end === 'done');
  const waits = records.some((record) => record.waits === true);
  const verdict: Verdict = bad
    ? 'failed'
    : waits
      ? 'open'
      : fault !== '' || run === null
        ? 'not-done'
        : records.length === to - from && (run.at >= to || run.end === 'done')
          ? 'passed'
          : isHere && !isOver
            ? 'under-way'
            : 'not-done';
  const why = bad
    ? bad.said || (isHere ? (run?.why ?? '') : '')
    : fault !== ''
      ? fault
      : isHere
        ? isOver
          ? (run?.why ?? '')
          : (run?.asks ?? '')
        : waits
          ? 'to be answered yet'
          : isLeftOut
            ? 'left out: the repeat was over before it'
            : '';
  return {
    compiled,
    verdict,
    why,
    seen: [...new Set(seen)].join(', '),
    fromUs: records[0]?.fromUs ?? (isHere ? (run?.sinceUs ?? null) : null),
    toUs: records[records.length - 1]?.toUs ?? null,
    exchanges: records.flatMap(({ exchange }) => (exchange === 0 ? [] : [exchange])),
  };
}

/** What a record shows: a person's answer, the value that was read, the value on which a wait ended. */
function seenText(
  index: SheetIndex,
  { step, held }: CompiledStep,
  done: ProcedureStep | undefined,
  record: StepRecord,
  run: RunState | null,
): string {
  if (done?.kind === 'pause' && done.leaves) return record.said;
  if (done?.kind === 'say') return record.good ? literalText(textToBytes(record.said)) : '';
  if (done?.kind === 'person') return `${record.said}${done.number?.unit ? ` ${done.number.unit}` : ''}`;
  // What was to be refused says by what it was.
  if (done?.kind === 'request')
    return done.keeps === undefined
      ? record.good
        ? record.said
        : ''
      : readText(index, step, held, run?.kept[done.keeps]);
  if (done?.kind !== 'watch' || record.seen === null) return '';
  const cell = done.until.place.cells[0];
  const place = cell === undefined ? undefined : index.byCell.get(cell);
  if (!place) return '';
  // What the drive's table still holds was shown before the run.
  if (step.kind === 'stored-move' && place.role === undefined && record.good) return '';
  const { profile } = index;
  if (place.role === 'status-word' && profile && step.kind !== 'wait-bit')
    return profile.states.find(({ mask, value }) => ((record.seen ?? 0) & mask) === value)?.name ?? '';
  return shownValue(index, place, record.seen, held);
}

function readText(index: SheetIndex, step: TrialStep, held: CompiledStep['held'], kept: Told = []): string {
  const place = step.kind === 'read' ? parameterOf(index, step.what) : undefined;
  const told = new Map(kept);
  const pattern = place && patternIn(place, (cell) => told.get(cell));
  return place && pattern !== undefined ? shownValue(index, place, pattern, held) : '';
}

/** A password or a key to a lock is in no report. */
const shownValue = (index: SheetIndex, place: PlacedParameter, pattern: number, held: CompiledStep['held']): string =>
  place.secret === true ? '••••' : meaningOf(index, place, pattern, (number) => held?.[number]);
