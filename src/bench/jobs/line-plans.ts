import { pinnedIn, standinSheet, type SheetRef } from '../../core/sheet/shelf';
import type { Sheet } from '../../core/sheet/sheet';
import type { Job, JobLine, JobStation } from '../../core/job/job';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { FarEnd, LinePlan, LineState } from '../../messages/line';

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

/** Sheets without what a stand-in does not have; the same object each time, since plans are told apart by it. */
const reduced = new WeakMap<Sheet, Map<string, Sheet>>();

function without(sheet: Sheet, absent: readonly string[]): Sheet {
  const known = reduced.get(sheet) ?? new Map<string, Sheet>();
  reduced.set(sheet, known);
  const key = absent.join(' ');
  const made = known.get(key) ?? {
    ...sheet,
    parameters: (sheet.parameters ?? []).filter(({ number }) => !absent.includes(number)),
  };
  known.set(key, made);
  return made;
}

/** The sheet that a stand-in runs from where that is not the station's own. */
function standinOf(
  sheets: ReadonlyMap<string, SheetIndex>,
  pinned: SheetRef | undefined,
  standin: JobStation['standin'],
): Sheet | null {
  if (!standin) return null;
  const own = standin.sheet === undefined ? null : (standinSheet(sheets, standin.sheet)?.sheet ?? null);
  if (!standin.absent) return own;
  const base = own ?? pinnedIn(sheets, pinned)?.sheet;
  return base ? without(base, standin.absent) : null;
}

/** What the line worker must know of a line; null where the job names no way to its other end. */
export function planOf(line: JobLine, sheets: ReadonlyMap<string, SheetIndex>): LinePlan | null {
  const far = farOf(line);
  if (!far) return null;
  const { id, protocol, serial, timeoutMs, stations } = line;
  return {
    id,
    protocol: protocol === 'raw-tcp' ? 'raw' : protocol,
    settings: serial ?? null,
    far,
    echo: line.echo === true,
    timeoutMs: timeoutMs ?? null,
    stations: stations.map(({ station, sheet, standin }) => ({
      station,
      sheet: pinnedIn(sheets, sheet)?.sheet ?? null,
      standin: standinOf(sheets, sheet, standin),
      factory: standin?.parameters ?? {},
    })),
  };
}

/** What the worker of each line has to know of a job; lines whose other end is not built have no plan. */
export const plansOf = (job: Job, sheets: ReadonlyMap<string, SheetIndex>): readonly LinePlan[] =>
  job.lines.flatMap((line) => planOf(line, sheets) ?? []);

const sameFactory = (a: LinePlan['stations'][number]['factory'], b: typeof a): boolean => {
  const [names, others] = [Object.keys(a), Object.keys(b)];
  return names.length === others.length && names.every((name) => a[name] === b[name]);
};

const sameFar = (a: FarEnd, b: FarEnd): boolean =>
  a.kind === 'tcp' && b.kind === 'tcp' ? a.host === b.host && a.port === b.port : a.kind === b.kind;

/** Whether two plans build the same line. Settings of this end and its echo change without a new one; sheets are told apart by being another. */
const samePlan = (a: LinePlan, b: LinePlan): boolean =>
  a.protocol === b.protocol &&
  (a.settings === null) === (b.settings === null) &&
  a.timeoutMs === b.timeoutMs &&
  sameFar(a.far, b.far) &&
  a.stations.length === b.stations.length &&
  a.stations.every((station, i) => {
    const other = b.stations[i];
    return (
      other !== undefined &&
      station.station === other.station &&
      station.sheet === other.sheet &&
      station.standin === other.standin &&
      sameFactory(station.factory, other.factory)
    );
  });

type Sheets = ReadonlyMap<string, SheetIndex>;

/** Lines whose plan differs between two states of a job and its sheets, and lines that are gone. What is the same object costs nothing. */
export function changedPlans(
  before: { readonly job: Job; readonly sheets: Sheets },
  after: { readonly job: Job; readonly sheets: Sheets },
): { readonly plans: readonly LinePlan[]; readonly gone: readonly string[] } {
  if (before.job.lines === after.job.lines && before.sheets === after.sheets) return { plans: [], gone: [] };
  const old = new Map(before.job.lines.map((line) => [line.id, line]));
  const plans: LinePlan[] = [];
  const kept = new Set<string>();
  for (const line of after.job.lines) {
    const plan = planOf(line, after.sheets);
    if (plan) kept.add(line.id);
    const was = old.get(line.id);
    if (!plan || (was === line && before.sheets === after.sheets)) continue;
    const earlier = was ? planOf(was, before.sheets) : null;
    if (!earlier || !samePlan(earlier, plan)) plans.push(plan);
  }
  const gone = before.job.lines.filter((line) => !kept.has(line.id) && planOf(line, before.sheets) !== null);
  return { plans, gone: gone.map(({ id }) => id) };
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
