import type { BujoDatabase, SetRow, WritingRow } from './database';

/** Sets of values and writings of a job. */
export interface SetShelf {
  readonly of: (job: string) => Promise<{ readonly sets: readonly SetRow[]; readonly writings: readonly WritingRow[] }>;
  readonly keepSet: (row: SetRow) => Promise<void>;
  readonly dropSet: (id: string) => Promise<void>;
  readonly keepWriting: (row: WritingRow) => Promise<void>;
}

export const setShelf = (database: BujoDatabase): SetShelf => ({
  of: (job) =>
    database.transaction('r', database.sets, database.writings, async () => ({
      sets: await database.sets.where('job').equals(job).toArray(),
      writings: await database.writings.where('job').equals(job).toArray(),
    })),
  keepSet: async (row) => {
    await database.sets.put(row);
  },
  dropSet: (id) => database.sets.delete(id),
  keepWriting: async (row) => {
    await database.writings.put(row);
  },
});
