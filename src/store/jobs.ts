import type { Job } from '../core/job/job';
import type { BujoDatabase } from './database';

/** The job to open and all that there are. */
export interface Shelf {
  readonly open: Job;
  readonly all: readonly Job[];
}

const byName = (a: Job, b: Job): number => a.name.localeCompare(b.name);

/** Reads the shelf; the demo job is put there on the first start. Afterwards whatever people made of it stays. */
export async function readShelf(database: BujoDatabase, demo: Job): Promise<Shelf> {
  return database.transaction('rw', database.jobs, database.settings, async () => {
    if ((await database.jobs.count()) === 0) await database.jobs.add(demo);
    const all = (await database.jobs.toArray()).sort(byName);
    const chosen = await database.settings.get('current-job');
    const open = all.find(({ id }) => id === chosen?.value) ?? all[0] ?? demo;
    return { open, all };
  });
}

export const chooseJob = async (database: BujoDatabase, id: string): Promise<void> => {
  await database.settings.put({ key: 'current-job', value: id });
};

/** Writes one job, new or changed; all or nothing. */
export const keepJob = async (database: BujoDatabase, job: Job): Promise<void> => {
  await database.jobs.put(job);
};

/** Takes a job off the shelf; keep what it returns to undo that. Its trace stays. */
export async function removeJob(database: BujoDatabase, id: string): Promise<Job | null> {
  return database.transaction('rw', database.jobs, async () => {
    const job = await database.jobs.get(id);
    await database.jobs.delete(id);
    return job ?? null;
  });
}
