import type { Told } from '../places/place-link';
import type { Procedure, ProcedureStep } from './procedure';

/** How a run ended. Only `done` means that all its steps were done. */
export type RunEnd =
  'done' | 'surprise' | 'stop' | 'by-hand' | 'replaced' | 'closed' | 'lost' | 'asleep' | 'reload' | 'refused';

/** What became of one step in the present round. */
export interface StepRecord {
  readonly step: number;
  readonly good: boolean;
  /** The word that a watch saw last; null where none was seen. */
  readonly seen: number | null;
  /** When the step before ended, and when this one did; line clock, microseconds. */
  readonly fromUs: number;
  readonly toUs: number;
  /** When a watch had last asked and it was not so yet: what it waited for came after that. Null where it was so at once. */
  readonly notYetUs: number | null;
  /** The exchange on which it rests; 0 where there was none. */
  readonly exchange: number;
  /** A person's answer, or what went wrong; empty otherwise. */
  readonly said: string;
  /** A question that is not answered yet; absent: nothing of it waits. */
  readonly waits?: boolean;
}

/** How a cycle goes: times between the beginnings of two of its rounds, in microseconds of the line's clock. */
export interface CycleTimes {
  /** Rounds with a good answer to each request, and those without. */
  readonly done: number;
  readonly lost: number;
  readonly lostInARow: number;
  /** Beats that were left out, since the round before was not over. */
  readonly missed: number;
  /** When the last round began; null before the first. */
  readonly beganUs: number | null;
  readonly intervals: number;
  readonly sumUs: number;
  readonly leastUs: number;
  readonly worstUs: number;
  /** When the inputs were told last; null while they were not. */
  readonly inputUs: number | null;
  /** When each word of the inputs was told first, or other than before. */
  readonly changedUs: Told;
  /** When a round last had all its answers; null before the first. */
  readonly goodUs: number | null;
}

/** Where a run is. Plain data: it goes to the page and into the database as it is. */
export interface RunState {
  readonly id: string;
  /** Place of the step under way, or of the one at which it ended. */
  readonly at: number;
  readonly round: number;
  readonly phase: 'running' | 'paused' | 'over';
  /** When the step under way began, and when it wants to act next; line clock, microseconds. */
  readonly sinceUs: number;
  readonly dueUs: number;
  /** Counted over all rounds. */
  readonly sent: number;
  readonly answered: number;
  readonly records: readonly StepRecord[];
  /** The last word that a watch under way saw, and when that was. */
  readonly seen: number | null;
  readonly notYetUs: number | null;
  /** What came since a text was said, and while another is waited for; absent before it went out. */
  readonly heard?: string | undefined;
  /** What did not come as it should, where a person is to say how it goes on; empty otherwise. */
  readonly asks: string;
  /** What steps kept, by name: places and their words. */
  readonly kept: Readonly<Record<string, Told>>;
  readonly end: RunEnd | null;
  /** Why it ended before its end; empty otherwise. */
  readonly why: string;
  /** Of a cycle only: how it goes. */
  readonly cycle?: CycleTimes;
}

/** A procedure at its first step. */
export function beginRun(procedure: Procedure, id: string, nowUs: number): RunState {
  const run: RunState = {
    id,
    at: 0,
    round: 0,
    phase: 'running',
    sinceUs: nowUs,
    dueUs: nowUs,
    sent: 0,
    answered: 0,
    records: [],
    seen: null,
    notYetUs: null,
    asks: '',
    kept: {},
    end: null,
    why: '',
  };
  return procedure.steps.length === 0
    ? endRun(run, 'refused', 'there is nothing to do')
    : { ...run, dueUs: firstDueUs(procedure.steps[0], nowUs) };
}

/** A run that ended, why, and how; one that was over stays as it was. */
export const endRun = (run: RunState, end: RunEnd, why: string): RunState =>
  run.phase === 'over' ? run : { ...run, phase: 'over', end, why };

/** When a step first wants to act, if it begins at `nowUs`. */
export function firstDueUs(step: ProcedureStep | undefined, nowUs: number): number {
  if (step?.kind === 'pause' && step.beat) return (Math.floor(nowUs / step.us) + 1) * step.us;
  return nowUs + (step?.kind === 'pause' ? step.us : step?.kind === 'return' ? step.fromUs : 0);
}
