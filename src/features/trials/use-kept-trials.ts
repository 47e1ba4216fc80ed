import { asNumber } from '../../core/as-number';
import { useEffect } from 'react';
import type { Bench } from '../../bench/bench';
import { useBench, useBenchState } from '../../bench/bench-context';
import { stationKey, type BenchState } from '../../bench/state/bench-state';
import { forThisBench } from '../../bench/state/for-this-bench';
import { liveOf } from '../../bench/state/known-state';
import { UNKNOWN_STATION } from '../../bench/state/live-values';
import { messageOf } from '../../core/message-of';
import { valueIn } from '../../core/drive/describe';
import { pinnedIn } from '../../core/sheet/shelf';
import { movesAxis } from '../../core/trial/expect';
import { lastSecond, sampleCount, withSample, type SeenLine } from '../../core/trial/seen-line';
import type { TrialRunRow } from '../../store/database';
import { putRun, trialsStore } from './trials-store';

/** A run under way is written this often; its end at once. */
const WRITE_EVERY_MS = 1000;
/** More points of the line than this are not kept: an hour at twenty a second. */
const MOST_SAMPLES = 72_000;

/** Reads the runs that this browser keeps of the open job, once; from then on what runs is kept as it goes. */
export function useKeptTrials(): void {
  const bench = useBench();
  const job = useBenchState((state) => state.job?.id ?? '');
  useEffect(() => {
    forThisBench('trials', bench, () => keepRuns(bench));
    if (job === '' || trialsStore.getState().job === job) return;
    // Runs of other jobs stay: the line may still tell of them.
    trialsStore.setState({ job, shown: '' });
    bench.trials.of(job).then(
      (rows) => {
        trialsStore.setState((state) =>
          state.job === job ? { runs: new Map([...rows.map((row) => [row.id, row] as const), ...state.runs]) } : {},
        );
        // What a reload cut is told by the bench; it may have come before the rows did.
        takeNews(bench, bench.state.getState());
      },
      (error: unknown) =>
        bench.state.setState({ refused: `what is kept of this job’s trials was not read: ${messageOf(error)}` }),
    );
  }, [bench, job]);
}

function keepRuns(bench: Bench): () => void {
  takeNews(bench, bench.state.getState());
  return bench.state.subscribe((state, before) => {
    if (state.runs !== before.runs || state.views !== before.views) takeNews(bench, state);
  });
}

/** When each run was written last; those that are over are done with, also where their row is deleted since. */
const written = new Map<string, { readonly atMs: number; readonly isOver: boolean }>();

/** What the line has told of each trial since it was looked at last. */
function takeNews(bench: Bench, state: BenchState): void {
  for (const { id, about, run, procedure } of state.runs) {
    if (procedure.kind !== 'trial' || written.get(id)?.isOver === true) continue;
    const known = trialsStore.getState().runs.get(id) ?? (about.kind === 'trial' ? { ...about.row, id } : null);
    if (!known || known.run?.phase === 'over') continue;
    const samples = run?.phase === 'over' ? known.samples : sampled(state, known);
    if (known.run === run && samples === known.samples && written.has(id)) continue;
    const row: TrialRunRow = { ...known, run, samples };
    putRun(row);
    const nowMs = performance.now();
    const isOver = run?.phase === 'over';
    if (!isOver && nowMs - (written.get(id)?.atMs ?? -Infinity) < WRITE_EVERY_MS) continue;
    written.set(id, { atMs: nowMs, isOver });
    bench.trials
      .keep(row)
      .catch((error: unknown) =>
        bench.state.setState({ refused: `the run of ${row.compiled.trial.name} is not kept: ${messageOf(error)}` }),
      );
  }
}

/** With the actual speed, or the position of an axis that is moved, where one was seen that is newer than the last. */
function sampled(state: BenchState, { line, station, sheet, samples, compiled }: TrialRunRow): SeenLine {
  const index = pinnedIn(state.sheets, sheet);
  const role = movesAxis(compiled.steps) ? 'actual-position' : 'actual-speed';
  const place = index?.byRole.get(role);
  const live = liveOf(index ?? null, state.views.get(stationKey(line, station)) ?? UNKNOWN_STATION, role);
  if (!index || !place || !live || sampleCount(samples) >= MOST_SAMPLES) return samples;
  if (live.atUs / 1e6 <= (lastSecond(samples) ?? -1)) return samples;
  const value = valueIn(index.sheet, place, live.word);
  return value ? withSample(samples, { x: live.atUs / 1e6, y: asNumber(value) }) : samples;
}
