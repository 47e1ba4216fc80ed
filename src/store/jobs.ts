import type { Job } from '../core/job/job';
import type { BujoDatabase } from './database';
import { demoJob } from './shipped';

/** Opens the database and puts the demo job there on the first start; afterwards whatever people made of it stays. */
export async function ensureJob(database: BujoDatabase): Promise<Job> {
  return database.transaction('rw', database.jobs, async () => {
    const known = await database.jobs.toCollection().first();
    if (known) return known;
    const job = demoJob();
    await database.jobs.add(job);
    return job;
  });
}
