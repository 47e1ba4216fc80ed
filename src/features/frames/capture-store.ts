import { createStore, type StoreApi } from 'zustand/vanilla';
import type { FramesWorker } from '../../bench/workers/frames-worker';
import type { CapturePlan } from '../../core/capture/capture-plan';
import type { Round } from '../../core/capture/rounds';
import type { CaptureRow, FramesAnswer, FramesQuestion } from '../../messages/frames';
import { filterOf, NO_FILTER, type TypedFilter } from './capture-filter';
import { FIRST_SETUP, firstSetup, planOf, rememberSetup, type Sample, type Setup } from './capture-choice';

/** The capture that the frames worker holds, as the page shows it. It stays open while other parts are looked at. */
export interface CaptureState {
  readonly file: File | null;
  /** Its first lines, where it is text. */
  readonly lines: readonly string[];
  readonly setup: Setup;
  /** How far reading is; `held`: it waits until it is told to go on. */
  readonly progress: { readonly read: number; readonly size: number; readonly held: boolean } | null;
  readonly opened: Extract<FramesAnswer, { kind: 'opened' }> | null;
  readonly found: { readonly count: number; readonly looked: number; readonly over: boolean } | null;
  readonly typed: TypedFilter;
  readonly trouble: string;
  /** Another one for each filter, so that a list of other entries begins anew. */
  readonly listKey: number;
}

type DialectOf = (sheet: string) => CapturePlan['dialect'];

export interface CaptureActions {
  readonly choose: (file: File, dialectOf: DialectOf) => void;
  /** Reads the file anew in another way; the way is remembered. */
  readonly setSetup: (setup: Setup, dialectOf: DialectOf) => void;
  readonly setTyped: (typed: TypedFilter) => void;
  readonly cancel: () => void;
  readonly hold: (held: boolean) => void;
  readonly save: (form: 'pcapng' | 'csv' | 'jsonl') => void;
  readonly rows: (from: number, count: number) => Promise<readonly CaptureRow[]>;
  /** What goes round in it. */
  readonly rounds: () => Promise<readonly Round[]>;
  readonly watch: (question: Watching) => Promise<Watched>;
}

export type Watching = Pick<Extract<FramesQuestion, { kind: 'watch' }>, 'round' | 'way' | 'layout'>;
export type Watched = Pick<Extract<FramesAnswer, { kind: 'watched' }>, 'bytes' | 'told'>;

export type CaptureStore = StoreApi<CaptureState & CaptureActions>;

const FIRST: CaptureState = {
  file: null,
  lines: [],
  setup: FIRST_SETUP,
  progress: null,
  opened: null,
  found: null,
  typed: NO_FILTER,
  trouble: '',
  listKey: 0,
};

/** Made once a page; `saveFile` hands a file to the user. */
export function createCaptureStore(
  { ask, listen }: FramesWorker,
  saveFile: (blob: Blob, name: string) => void,
): CaptureStore {
  const waiting = new Map<number, (answer: FramesAnswer) => void>();
  let nextAsk = 1;
  const waitFor = (take: (answer: FramesAnswer) => void): number => {
    waiting.set(nextAsk, take);
    return nextAsk++;
  };
  /** What is done with the beginning of the file that was chosen last; that of one chosen before comes too late. */
  let sampled: { readonly ask: number; readonly take: (sample: Sample) => void } | null = null;

  const store: CaptureStore = createStore<CaptureState & CaptureActions>((set, get) => {
    const open = (file: File, setup: Setup, dialectOf: DialectOf): void => {
      const plan = planOf(setup, dialectOf(setup.sheet));
      // The field says what is wrong; what was read before stays open until it is right.
      if (!plan) return;
      set({
        opened: null,
        found: null,
        typed: NO_FILTER,
        trouble: '',
        progress: { read: 0, size: file.size, held: false },
      });
      ask({ kind: 'open', file, plan });
    };
    return {
      ...FIRST,
      choose: (file, dialectOf) => {
        set({ file });
        const number = nextAsk++;
        const take = (sample: Sample): void => {
          const setup = firstSetup(sample);
          set({ lines: sample.lines, setup });
          open(file, setup, dialectOf);
        };
        sampled = { ask: number, take };
        ask({ kind: 'sample', ask: number, file });
      },
      setSetup: (setup, dialectOf) => {
        set({ setup });
        rememberSetup(setup);
        const { file } = get();
        if (file) open(file, setup, dialectOf);
      },
      setTyped: (typed) => {
        const number = get().listKey + 1;
        set({ typed, listKey: number, found: null, trouble: '' });
        ask({ kind: 'filter', number, filter: filterOf(typed), text: typed.text });
      },
      cancel: () => {
        ask({ kind: 'close' });
        set({ progress: null, trouble: 'reading was ended before the file was through' });
      },
      hold: (held) => {
        set(({ progress }) => ({ progress: progress && { ...progress, held } }));
        ask({ kind: 'hold', held });
      },
      save: (form) => ask({ kind: 'export', form }),
      rows: (from, count) =>
        new Promise((resolve) => {
          const number = waitFor((answer) => answer.kind === 'rows' && resolve(answer.rows));
          ask({ kind: 'rows', ask: number, from, count });
        }),
      rounds: () =>
        new Promise((resolve) => {
          const number = waitFor((answer) => answer.kind === 'rounds' && resolve(answer.rounds));
          ask({ kind: 'rounds', ask: number });
        }),
      watch: (question) =>
        new Promise((resolve) => {
          const number = waitFor((answer) => answer.kind === 'watched' && resolve(answer));
          ask({ kind: 'watch', ask: number, ...question });
        }),
    };
  });

  listen((answer) => {
    const { setState: set, getState: get } = store;
    switch (answer.kind) {
      case 'sample':
        if (answer.ask === sampled?.ask) sampled.take(answer);
        return;
      case 'progress':
        // What was on its way when reading was ended says nothing.
        return set(({ progress }) => ({
          progress: progress && { read: answer.read, size: answer.size, held: progress.held },
        }));
      case 'opened':
        set({ opened: answer, progress: null });
        return get().setTyped(NO_FILTER);
      case 'filtered':
        // An earlier filter's entries are none of this list.
        if (answer.number === get().listKey) set({ found: answer });
        return;
      case 'rows':
      case 'rounds':
      case 'watched':
        waiting.get(answer.ask)?.(answer);
        waiting.delete(answer.ask);
        return;
      case 'file':
        return saveFile(answer.blob, `capture.${answer.ending}`);
      case 'trouble':
        return set({ progress: null, trouble: answer.text });
      case 'ranked':
        return;
    }
  });
  return store;
}
