import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { begin, change, redo, undo, type Undoable } from '../state/undo';
import type { Plan } from '../../core/sets/plan';
import type { SetRow, WritingRow } from '../../store/database';

/** What runs for a drive: a reading, a writing, or nothing. */
export interface Running {
  readonly kind: 'read' | 'write';
  /** The row that it is kept in. */
  readonly id: string;
  /** When it began to go, and how many values were known then: the rate comes of it. */
  readonly sinceUs: number;
  readonly knownThen: number;
  /** It was asked to pause, and ends with the exchange under way. */
  readonly isPausing: boolean;
}

interface RegistersState {
  /** The job whose rows are here; empty until they were read. */
  readonly job: string;
  readonly sets: ReadonlyMap<string, SetRow>;
  readonly writings: ReadonlyMap<string, WritingRow>;
  /** By the drive's key. */
  readonly running: ReadonlyMap<string, Running>;
  /** Why the last run of a drive ended before its end; by the drive's key. */
  readonly said: ReadonlyMap<string, string>;
  readonly plans: ReadonlyMap<string, Undoable<Plan>>;
  readonly part: string;
  /** The number of the parameter that is looked at. */
  readonly chosen: string;
  readonly find: string;
  readonly only: string;
  /** Ids of the witnesses that are laid beside each other. */
  readonly beside: readonly string[];
  /** Where the drive's own keys find what is shown; empty: everywhere. */
  readonly group: string;
  /** A value that is chosen or typed goes to this drive at once; its key, empty where nothing is live. It ends with the view. */
  readonly live: string;
}

/** Of this tab: leaving the view loses nothing. */
export const registersStore = createStore<RegistersState>(() => ({
  job: '',
  sets: new Map(),
  writings: new Map(),
  running: new Map(),
  said: new Map(),
  plans: new Map(),
  part: 'values',
  chosen: '',
  find: '',
  only: 'all',
  beside: ['now', 'default'],
  group: '',
  live: '',
}));

/** What a view shows of values and plans. */
export const useRegisters = <T>(select: (state: RegistersState) => T): T => useStore(registersStore, select);

const NO_PLAN = begin<Plan>(new Map());
/** The plan of a drive with its steps back; an empty one where nothing was planned. */
export const planOf = (key: string): Undoable<Plan> => registersStore.getState().plans.get(key) ?? NO_PLAN;
/** The plan of a drive, for a view. */
export const usePlan = (key: string): Undoable<Plan> => useRegisters(({ plans }) => plans.get(key) ?? NO_PLAN);

const putPlan = (key: string, history: Undoable<Plan>): void =>
  registersStore.setState(({ plans }) => ({ plans: new Map([...plans, [key, history]]) }));

/** One step of a drive's plan. */
export function changePlan(key: string, step: (plan: Plan) => Plan): void {
  const history = planOf(key);
  const next = step(history.present);
  if (next !== history.present) putPlan(key, change(history, next));
}
/** One step of a drive’s plan back. */
export const undoPlan = (key: string): void => putPlan(key, undo(planOf(key)));
/** One step of a drive’s plan forward again. */
export const redoPlan = (key: string): void => putPlan(key, redo(planOf(key)));

/** A set as it is kept now, in place of what was known of it. */
export const putSet = (row: SetRow): void =>
  registersStore.setState(({ sets }) => ({ sets: new Map([...sets, [row.id, row]]) }));
/** A writing as it is kept now, in place of what was known of it. */
export const putWriting = (row: WritingRow): void =>
  registersStore.setState(({ writings }) => ({ writings: new Map([...writings, [row.id, row]]) }));

/** What a drive’s reading or writing is doing; null when it ended, with what is to be said of that. */
export const setRunning = (key: string, running: Running | null, said = ''): void =>
  registersStore.setState((state) => {
    const others = [...state.running].filter(([one]) => one !== key);
    return {
      running: new Map(running ? [...others, [key, running]] : others),
      said: new Map([...state.said, [key, said]]),
    };
  });
