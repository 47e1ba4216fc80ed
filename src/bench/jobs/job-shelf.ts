import { messageOf } from '../../core/message-of';
import type { StoreApi } from 'zustand/vanilla';
import { newId } from '../new-id';
import { copyOfJob, type Job } from '../../core/job/job';
import { JOB_FORMAT } from '../../core/job/job-limits';
import { adoptFile, jobFileText, sheetsOfJob, type JobFile } from '../../core/job/job-file';
import { pinnedIn, shelfOf } from '../../core/sheet/shelf';
import type { BujoDatabase } from '../../store/database';
import { chooseJob, keepJob, readShelf, removeJob, updateJob, type BadRow } from '../../store/jobs';
import { keepSheet } from '../../store/sheets';
import type { Shipped } from '../../store/shipped';
import { whyKeptOpen } from './line-plans';
import { askFileWorker, fileName, saveFile } from '../workers/ask-file-worker';
import type { BenchState, ShelfNews } from '../state/bench-state';
import type { JobTabs } from './job-tabs';

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
  readonly settle: (file: JobFile, how: 'replace' | 'keep-both') => void;
  /** Takes a file's sheets, which changes none that is here; its job as it goes by them then. Rejects where they cannot be kept. */
  readonly adopt: (file: JobFile) => Promise<Job>;
  /** A row that could not be read, as it stands. */
  readonly exportRow: (row: BadRow) => void;
  readonly dismiss: () => void;
}

/** The jobs of this browser as the page holds them: opened, changed, put away, with every change in the database before it is shown. */
export function createJobShelf(
  database: BujoDatabase,
  shipped: Promise<Shipped>,
  state: StoreApi<BenchState>,
  tabs: JobTabs,
  restart: () => void,
): Omit<JobShelf, 'dismiss'> {
  const tell = (news: ShelfNews | null): void => state.setState({ shelfNews: news });
  const read = async () => readShelf(database, (await shipped).demo);
  const refresh = async (): Promise<void> => {
    const { all, bad } = await read();
    state.setState({ jobs: all, badJobs: bad });
  };
  /** Takes a file's sheets and gives its job as it goes by them. */
  const adopt = async (file: JobFile): Promise<Job> => {
    const { job, sheets } = adoptFile(
      file,
      (slug, revision) => pinnedIn(state.getState().sheets, { slug, revision })?.sheet,
    );
    for (const sheet of sheets) await keepSheet(database, (await shipped).sheets, sheet);
    if (sheets.length > 0)
      state.setState(({ sheets: known }) => ({
        sheets: shelfOf(sheets, known),
      }));
    return job;
  };
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
      const renamed = await updateJob(database, job, (stored) => ({ ...stored, name }));
      if (state.getState().job?.id === job.id) state.setState({ job: renamed });
      tabs.tell(job.id);
    });
  };
  const fileText = (job: Job): string =>
    jobFileText({
      job,
      sheets: sheetsOfJob(job, (slug, revision) => pinnedIn(state.getState().sheets, { slug, revision })?.sheet),
    });
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
      saveFile(new Blob([fileText(job)], { type: 'application/json' }), fileName(job.name, 'job.json')),
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
        const { job } = told.file;
        const known = (await read()).all.find(({ id }) => id === job.id);
        if (known) tell({ text: `${known.name} is here already.`, bad: false, ask: told.file });
        else act(`Imported ${job.name}.`, async () => keepJob(database, await adopt(told.file)));
      });
    },
    settle: (file, how) => {
      const { id, name } = file.job;
      if (how === 'keep-both')
        return act(`Imported ${name}, imported.`, async () =>
          keepJob(database, copyOfJob(await adopt(file), `${name}, imported`, newId)),
        );
      const { job: open, lines } = state.getState();
      if (open?.id !== id) return act(`Replaced ${name}.`, async () => keepJob(database, await adopt(file)));
      // What is shown is the old job, and the next change would write it back: the page begins anew with the file.
      const moving = whyKeptOpen(
        { job: open, lines },
        open.lines.map((line) => line.id),
      );
      if (moving !== '') return tell({ text: moving, bad: true, ask: file });
      return act(`Replaced ${name}.`, async () => {
        await keepJob(database, await adopt(file));
        // It may never have been chosen, but opened as the first by name, which it need not be any more.
        await chooseJob(database, id);
        tabs.tell(id);
        restart();
      });
    },
    adopt,
    exportRow: ({ id, row }) =>
      saveFile(new Blob([`${JSON.stringify(row, null, 2)}\n`], { type: 'application/json' }), fileName(id, 'row.json')),
  };
}

const MOST_FAULTS = 3;

function faultText(faults: readonly { readonly path: string; readonly text: string }[]): string {
  const told = faults
    .slice(0, MOST_FAULTS)
    .map(({ path, text }) => (path === '' ? `${text}.` : `At ${path}: ${text}.`));
  return [...told, faults.length > MOST_FAULTS ? `And ${faults.length - MOST_FAULTS} more.` : ''].join(' ').trim();
}
