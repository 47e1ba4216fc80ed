import { createStore } from 'zustand/vanilla';
import { useStore } from 'zustand';
import { begin, redo, typedOn, undo, type Undoable } from '../../bench/state/undo';
import type { Sheet } from '../../core/sheet/sheet';
import type { Parameter } from '../../core/sheet/parameter-section';

/** A sheet under the pen: nothing of it is used by a station before it is kept. */
export interface SheetDraft {
  /** As it was last kept; null for one that never was. */
  readonly kept: Sheet | null;
  readonly history: Undoable<Sheet>;
}

interface SheetDrafts {
  readonly drafts: ReadonlyMap<string, SheetDraft>;
  /** The sheet that is looked at. */
  readonly slug: string | null;
  readonly part: string;
  /** The entry that is looked at, by its place in the list. */
  readonly entry: number;
  /** Typed texts of forms that are no part of a sheet yet, such as a pasted table. */
  readonly typed: ReadonlyMap<string, string>;
}

/** Drafts of this tab; leaving the view loses nothing. */
export const sheetDrafts = createStore<SheetDrafts>(() => ({
  drafts: new Map(),
  slug: null,
  part: 'about',
  entry: 0,
  typed: new Map(),
}));

const put = (slug: string, draft: SheetDraft): void =>
  sheetDrafts.setState(({ drafts }) => ({ drafts: new Map([...drafts, [slug, draft]]) }));

/** Looks at a sheet; its draft is what was typed, else what is kept. */
export function openDraft(sheet: Sheet, kept: Sheet | null): void {
  if (!sheetDrafts.getState().drafts.has(sheet.slug)) put(sheet.slug, { kept, history: begin(sheet) });
  sheetDrafts.setState({ slug: sheet.slug, entry: 0 });
}

export const closeDraft = (): void => sheetDrafts.setState({ slug: null });

/** Forgets what was typed into a sheet. */
export function dropDraft(slug: string): void {
  sheetDrafts.setState(({ drafts, slug: open }) => ({
    drafts: new Map([...drafts].filter(([key]) => key !== slug)),
    slug: open === slug ? null : open,
  }));
}

const withHistory = (change: (history: Undoable<Sheet>) => Undoable<Sheet>): void => {
  const { slug, drafts } = sheetDrafts.getState();
  const draft = slug === null ? undefined : drafts.get(slug);
  if (slug !== null && draft) put(slug, { ...draft, history: change(draft.history) });
};

/** One step of the sheet that is looked at; letters typed into one field are one step back. */
export const editSheet = (change: (sheet: Sheet) => Sheet): void =>
  withHistory((history) => {
    const next = change(history.present);
    return next === history.present ? history : typedOn(history, next);
  });
export const undoSheet = (): void => withHistory(undo);
export const redoSheet = (): void => withHistory(redo);

/** What was kept is the draft from now on, with its way back, unless more was typed since it was given to be kept. */
export function keptDraft(sheet: Sheet, given: Sheet): void {
  const { drafts } = sheetDrafts.getState();
  const draft = drafts.get(sheet.slug);
  put(sheet.slug, {
    kept: sheet,
    history: draft?.history.present === given ? { ...draft.history, present: sheet } : (draft?.history ?? begin(sheet)),
  });
}

export const useSheetDrafts = <T>(select: (drafts: SheetDrafts) => T): T => useStore(sheetDrafts, select);

/** The sheet that is looked at, as it is typed. */
export const useDraftSheet = (): Sheet | null =>
  useSheetDrafts(({ slug, drafts }) => (slug === null ? null : (drafts.get(slug)?.history.present ?? null)));

export const setPart = (part: string): void => sheetDrafts.setState({ part });
export const setEntry = (entry: number): void => sheetDrafts.setState({ entry });
export const setTyped = (key: string, text: string): void =>
  sheetDrafts.setState(({ typed }) => ({ typed: new Map([...typed, [key, text]]) }));
export const useTypedText = (key: string): string => useSheetDrafts(({ typed }) => typed.get(key) ?? '');

/** Changes one entry; `undefined` leaves its field out. */
export const editParameter = (at: number, change: Partial<Record<keyof Parameter, unknown>>): void =>
  editSheet((sheet) => ({
    ...sheet,
    parameters: (sheet.parameters ?? []).map((parameter, i) => (i === at ? merged(parameter, change) : parameter)),
  }));

/** The same with some fields changed; one that is set to undefined goes, so that the file has no empty fields. */
export const merged = <T extends object>(before: T, change: Partial<Record<keyof T, unknown>>): T =>
  Object.fromEntries(Object.entries({ ...before, ...change }).filter(([, value]) => value !== undefined)) as T;
