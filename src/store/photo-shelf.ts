import { liveQuery } from 'dexie';
import type { BujoDatabase, PhotoRow } from './database';

/** Photographs of a job. */
export interface PhotoShelf {
  readonly of: (job: string) => Promise<readonly PhotoRow[]>;
  /** Tells them now, and anew whenever this tab or another changes one; what is given ends that. */
  readonly follow: (
    job: string,
    told: (rows: readonly PhotoRow[]) => void,
    trouble: (error: unknown) => void,
  ) => () => void;
  readonly keep: (row: PhotoRow) => Promise<void>;
  /** Its caption, as it is stored; nothing where another tab took the photograph away. */
  readonly call: (id: string, caption: string) => Promise<void>;
  readonly drop: (id: string) => Promise<void>;
}

/** The photographs in the browser’s database. */
export const photoShelf = ({ photos }: BujoDatabase): PhotoShelf => ({
  of: (job) => photos.where('job').equals(job).sortBy('atMs'),
  follow: (job, told, trouble) => {
    const own = liveQuery(() => photos.where('job').equals(job).sortBy('atMs')).subscribe(told, trouble);
    return () => own.unsubscribe();
  },
  keep: async (row) => {
    await photos.put(row);
  },
  call: async (id, caption) => {
    await photos.update(id, { caption });
  },
  drop: (id) => photos.delete(id),
});
