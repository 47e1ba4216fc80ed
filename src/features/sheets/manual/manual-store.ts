import { createStore } from 'zustand/vanilla';
import { useStore } from 'zustand';
import type { Frame } from '../../../core/tables/page-lines';
import type { Manual } from './pdf-document';

/** The manual that is open in this tab, and the part of it that is looked at. */
interface ManualState {
  readonly manual: Manual | null;
  /** Counted from 1. */
  readonly page: number;
  /** The table goes on to this page; the same page where it does not. */
  readonly through: number;
  /** Null: the whole page. */
  readonly frame: Frame | null;
  /** Where columns begin, set by hand; null: as they are found. */
  readonly columns: readonly number[] | null;
  /** The text that is looked for, as it is typed. */
  readonly find: string;
}

export const manualStore = createStore<ManualState>(() => ({
  manual: null,
  page: 1,
  through: 1,
  frame: null,
  columns: null,
  find: '',
}));

export const useManual = <T>(select: (state: ManualState) => T): T => useStore(manualStore, select);

/** Another manual is looked at from its first page; the one before is closed. */
export function showManual(manual: Manual): void {
  manualStore.getState().manual?.close();
  manualStore.setState({ manual, page: 1, through: 1, frame: null, columns: null });
}

/** Leafs to a page; what was framed on another one is no table here. */
export function leafTo(page: number): void {
  const { manual, page: before } = manualStore.getState();
  const next = Math.min(manual?.pages ?? 1, Math.max(1, page));
  if (next !== before) manualStore.setState({ page: next, through: next, frame: null, columns: null });
}

export const frameTable = (frame: Frame | null): void => manualStore.setState({ frame, columns: null });
export const goOnThrough = (through: number): void => manualStore.setState({ through });
export const setColumns = (columns: readonly number[] | null): void => manualStore.setState({ columns });
export const findInManual = (find: string): void => manualStore.setState({ find });
