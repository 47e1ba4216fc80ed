import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Dialect } from '../../core/dialect/dialect';
import type { ChainDraft } from '../../core/scaling/chain-draft';
import { withoutForm, withText, type FormFields, type FormName, type Forms } from './forms';
import { begin, change, redo, typedOn, undo, type Undoable } from './undo';

/** How much of the trace is shown: its last entry, a few rows, or many. */
export type TraceSize = 'last' | 'rows' | 'tall';

/** The stages that show the answer to what they sent. */
export type AskingStage = 'line' | 'frames' | 'words';

/** What is being typed, per tab; it stays when a view is left. Words are raw numbers. */
export interface Drafts {
  /** Bytes of the request in Frames, by station. */
  readonly frames: ReadonlyMap<string, Undoable<Uint8Array>>;
  /** Whether a wrong check is left as it is. */
  readonly leaveCheck: boolean;
  /** Ticket of the last frame that a stage sent, by station. */
  readonly asked: Readonly<Record<AskingStage, ReadonlyMap<string, number>>>;
  /** Control word in Words, by station. */
  readonly words: ReadonlyMap<string, number>;
  /** Speed reference as typed, by station. */
  readonly references: ReadonlyMap<string, string>;
  /** Changed chain of the speed reference, by station. */
  readonly chains: ReadonlyMap<string, ChainDraft>;
  readonly traceSize: TraceSize;
  /** Which part of the Line and of the Frames stage is shown. */
  readonly linePart: string;
  readonly framesPart: string;
  /** The dialect that is being described; null before anything was changed. */
  readonly dialect: Undoable<Dialect> | null;
  /** What was typed into forms that are not sent yet. */
  readonly forms: Forms;
}

export interface DraftActions {
  readonly startFrame: (key: string, bytes: Uint8Array) => void;
  readonly editFrame: (key: string, bytes: Uint8Array) => void;
  readonly undoFrame: (key: string) => void;
  readonly redoFrame: (key: string) => void;
  readonly setLeaveCheck: (leave: boolean) => void;
  readonly setAsked: (stage: AskingStage, key: string, ticket: number) => void;
  readonly setWord: (key: string, word: number) => void;
  /** After Stop no composed word, and no block of a cycle, waits to be sent again by a slip. */
  readonly clearWords: () => void;
  readonly setTraceSize: (size: TraceSize) => void;
  readonly setReference: (key: string, text: string) => void;
  /** Null goes back to the sheet's. */
  readonly setChain: (key: string, chain: ChainDraft | null) => void;
  readonly setLinePart: (part: string) => void;
  readonly setFramesPart: (part: string) => void;
  readonly setTyped: <F extends FormName>(form: F, of: string, field: FormFields[F], text: string) => void;
  /** Another description to go on from; the one before it is a step back. `from` is what was shown before anything was changed. */
  readonly putDialect: (dialect: Dialect, from: Dialect) => void;
  readonly undoDialect: () => void;
  readonly redoDialect: () => void;
}

const put = <V>(map: ReadonlyMap<string, V>, key: string, value: V): ReadonlyMap<string, V> =>
  new Map(map).set(key, value);

export type DraftStore = StoreApi<Drafts & DraftActions>;

/** A tab’s drafts, with nothing typed yet. */
export const createDrafts = (): DraftStore =>
  createStore<Drafts & DraftActions>((set) => {
    const step = (key: string, how: (history: Undoable<Uint8Array>) => Undoable<Uint8Array>): void =>
      set(({ frames }) => {
        const history = frames.get(key);
        return history ? { frames: put(frames, key, how(history)) } : {};
      });
    return {
      frames: new Map(),
      leaveCheck: false,
      asked: { line: new Map(), frames: new Map(), words: new Map() },
      words: new Map(),
      references: new Map(),
      chains: new Map(),
      traceSize: 'rows',
      linePart: 'ends',
      framesPart: 'compose',
      dialect: null,
      forms: new Map(),
      startFrame: (key, bytes) =>
        set(({ frames }) => (frames.has(key) ? {} : { frames: put(frames, key, begin(bytes)) })),
      editFrame: (key, bytes) => step(key, (history) => change(history, bytes)),
      undoFrame: (key) => step(key, undo),
      redoFrame: (key) => step(key, redo),
      setLeaveCheck: (leaveCheck) => set({ leaveCheck }),
      setAsked: (stage, key, ticket) =>
        set(({ asked }) => ({ asked: { ...asked, [stage]: put(asked[stage], key, ticket) } })),
      setWord: (key, word) => set(({ words }) => ({ words: put(words, key, word) })),
      clearWords: () => set(({ forms }) => ({ words: new Map(), forms: withoutForm(forms, 'cycle block') })),
      setTraceSize: (traceSize) => set({ traceSize }),
      setLinePart: (linePart) => set({ linePart }),
      setFramesPart: (framesPart) => set({ framesPart }),
      setTyped: (form, of, field, text) => set(({ forms }) => ({ forms: withText(forms, form, of, field, text) })),
      putDialect: (next, from) => set(({ dialect }) => ({ dialect: typedOn(dialect ?? begin(from), next) })),
      undoDialect: () => set(({ dialect }) => ({ dialect: dialect && undo(dialect) })),
      redoDialect: () => set(({ dialect }) => ({ dialect: dialect && redo(dialect) })),
      setChain: (key, chain) =>
        set(({ chains }) => ({
          chains: chain ? put(chains, key, chain) : new Map([...chains].filter(([other]) => other !== key)),
        })),
      setReference: (key, text) => set(({ references }) => ({ references: put(references, key, text) })),
    };
  });
