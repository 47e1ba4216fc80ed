import { endRun, type RunState } from '../core/procedure/run-state';
import { stepAt } from '../core/trial/step-at';
import type { BujoDatabase, RunRow, TrialRunRow } from './database';

/** A run under way is written this often; its end at once. */
const WRITE_EVERY_MS = 500;
/** A page that took the end of a run and is gone so soon after it showed it to nobody: it goes on for a moment after “Leave this page?” was answered. */
const SHOWN_MS = 1_000;

/**
 * Keeps where procedures are: the newest state of each, a few times a second. A reload finds there what was under way, and what ended while its page was on
 * the way out: a run that is over is kept until the page has taken that it is, and lived on.
 */
export class RunKeeper {
  readonly #database: BujoDatabase;
  readonly #failed: (error: unknown) => void;
  readonly #later: (action: () => void, ms: number) => void;
  readonly #waiting = new Map<string, RunRow>();
  /** Batches on their way to the page that tell of runs that are over. */
  #telling: readonly { readonly batch: number; readonly ids: readonly string[] }[] = [];
  #isDue = false;

  constructor(
    database: BujoDatabase,
    failed: (error: unknown) => void,
    later: (action: () => void, ms: number) => void,
  ) {
    this.#database = database;
    this.#failed = failed;
    this.#later = later;
  }

  keep(row: RunRow): void {
    const isNew = !this.#waiting.has(row.id) && row.run.at === 0 && row.run.sent === 0;
    this.#waiting.set(row.id, row);
    if (isNew || row.run.phase === 'over') return this.#write();
    if (this.#isDue) return;
    this.#isDue = true;
    this.#later(() => this.#write(), WRITE_EVERY_MS);
  }

  /** A batch with these runs goes to the page. */
  posted(batch: number, runs: readonly RunState[]): void {
    const ids = runs.filter(({ phase }) => phase === 'over').map(({ id }) => id);
    if (ids.length > 0) this.#telling = [...this.#telling, { batch, ids }];
  }

  /** The page has taken this batch, and so all before it: what was over in them is told. */
  taken(batch: number): void {
    const ids = this.#telling.flatMap((told) => (told.batch <= batch ? told.ids : []));
    if (ids.length === 0) return;
    this.#telling = this.#telling.filter((told) => told.batch > batch);
    this.#later(() => void this.#database.runs.bulkDelete(ids).catch(this.#failed), SHOWN_MS);
  }

  #write(): void {
    this.#isDue = false;
    const rows = [...this.#waiting.values()];
    this.#waiting.clear();
    void this.#database.runs.bulkPut(rows).catch(this.#failed);
  }
}

/** Runs that another start of the page left under way, or whose end it did not see; they are told once. */
async function takeCutRuns(database: BujoDatabase, isOver: (session: string) => boolean): Promise<RunRow[]> {
  return database.transaction('rw', database.runs, database.trialRuns, async () => {
    const cut = (await database.runs.toArray()).filter(({ session }) => isOver(session));
    await database.runs.bulkDelete(cut.map(({ id }) => id));
    const told: RunRow[] = [];
    for (const row of cut) {
      const trial = await database.trialRuns.get(row.id);
      const run = endedUnseen(row, trial);
      told.push({ ...row, run });
      // The row of a trial tells it too, whoever looks at it and when. Put as it is: an update would copy the hour of its line value by value.
      if (trial && trial.run?.phase !== 'over') await database.trialRuns.put({ ...trial, run });
    }
    return told;
  });
}

/** How a run ended that its page did not see end: by the page's going, or by what came just before. */
function endedUnseen(row: RunRow, trial: Pick<TrialRunRow, 'compiled'> | undefined): RunState {
  const { run } = row;
  if (run.phase === 'over') return { ...run, why: `${run.why || 'done'}; its page was reloaded or closed just then` };
  const [step, of] = stepOf(row, trial);
  return endRun(run, 'reload', `its page was reloaded or closed at step ${step} of ${of}; the step may have been done`);
}

/** Where a run was, as a person counts: by the steps of the trial, each of which comes to several of the procedure. */
function stepOf(
  { run, procedure }: RunRow,
  trial: Pick<TrialRunRow, 'compiled'> | undefined,
): readonly [step: number, of: number] {
  const steps = trial?.compiled.steps;
  return steps ? [stepAt(steps, run.at) + 1, steps.length] : [run.at + 1, procedure.steps.length];
}

/** How it is known which sessions are alive, and when one ends. */
export interface SessionsAlive {
  readonly held: () => Promise<ReadonlySet<string>>;
  readonly whenEnds: (session: string, act: () => void) => void;
}

/**
 * Tells what other starts of the page left under way: at once where they are gone, and of each that is alive when it goes. The page that was reloaded may be
 * about to go only while its successor looks.
 */
export async function tellCutRuns(
  database: BujoDatabase,
  own: string,
  { held, whenEnds }: SessionsAlive,
  tell: (rows: readonly RunRow[]) => void,
  failed: (error: unknown) => void,
): Promise<void> {
  const take = async (isOver: (session: string) => boolean): Promise<void> => {
    try {
      tell(await takeCutRuns(database, isOver));
    } catch (error) {
      failed(error);
    }
  };
  const alive = await held();
  for (const session of alive) if (session !== own) whenEnds(session, () => void take((of) => of === session));
  await take((of) => of !== own && !alive.has(of));
}
