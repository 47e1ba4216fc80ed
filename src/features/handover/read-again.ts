import type { Bench } from '../../bench/bench';
import { pause } from '../../bench/registers/run-at';
import { readAll } from '../../bench/registers/run-reading';
import { registersStore } from '../../bench/registers/registers-store';
import { stationName, type BenchState } from '../../bench/state/bench-state';
import { pinnedIn } from '../../core/sheet/shelf';
import { handoverStore } from './handover-store';
import { makeNow } from './record-acts';

/** Drives whose values can be read now: they have a sheet, and their line is open. */
export function readable(state: Pick<BenchState, 'job' | 'sheets' | 'lines'>) {
  return (state.job?.lines ?? []).flatMap((line) =>
    line.stations.flatMap((station) => {
      const index = pinnedIn(state.sheets, station.sheet);
      const isOpen = state.lines.get(line.id)?.open === true;
      return index && isOpen ? [{ line, station, index, drive: { line: line.id, station: station.station } }] : [];
    }),
  );
}

/**
 * Reads every value of every drive that can be reached, and makes the record anew: by it is seen what is different since the last one. Lines go on
 * beside each other, drives of one line one after the other. Reading moves nothing, and a line that is closed stays closed.
 */
export async function readEverything(bench: Bench): Promise<void> {
  const drives = readable(bench.state.getState());
  const lines = new Set(drives.map(({ line }) => line.id));
  const said: string[] = [];
  handoverStore.setState({ isReading: true });
  try {
    await Promise.all(
      [...lines].map(async (id) => {
        for (const { drive, index, station, line } of drives.filter((one) => one.line.id === id)) {
          if (!handoverStore.getState().isReading) return;
          const why = await readAll(bench, drive, index);
          if (why !== '') said.push(`${line.name}, ${stationName(station)}: ${why}`);
        }
      }),
    );
  } finally {
    handoverStore.setState({ isReading: false });
  }
  const closed = (bench.state.getState().job?.lines ?? []).filter(({ id }) => !lines.has(id)).map(({ name }) => name);
  await makeNow(bench);
  handoverStore.setState({
    shown: '',
    news: [
      `Read again: ${drives.length - said.length} of ${drives.length} drives.`,
      ...said,
      ...(closed.length > 0
        ? [`Not read, since their line is closed or nothing on it has a sheet: ${closed.join(', ')}.`]
        : []),
    ],
  });
}

/** The exchanges under way are waited for; nothing begins anew. */
export function endReading(): void {
  handoverStore.setState({ isReading: false });
  for (const key of registersStore.getState().running.keys()) pause(key);
}
