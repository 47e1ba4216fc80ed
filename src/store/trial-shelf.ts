import type { BujoDatabase, TrialRunRow } from './database';

/** Trials as they were run, of a job. */
export interface TrialShelf {
  readonly of: (job: string) => Promise<readonly TrialRunRow[]>;
  readonly keep: (row: TrialRunRow) => Promise<void>;
  readonly drop: (id: string) => Promise<void>;
}

export const trialShelf = ({ trialRuns }: BujoDatabase): TrialShelf => ({
  of: (job) => trialRuns.where('job').equals(job).toArray(),
  keep: async (row) => {
    await trialRuns.put(row);
  },
  drop: (id) => trialRuns.delete(id),
});
