import type { Job, JobLine } from '../core/job/job';
import type { SheetIndex } from '../core/sheet/index-sheet';
import type { FarEnd, LinePlan, LineState } from '../link/messages';

function farOf({ far, tcp }: JobLine): FarEnd | null {
  switch (far) {
    case 'yard':
    case 'serial-port':
      return { kind: far };
    case 'tcp':
      return tcp ? { kind: 'tcp', ...tcp } : null;
    case 'not-built':
      return null;
  }
}

/** What the line worker must know of a line; null where the job names no way to its other end. */
export function planOf(line: JobLine, sheets: ReadonlyMap<string, SheetIndex>): LinePlan | null {
  const far = farOf(line);
  if (!far) return null;
  const { id, protocol, serial, stations } = line;
  return {
    id,
    protocol: protocol === 'raw-tcp' ? 'raw' : protocol,
    settings: serial ?? null,
    far,
    echo: line.echo === true,
    stations: stations.map(({ station, sheet, standin }) => ({
      station,
      sheet: (sheet && sheets.get(sheet.slug)?.sheet) ?? null,
      factory: standin?.parameters ?? {},
    })),
  };
}

export const plansOf = (job: Job, sheets: ReadonlyMap<string, SheetIndex>): readonly LinePlan[] =>
  job.lines.flatMap((line) => planOf(line, sheets) ?? []);

/** Lines whose plan differs between two states of a job, and lines that are gone. Settings of this end and its echo change without a new plan. */
export function changedPlans(
  before: Job,
  after: Job,
  sheets: ReadonlyMap<string, SheetIndex>,
): { readonly plans: readonly LinePlan[]; readonly gone: readonly string[] } {
  const textOf = (plan: LinePlan): string => JSON.stringify({ ...plan, echo: false, settings: plan.settings !== null });
  const old = new Map(plansOf(before, sheets).map((plan) => [plan.id, textOf(plan)]));
  const plans = plansOf(after, sheets);
  const kept = new Set(plans.map(({ id }) => id));
  return {
    plans: plans.filter((plan) => old.get(plan.id) !== textOf(plan)),
    gone: [...old.keys()].filter((id) => !kept.has(id)),
  };
}

/** Why these lines are not closed by a change: one of them has a drive in motion. Empty where none has. */
export function whyKeptOpen(
  { job, lines }: { readonly job: Job | null; readonly lines: ReadonlyMap<string, Pick<LineState, 'driven'>> },
  ids: readonly string[],
): string {
  const moving = ids.filter((id) => (lines.get(id)?.driven.length ?? 0) > 0);
  if (moving.length === 0) return '';
  const names = moving.map((id) => job?.lines.find((line) => line.id === id)?.name ?? id);
  return `Not done: it would close ${names.join(', ')}, on which this bench set a drive in motion. Press Stop first, or close the line.`;
}
