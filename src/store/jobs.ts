import type { Job } from '../core/job/job';
import { messageOf } from '../core/message-of';
import type { BujoDatabase } from './database';

/** A row of the database that is no job any more: it is left where it is, and can be carried out as it stands. */
export interface BadRow {
  readonly id: string;
  /** What is wrong with it, in a sentence. */
  readonly text: string;
  readonly row: unknown;
}

/** The job to open, all that there are, and what could not be read. */
export interface Shelf {
  readonly open: Job;
  readonly all: readonly Job[];
  readonly bad: readonly BadRow[];
}

const byName = (a: Job, b: Job): number => a.name.localeCompare(b.name);

/**
 * Reads the shelf; the demo job is put there on the first start. Afterwards whatever people made of it stays. Each row is read by itself: one
 * that is broken locks no other out.
 */
export async function readShelf(database: BujoDatabase, demo: Job): Promise<Shelf> {
  const { rows, chosen } = await database.transaction('rw', database.jobs, database.settings, async () => {
    const ids = await database.jobs.toCollection().primaryKeys();
    if (ids.length === 0) await database.jobs.add(demo);
    const found: { readonly id: string; readonly row: unknown }[] = [];
    for (const id of ids) found.push({ id, row: await rowOf(database, id) });
    return { rows: found, chosen: (await database.settings.get('current-job'))?.value };
  });
  // What ships was read as a job before it came here.
  if (rows.length === 0) return { open: demo, all: [demo], bad: [] };
  const all: Job[] = [];
  const bad: BadRow[] = [];
  for (const { id, row } of rows) {
    const text = await faultOf(row);
    if (text === '') all.push(row as Job);
    else bad.push({ id, text, row });
  }
  all.sort(byName);
  return { open: all.find(({ id }) => id === chosen) ?? all[0] ?? demo, all, bad };
}

/** A row as it stands; one that the browser cannot give is an error in its place. */
const rowOf = (database: BujoDatabase, id: string): Promise<unknown> =>
  database.jobs.get(id).catch((error: unknown) => ({ unreadable: messageOf(error) }));

/** What is wrong with a row; what knows how a job looks comes when there is one to look at. */
const faultOf = async (row: unknown): Promise<string> => (await import('./job-fault')).jobFault(row);

/** One job as it is stored now; null where it is not there, or is none. */
export async function storedJob(database: BujoDatabase, id: string): Promise<Job | null> {
  const row = await rowOf(database, id);
  return (await faultOf(row)) === '' ? (row as Job) : null;
}

/** Keeps which job is open, for the next start. */
export const chooseJob = async (database: BujoDatabase, id: string): Promise<void> => {
  await database.settings.put({ key: 'current-job', value: id });
};

/** Writes one job, new or replaced; all or nothing. */
export const keepJob = async (database: BujoDatabase, job: Job): Promise<void> => {
  await database.jobs.put(job);
};

/** Enough of a look for a row that was read as a job when the page began. */
const isJobLike = (row: unknown): row is Job =>
  typeof row === 'object' && row !== null && 'format' in row && 'lines' in row && Array.isArray(row.lines);

/**
 * Changes a job as it is stored, in one transaction: what another tab changed meanwhile stays. Where it is not stored, because it was deleted
 * elsewhere or never kept, `shown` is what is changed.
 */
export async function updateJob(database: BujoDatabase, shown: Job, change: (job: Job) => Job): Promise<Job> {
  return database.transaction('rw', database.jobs, async () => {
    const row = await rowOf(database, shown.id);
    const next = change(isJobLike(row) ? row : shown);
    await database.jobs.put(next);
    return next;
  });
}

/** Takes a job off the shelf; keep what it returns to undo that. Its trace stays. */
export async function removeJob(database: BujoDatabase, id: string): Promise<Job | null> {
  return database.transaction('rw', database.jobs, async () => {
    const job = await database.jobs.get(id);
    await database.jobs.delete(id);
    return job ?? null;
  });
}
