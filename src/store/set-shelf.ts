import type { BujoDatabase, PlanRow, SetRow, WritingRow } from './database';

/** What a job keeps of its drives' values. */
export interface KeptOfJob {
  readonly sets: readonly SetRow[];
  readonly writings: readonly WritingRow[];
  readonly plans: readonly PlanRow[];
}

/** Sets of values, plans and writings of a job. */
export interface SetShelf {
  readonly of: (job: string) => Promise<KeptOfJob>;
  /** One set or writing as it is kept now: another tab may have gone on with it. */
  readonly set: (id: string) => Promise<SetRow | undefined>;
  readonly writing: (id: string) => Promise<WritingRow | undefined>;
  readonly keepSet: (row: SetRow) => Promise<void>;
  readonly dropSet: (id: string) => Promise<void>;
  readonly keepWriting: (row: WritingRow) => Promise<void>;
  /** A plan of nothing is kept as none. */
  readonly keepPlan: (row: PlanRow) => Promise<void>;
}

/** `shipped` gives what comes with a job, such as the demo's. */
export const setShelf = (database: BujoDatabase, shipped: (job: string) => Promise<readonly SetRow[]>): SetShelf => ({
  of: async (job) => {
    const visits = await shipped(job);
    return database.transaction('r', database.sets, database.writings, database.plans, async () => ({
      sets: [...visits, ...(await database.sets.where('job').equals(job).toArray())],
      writings: await database.writings.where('job').equals(job).toArray(),
      plans: await database.plans.where('job').equals(job).toArray(),
    }));
  },
  set: (id) => database.sets.get(id),
  writing: (id) => database.writings.get(id),
  keepSet: async (row) => {
    await database.sets.put(row);
  },
  dropSet: (id) => database.sets.delete(id),
  keepWriting: async (row) => {
    await database.writings.put(row);
  },
  keepPlan: async (row) => {
    if (row.plan.size === 0) await database.plans.delete(row.drive);
    else await database.plans.put(row);
  },
});
