import { NO_VISIT, type Visit } from '../core/handover/visit';
import type { BujoDatabase, RecordRow } from './database';

/** What a job keeps of its visits: what was put to the record that is being made, and the records that are closed. */
export interface RecordShelf {
  readonly of: (job: string) => Promise<{ readonly visit: Visit; readonly records: readonly RecordRow[] }>;
  /** Changes what is put to the record, as it is stored: another tab may have put something to it meanwhile. What is stored then. */
  readonly changeVisit: (job: string, change: (visit: Visit) => Visit) => Promise<Visit>;
  /** A record is kept once; the same one again changes nothing. */
  readonly keep: (row: RecordRow) => Promise<void>;
  readonly drop: (digest: string) => Promise<void>;
}

/** `shipped` gives what comes with a job, such as the record of the demo's last visit: it cannot be deleted. */
export const recordShelf = (
  database: BujoDatabase,
  shipped: (job: string) => Promise<readonly RecordRow[]>,
): RecordShelf => ({
  of: async (job) => {
    const earlier = await shipped(job);
    return database.transaction('r', database.visits, database.records, async () => ({
      visit: (await database.visits.get(job))?.visit ?? NO_VISIT,
      records: [...earlier, ...(await database.records.where('job').equals(job).sortBy('keptMs'))],
    }));
  },
  changeVisit: (job, change) =>
    database.transaction('rw', database.visits, async () => {
      const visit = change((await database.visits.get(job))?.visit ?? NO_VISIT);
      await database.visits.put({ job, visit });
      return visit;
    }),
  keep: (row) =>
    database.transaction('rw', database.records, async () => {
      if ((await database.records.get(row.digest)) === undefined) await database.records.add(row);
    }),
  drop: (digest) => database.records.delete(digest),
});
