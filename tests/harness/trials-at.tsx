import { act } from '@testing-library/react';
import { runsAfter, type RunAbout } from '../../src/bench/state/runs';
import type { Procedure } from '../../src/core/procedure/procedure';
import type { ParameterRole } from '../../src/core/sheet/parameter-section';
import { trialsStore } from '../../src/features/trials/trials-store';
import { TrialsStage } from '../../src/features/trials/trials-stage';
import type { ProcedureTold } from '../../src/link/line-owner';
import type { TrialRunRow } from '../../src/store/database';
import { benchOnLine, type LinePlace } from './bench-on-line';

const EMPTY = trialsStore.getState();
/** Runs have ids of their own over all tests, as they do over all reloads. */
let begun = 0;

/** The stage Trials at a drive, whose trials run over the real master to the stand-in. */
export async function trialsAt(
  place: LinePlace,
  kept: readonly TrialRunRow[] = [],
  factory: Record<string, number> = { '2.01': 2, '2.02': 2 },
) {
  const line = await benchOnLine(place, factory);
  const { bench, own } = line;
  const rows: TrialRunRow[] = [];
  const dropped: string[] = [];
  let seen = 0;
  /** What the line told since then, as the worker's messages bring it. */
  const news = (): void => {
    const fresh = own.runs.slice(seen).map((run) => ({ line: line.drive.line, run }));
    seen = own.runs.length;
    bench.state.setState(({ runs }) => ({ runs: runsAfter(runs, fresh.slice(-1)) }));
  };
  Object.assign(bench, {
    trials: {
      of: () => Promise.resolve(kept),
      keep: (row: TrialRunRow) => Promise.resolve(void rows.push(row)),
      drop: (id: string) => Promise.resolve(void dropped.push(id)),
    },
    start: (of: string, procedure: Procedure, about: RunAbout) => {
      const id = `run ${++begun}`;
      bench.state.setState(({ runs }) => ({ runs: [...runs, { id, line: of, procedure, about, run: null }] }));
      own.master.startProcedure(procedure, id);
      news();
      return id;
    },
    tell: (id: string, told: ProcedureTold) => {
      own.master.tellProcedure(id, told);
      news();
    },
  });
  // The demo's own are left out.
  bench.state.setState(({ job }) => ({ job: job && { ...job, trials: [] } }));
  trialsStore.setState(EMPTY, true);
  const { unmount } = line.show(<TrialsStage />);
  await act(() => Promise.resolve());
  const onward = (seconds: number): void =>
    act(() => {
      for (let i = 0; i < seconds * 10; i++) own.clock.advanceBy(100_000);
      news();
    });
  /** What a drive says of these, by role or number, or of its status alone, as of now. */
  const read = (names: readonly string[]): void => {
    act(() => {
      const places = own.protocol.placesOf(line.index);
      const { byRole, byNumber } = line.index;
      const told = names.flatMap((name) => {
        const [request] = places.read(place.station, [byRole.get(name as ParameterRole) ?? byNumber.get(name)!]);
        return places.learned(request!, own.ask(request!).reply!);
      });
      bench.state.setState(({ views }) => ({
        views: new Map(
          [...views].map(([key, view]) => [
            key,
            {
              ...view,
              values: new Map([...view.values, ...told.map(([cell, word]) => [cell, { word, atUs: 0 }] as const)]),
            },
          ]),
        ),
      }));
    });
  };
  const readStatus = (): void => read(['status-word']);
  return { ...line, rows, dropped, onward, read, readStatus, unmount };
}
