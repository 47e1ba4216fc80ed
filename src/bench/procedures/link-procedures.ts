import { withLine } from '../../core/job/job';
import type { SerialSettings } from '../../core/line/settings';
import { bothEndsProcedure, restartProcedure } from '../../core/procedure/link-procedures';
import type { Procedure } from '../../core/procedure/procedure';
import type { Result } from '../../core/result';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { LinkChange } from '../../core/papers/link-change';
import type { Bench } from '../bench';
import type { DriveRef } from '../state/bench-state';
import { placesOn } from '../hooks/line-protocol';
import { writtenSinceStart } from '../state/restart-pending';
import type { RunAbout } from '../state/runs';

function begin(bench: Bench, line: string, made: Result<Procedure, string>, about: RunAbout): string | null {
  if (made.ok) return bench.start(line, made.value, about);
  bench.state.setState({ refused: `Not begun: ${made.error}.` });
  return null;
}

/** Changes the drive's settings and then this end's, and proves the link; the job keeps this end's settings once they are made. */
export function changeBothEnds(
  bench: Bench,
  { line, station }: DriveRef,
  index: SheetIndex,
  change: LinkChange,
  to: SerialSettings,
): void {
  const places = placesOn(bench.state.getState(), line, station);
  if (!places) return;
  const made = bothEndsProcedure({ index, places, station }, change, to);
  const { wayBack, breakMs } = change;
  const id = begin(bench, line, made, { kind: 'both-ends', wayBack, breakMs });
  if (id === null || !made.ok) return;
  const at = made.value.steps.findIndex(({ kind }) => kind === 'settings');
  const leave = bench.state.subscribe(({ runs }) => {
    const run = runs.find((view) => view.id === id)?.run;
    if (!run || (run.at <= at && run.phase !== 'over')) return;
    leave();
    if (run.at > at) bench.changeJob((job) => withLine(job, line, (own) => ({ ...own, serial: to })));
  });
}

/** Restarts the drive at the user's wish: reads all before, waits, finds it again, reads all after. */
export function restartDrive(bench: Bench, { line, station }: DriveRef, index: SheetIndex): void {
  const state = bench.state.getState();
  const places = placesOn(state, line, station);
  if (!places) return;
  const written = writtenSinceStart(state.entries, line, station, index, places);
  begin(bench, line, restartProcedure({ index, places, station }), { kind: 'restart', written });
}
