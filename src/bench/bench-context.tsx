'use client';

import { createContext, useContext, useState, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { createBench, type Bench } from './bench';
import { FIRST_STATE, type BenchState } from './state/bench-state';
import { createDrafts, type DraftActions, type Drafts } from './state/drafts';
import type { JobShelf } from './jobs/job-shelf';
import { NO_VISIT } from '../core/handover/visit';
import { createStore } from 'zustand/vanilla';

const BenchContext = createContext<Bench | null>(null);

let ofThisTab: Bench | null = null;

const nothing = (): void => undefined;

const NO_SHELF: JobShelf = {
  create: nothing,
  rename: nothing,
  copy: nothing,
  remove: nothing,
  restore: nothing,
  open: nothing,
  exportJob: nothing,
  exportTrace: nothing,
  importFile: nothing,
  settle: nothing,
  adopt: ({ job }) => Promise.resolve(job),
  exportRow: nothing,
  dismiss: nothing,
};

/** Stands in while the server renders: the first state and no worker. */
const serverBench = (): Bench => ({
  state: createStore<BenchState>(() => FIRST_STATE),
  drafts: createDrafts(),
  jobs: NO_SHELF,
  select: nothing,
  open: nothing,
  close: nothing,
  send: () => 0,
  poll: nothing,
  start: () => '',
  tell: nothing,
  putAway: nothing,
  stop: nothing,
  dismissStop: nothing,
  seenStanding: nothing,
  hold: nothing,
  held: nothing,
  letGo: nothing,
  dismissRefused: nothing,
  changeJob: () => false,
  undoChange: nothing,
  dismissChange: nothing,
  setEnd: nothing,
  keepSheet: () => Promise.resolve(),
  dropSheet: () => Promise.resolve(() => Promise.resolve()),
  keepPaper: () => Promise.resolve(),
  paper: () => Promise.resolve(undefined),
  sets: {
    of: () => Promise.resolve({ sets: [], writings: [], plans: [] }),
    set: () => Promise.resolve(undefined),
    writing: () => Promise.resolve(undefined),
    keepSet: () => Promise.resolve(),
    dropSet: () => Promise.resolve(),
    keepWriting: () => Promise.resolve(),
    keepPlan: () => Promise.resolve(),
  },
  photos: {
    of: () => Promise.resolve([]),
    keep: () => Promise.resolve(),
    call: () => Promise.resolve(),
    follow: () => nothing,
    drop: () => Promise.resolve(),
  },
  looks: { of: () => Promise.resolve(undefined), keep: () => Promise.resolve() },
  trials: { of: () => Promise.resolve([]), keep: () => Promise.resolve(), drop: () => Promise.resolve() },
  room: {
    of: () => Promise.resolve([]),
    letGo: () => Promise.resolve(() => Promise.resolve()),
    copyText: () => Promise.resolve(null),
  },
  records: {
    of: () => Promise.resolve({ visit: NO_VISIT, records: [] }),
    changeVisit: () => Promise.resolve(NO_VISIT),
    keep: () => Promise.resolve(),
    drop: () => Promise.resolve(),
  },
  post: nothing,
});

function benchOfThisTab(): Bench {
  if (typeof Worker === 'undefined') return serverBench();
  ofThisTab ??= createBench();
  return ofThisTab;
}

/** Gives every view below it the one bench of this tab. `bench` is for tests. */
export function BenchProvider({ bench, children }: { readonly bench?: Bench; readonly children: ReactNode }) {
  const [own] = useState(() => bench ?? benchOfThisTab());
  return <BenchContext.Provider value={own}>{children}</BenchContext.Provider>;
}

/** The bench of this page; there is one below its provider, and an error elsewhere. */
export function useBench(): Bench {
  const bench = useContext(BenchContext);
  if (!bench) throw new Error('useBench needs a BenchProvider above it');
  return bench;
}

/** What a view shows of the bench; it is drawn again when that part changes. */
export const useBenchState = <T,>(select: (state: BenchState) => T): T => useStore(useBench().state, select);

/** What a view shows of what is being typed. */
export const useDrafts = <T,>(select: (drafts: Drafts & DraftActions) => T): T => useStore(useBench().drafts, select);
