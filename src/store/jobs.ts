import { readForm } from '../core/bounded-form';
import { JobSchema, type Job } from '../core/job/job';
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
  return database.transaction('rw', database.jobs, database.settings, async () => {
    const ids = await database.jobs.toCollection().primaryKeys();
    if (ids.length === 0) {
      await database.jobs.add(demo);
      return { open: demo, all: [demo], bad: [] };
    }
    const all: Job[] = [];
    const bad: BadRow[] = [];
    for (const id of ids) {
      const read = await readRow(database, id);
      if ('text' in read) bad.push(read);
      else all.push(read.job);
    }
    all.sort(byName);
    const chosen = await database.settings.get('current-job');
    const open = all.find(({ id }) => id === chosen?.value) ?? all[0] ?? demo;
    return { open, all, bad };
  });
}

async function readRow(database: BujoDatabase, id: string): Promise<{ readonly job: Job } | BadRow> {
  try {
    const row = await database.jobs.get(id);
    const read = readForm(JobSchema, row);
    if (read.ok) return { job: read.value };
    const [first] = read.error;
    return { id, text: first ? `${first.path}: ${first.text}` : 'it is no job', row };
  } catch (error) {
    return { id, text: messageOf(error), row: null };
  }
}

/** One job as it is stored now; null where it is not there, or is none. */
export async function storedJob(database: BujoDatabase, id: string): Promise<Job | null> {
  const read = await readRow(database, id);
  return 'job' in read ? read.job : null;
}

export const chooseJob = async (database: BujoDatabase, id: string): Promise<void> => {
  await database.settings.put({ key: 'current-job', value: id });
};

/** Writes one job, new or replaced; all or nothing. */
export const keepJob = async (database: BujoDatabase, job: Job): Promise<void> => {
  await database.jobs.put(job);
};

/**
 * Changes a job as it is stored, in one transaction: what another tab changed meanwhile stays. Where it is not stored, because it was deleted
 * elsewhere or never kept, `shown` is what is changed.
 */
export async function updateJob(database: BujoDatabase, shown: Job, change: (job: Job) => Job): Promise<Job> {
  return database.transaction('rw', database.jobs, async () => {
    const next = change((await storedJob(database, shown.id)) ?? shown);
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
