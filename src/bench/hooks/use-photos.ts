'use client';

import { useEffect } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { MOST_CAPTION, sameOf, type PhotoOf } from '../../core/handover/photo';
import { messageOf } from '../../core/message-of';
import type { PhotoRow } from '../../store/database';
import type { Bench } from '../bench';
import { useBench, useBenchState } from '../bench-context';
import { newId } from '../new-id';
import { askFileWorker } from '../workers/ask-file-worker';

interface PhotosState {
  /** The job whose photographs these are; empty before they were asked for. */
  readonly job: string;
  readonly rows: readonly PhotoRow[];
  /** Photographs that are being made smaller. */
  readonly making: number;
  /** Why the last act did not come about; empty: it did. */
  readonly trouble: string;
  /** The one that was taken away last. */
  readonly gone: PhotoRow | null;
}

/** A picture that is not made smaller within this is given up. */
const LONGEST_MS = 60_000;

const FIRST: PhotosState = { job: '', rows: [], making: 0, trouble: '', gone: null };

/** Of this tab: every view shows the same ones. */
const store = createStore<PhotosState>(() => FIRST);
const { setState: set, getState: get } = store;

const kept = (what: Promise<void>): Promise<void> =>
  what.catch((error: unknown) => set({ trouble: `this browser did not keep that: ${messageOf(error)}` }));

/** Captions that are being kept: what the database still says of them is older. */
const typed = new Map<string, string>();
let end = (): void => undefined;

/** Shows the photographs of a job as the database has them, whoever changes them: this tab, another one, Room. */
function follow(bench: Bench, job: string): void {
  if (get().job === job) return;
  end();
  set({ ...FIRST, job });
  end = bench.photos.follow(
    job,
    (rows) => set({ rows: rows.map((row) => ({ ...row, caption: typed.get(row.id) ?? row.caption })) }),
    (error) => set({ trouble: `photographs were not read: ${messageOf(error)}` }),
  );
}

async function add(bench: Bench, job: string, of: PhotoOf, file: File): Promise<void> {
  set(({ making }) => ({ making: making + 1, trouble: '' }));
  const answer = await askFileWorker({ kind: 'photo', file }, LONGEST_MS);
  set(({ making }) => ({ making: making - 1 }));
  if (answer.kind !== 'photo')
    return set({ trouble: answer.kind === 'faults' ? (answer.faults[0]?.text ?? '') : 'no picture came' });
  const { width, height, jpeg } = answer;
  const row: PhotoRow = { id: newId(), job, of, caption: '', atMs: Date.now(), width, height, jpeg };
  if (get().job === job) set(({ rows }) => ({ rows: [...rows, row] }));
  await kept(bench.photos.keep(row));
}

function call(bench: Bench, id: string, text: string): void {
  const caption = text.slice(0, MOST_CAPTION);
  set(({ rows }) => ({ rows: rows.map((row) => (row.id === id ? { ...row, caption } : row)) }));
  typed.set(id, caption);
  // One that was not kept stays as it was typed.
  const keeping = bench.photos.call(id, caption).then(() => {
    if (typed.get(id) === caption) typed.delete(id);
  });
  void kept(keeping);
}

function remove(bench: Bench, id: string): void {
  const gone = get().rows.find((row) => row.id === id) ?? null;
  set(({ rows }) => ({ rows: rows.filter((row) => row.id !== id), gone }));
  void kept(bench.photos.drop(id));
}

function putBack(bench: Bench): void {
  const { gone, rows } = get();
  if (!gone) return;
  set({ rows: [...rows, gone].sort((a, b) => a.atMs - b.atMs), gone: null });
  void kept(bench.photos.keep(gone));
}

/** All photographs of the open job, as this tab knows them. */
export function usePhotoRows(): readonly PhotoRow[] {
  const bench = useBench();
  const job = useBenchState((state) => state.job?.id ?? '');
  useEffect(() => {
    if (job !== '') follow(bench, job);
  }, [bench, job]);
  return useStore(store, ({ job: known, rows }) => (known === job ? rows : FIRST.rows));
}

/** The photographs of one thing, and what can be done with them. */
export function usePhotos(of: PhotoOf) {
  const bench = useBench();
  const job = useBenchState((state) => state.job?.id ?? '');
  const { making, trouble, gone } = useStore(store);
  const photos = usePhotoRows().filter((row) => sameOf(row.of, of));
  return {
    photos,
    isMaking: making > 0,
    trouble,
    gone: gone && gone.job === job && sameOf(gone.of, of) ? gone.caption || 'A photograph' : '',
    onAdd: (file: File): void => void add(bench, job, of, file),
    onCaption: (id: string, text: string): void => call(bench, id, text),
    onRemove: (id: string): void => remove(bench, id),
    onPutBack: (): void => putBack(bench),
  };
}
