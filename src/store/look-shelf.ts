import type { BujoDatabase, LookRow } from './database';

/** Looks at what drives have, as they stood last: a page that is gone loses none. One is kept of each drive of a job. */
export interface LookShelf {
  readonly of: (job: string, drive: string) => Promise<LookRow | undefined>;
  readonly keep: (row: LookRow) => Promise<void>;
}

/** The looks in the browser's database. */
export const lookShelf = (database: BujoDatabase): LookShelf => ({
  of: (job, drive) => database.looks.get([job, drive]),
  keep: async (row) => {
    await database.looks.put(row);
  },
});
