import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import type { TrialRunRow } from '../../store/database';

interface TrialsState {
  /** The job whose runs are here; empty until they were read. */
  readonly job: string;
  readonly runs: ReadonlyMap<string, TrialRunRow>;
  /** The trial that is looked at. */
  readonly chosen: string;
  /** The run that is looked at; empty: none, the trial as it would be run now. */
  readonly shown: string;
}

/** Of this tab: leaving the view loses nothing. */
export const trialsStore = createStore<TrialsState>(() => ({
  job: '',
  runs: new Map(),
  chosen: 'first-contact',
  shown: '',
}));

export const useTrials = <T>(select: (state: TrialsState) => T): T => useStore(trialsStore, select);

export const putRun = (row: TrialRunRow): void =>
  trialsStore.setState(({ runs }) => ({ runs: new Map([...runs, [row.id, row]]) }));
