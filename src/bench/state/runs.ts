import type { Cell } from '../../core/sheet/place';
import type { Procedure, ProcedureKind } from '../../core/procedure/procedure';
import type { RunState } from '../../core/procedure/run-state';
import type { RouteStep } from '../../core/profile/route';
import type { TrialRunRow } from '../../store/database';
import type { RunReport } from '../../messages/line';

/** What the view that began a run shows beside it; not known any more of one that a reload ended. */
export type RunAbout =
  | { readonly kind: 'route'; readonly target: string; readonly steps: readonly RouteStep[] }
  | { readonly kind: 'both-ends'; readonly wayBack: string; readonly breakMs: number | null }
  /** `written`: places that were written since the drive last started. */
  | { readonly kind: 'restart'; readonly written: ReadonlySet<Cell> }
  /** What the view made of it is kept with the run. */
  | { readonly kind: 'trial'; readonly row: Omit<TrialRunRow, 'id'> }
  | { readonly kind: 'none' };

/** A procedure that runs on a line, or ran. */
export interface RunView {
  readonly id: string;
  readonly line: string;
  readonly procedure: Procedure;
  readonly about: RunAbout;
  /** Null until the worker has said that it began. */
  readonly run: RunState | null;
}

/** Runs that views may still ask for. */
export const RUNS_KEPT = 20;

/** The procedures with the newest word of each. */
export function runsAfter(runs: readonly RunView[], news: readonly RunReport[]): readonly RunView[] {
  if (news.length === 0) return runs;
  const newest = new Map(news.map(({ run }) => [run.id, run]));
  return runs.map((view) => ({ ...view, run: newest.get(view.id) ?? view.run }));
}

/** Whether a procedure has not ended, and may still send. */
export const isUnderWay = ({ run }: RunView): boolean => run?.phase !== 'over';

/** The newest run of a kind on a line. */
export const lastRun = (
  { runs }: { readonly runs: readonly RunView[] },
  line: string,
  ...kinds: readonly ProcedureKind[]
): RunView | null => runs.findLast((view) => view.line === line && kinds.includes(view.procedure.kind)) ?? null;

/** One line on how a list of frames goes. */
export function listText(view: RunView | null): string {
  if (!view) return '';
  const { sent = 0, answered = 0, why = '' } = view.run ?? {};
  const end = isUnderWay(view) ? '' : `, ended${why ? `: ${why}` : ''}`;
  return `${view.procedure.title}: ${sent} sent, ${answered} answered${end}`;
}
