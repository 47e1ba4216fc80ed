import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import type { DriveRef } from '../../bench/state/bench-state';
import type { Look } from '../../core/registers/look';

/** A look at a drive's registers, of this tab: leaving the view pauses it and loses nothing. */
export interface LookState {
  readonly look: Look | null;
  /** The drive that it is about. */
  readonly drive: DriveRef | null;
  readonly name: string;
  readonly isGoing: boolean;
  /** The request under way; 0 where none is. */
  readonly ticket: number;
  /** When it began to go, and how many addresses were known then: the rate comes of it. */
  readonly sinceMs: number;
  readonly knownThen: number;
  /** The look before this one, to be compared with. */
  readonly before: Look | null;
}

export const lookStore = createStore<LookState>(() => ({
  look: null,
  drive: null,
  name: '',
  isGoing: false,
  ticket: 0,
  sinceMs: 0,
  knownThen: 0,
  before: null,
}));

export const useLook = <T>(select: (state: LookState) => T): T => useStore(lookStore, select);
