import { beginRun, endRun } from '../core/procedure/run-state';
import { lineOf } from '../core/trial/seen-line';
import type { BujoDatabase, KeptTrialRun, TrialRunRow } from './database';

/** Trials as they were run, of a job. */
export interface TrialShelf {
  readonly of: (job: string) => Promise<readonly TrialRunRow[]>;
  readonly keep: (row: TrialRunRow) => Promise<void>;
  readonly drop: (id: string) => Promise<void>;
}

/** A run of which nobody tells any more, as far as it was written. */
function unseen(row: TrialRunRow): TrialRunRow {
  const { procedure } = row.compiled;
  const run = row.run ?? (procedure && beginRun(procedure, row.id, 0));
  return {
    ...row,
    run: run && endRun(run, 'reload', 'the page that ran it is gone; what came after this was not seen'),
  };
}

const fromKept = (row: KeptTrialRun): TrialRunRow => ({
  ...row,
  samples: 'buffer' in row.samples ? row.samples : lineOf(row.samples),
});

/** The runs of trials in the browser’s database. */
export const trialShelf = (database: BujoDatabase): TrialShelf => ({
  of: async (job) => {
    const { trialRuns, runs } = database;
    // Both as they are at one moment: what a reload cut goes from the one and is told in the other in one step.
    const [rows, running] = await database.transaction(
      'r',
      trialRuns,
      runs,
      async () =>
        [await trialRuns.where('job').equals(job).toArray(), new Set(await runs.toCollection().primaryKeys())] as const,
    );
    return rows.map(fromKept).map((row) => (row.run?.phase === 'over' || running.has(row.id) ? row : unseen(row)));
  },
  keep: async (row) => {
    await database.trialRuns.put(row);
  },
  drop: (id) => database.trialRuns.delete(id),
});
