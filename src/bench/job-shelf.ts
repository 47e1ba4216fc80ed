import { messageOf } from '../core/message-of';
import type { StoreApi } from 'zustand/vanilla';
import { uuidV7 } from '../core/id';
import { copyOfJob, JOB_FORMAT, jobFileText, type Job } from '../core/job/job';
import type { BujoDatabase } from '../store/database';
import { chooseJob, keepJob, readShelf, removeJob } from '../store/jobs';
import type { Shipped } from '../store/shipped';
import { askFileWorker, fileName, saveFile } from './ask-file-worker';
import type { BenchState, ShelfNews } from './bench-state';

/** The jobs of this browser. Every act ends in a sentence; a failed one has changed nothing. */
export interface JobShelf {
  readonly create: (name: string) => void;
  readonly rename: (job: Job, name: string) => void;
  readonly copy: (job: Job) => void;
  readonly remove: (job: Job) => void;
  readonly restore: (job: Job) => void;
  /** Opens another job; the page starts anew with it, so nothing of the old one goes on. */
  readonly open: (job: Job) => void;
  readonly exportJob: (job: Job) => void;
  readonly exportTrace: (job: Job, form: 'csv' | 'jsonl') => void;
  readonly importFile: (file: File) => void;
  /** The answer to `ask`: the known job is replaced, or both are kept. */
  readonly settle: (job: Job, how: 'replace' | 'keep-both') => void;
  readonly dismiss: () => void;
}

const newId = (): string => uuidV7(Date.now(), crypto.getRandomValues(new Uint8Array(10)));

export function createJobShelf(
  database: BujoDatabase,
  shipped: Promise<Shipped>,
  state: StoreApi<BenchState>,
  restart: () => void,
): JobShelf {
  const tell = (news: ShelfNews | null): void => state.setState({ shelfNews: news });
  const all = async (): Promise<readonly Job[]> => (await readShelf(database, (await shipped).demo)).all;
  const refresh = async (): Promise<void> => state.setState({ jobs: await all() });
  /** Does something to the database and says how it went. */
  const act = (text: string, work: () => Promise<Partial<ShelfNews> | void>): void => {
    work()
      .then(async (more) => {
        await refresh();
        tell({ text, bad: false, ...more });
      })
      .catch((error: unknown) =>
        tell({
          text: `That could not be done, and nothing was changed: ${messageOf(error)}`,
          bad: true,
        }),
      );
  };
  const renamed = (job: Job, name: string): void => {
    act(`Renamed to ${name}.`, async () => {
      await keepJob(database, { ...job, name });
      if (state.getState().job?.id === job.id) state.setState({ job: { ...job, name } });
    });
  };
  return {
    create: (name) =>
      act(`Made ${name}.`, () => keepJob(database, { format: JOB_FORMAT, id: newId(), name, lines: [] })),
    rename: renamed,
    copy: (job) =>
      act(`Copied to ${job.name}, copy.`, () => keepJob(database, copyOfJob(job, `${job.name}, copy`, newId))),
    remove: (job) => act(`Deleted ${job.name}.`, async () => ({ undo: (await removeJob(database, job.id)) ?? job })),
    restore: (job) => act(`${job.name} is back.`, () => keepJob(database, job)),
    open: (job) => {
      chooseJob(database, job.id).then(restart, (error: unknown) =>
        tell({ text: `${job.name} could not be opened: ${String(error)}`, bad: true }),
      );
    },
    exportJob: (job) =>
      saveFile(new Blob([jobFileText(job)], { type: 'application/json' }), fileName(job.name, 'job.json')),
    exportTrace: (job, form) => {
      void askFileWorker({ kind: 'export-trace', form, job }).then((told) => {
        if (told.kind !== 'file')
          return tell({
            text: `The trace could not be exported: ${told.kind === 'faults' ? (told.faults[0]?.text ?? '') : ''}`,
            bad: true,
          });
        saveFile(told.blob, fileName(job.name, `trace.${form}`));
        tell({ text: `Exported ${told.entries} entries of the trace.`, bad: false });
      });
    },
    importFile: (file) => {
      void askFileWorker({ kind: 'read-job', file }).then(async (told) => {
        if (told.kind !== 'job')
          return tell({
            text: `${file.name} was not taken, and nothing was changed. ${faultText(told.kind === 'faults' ? told.faults : [])}`,
            bad: true,
          });
        const known = (await all()).find(({ id }) => id === told.job.id);
        if (known) tell({ text: `${known.name} is here already.`, bad: false, ask: told.job });
        else act(`Imported ${told.job.name}.`, () => keepJob(database, told.job));
      });
    },
    settle: (job, how) => {
      if (how === 'replace') act(`Replaced ${job.name}.`, () => keepJob(database, job));
      else
        act(`Imported ${job.name}, imported.`, () => keepJob(database, copyOfJob(job, `${job.name}, imported`, newId)));
    },
    dismiss: () => tell(null),
  };
}

const MOST_FAULTS = 3;

function faultText(faults: readonly { readonly path: string; readonly text: string }[]): string {
  const told = faults
    .slice(0, MOST_FAULTS)
    .map(({ path, text }) => (path === '' ? `${text}.` : `At ${path}: ${text}.`));
  return [...told, faults.length > MOST_FAULTS ? `And ${faults.length - MOST_FAULTS} more.` : ''].join(' ').trim();
}
