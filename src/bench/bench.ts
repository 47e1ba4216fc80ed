import { messageOf } from '../core/message-of';
import { createStore, type StoreApi } from 'zustand/vanilla';
import { whyNotOpened } from './jobs/why-not-opened';
import { newId } from './new-id';
import { sameJob, withLine, type Job } from '../core/job/job';
import type { WayBack } from '../core/job/take-away';
import type { Procedure } from '../core/procedure/procedure';
import type { Jog } from '../core/places/jog';
import type { SerialSettings } from '../core/line/settings';
import { revisionsOf, shelfOf, withStandins, type Sheets } from '../core/sheet/shelf';
import type { Sheet } from '../core/sheet/sheet';
import { unpackBlock } from '../core/trace/block';
import { RECORD_MOST, sizeOf, withOlder } from '../core/trace/record';
import type { ProcedureTold, SendOptions } from '../link/line-owner';
import type { PollItem } from '../link/poll-source';
import { BujoDatabase, linesOfSession, type PaperRow, type RunRow } from '../store/database';
import { readShelf, storedJob, updateJob, type BadRow } from '../store/jobs';
import { fetchShipped, type Shipped } from '../store/shipped';
import type { LookShelf } from '../store/look-shelf';
import { photoShelf, type PhotoShelf } from '../store/photo-shelf';
import type { SetShelf } from '../store/set-shelf';
import { dropSheet, keepSheet, readSheets, RevisionTaken } from '../store/sheets';
import { heldSessions, holdSession, whenSessionEnds } from '../store/session-locks';
import { tellCutRuns } from '../store/runs';
import type { RecordShelf } from '../store/record-shelf';
import type { Room } from '../store/room';
import type { TrialShelf } from '../store/trial-shelf';
import { readTrace } from '../store/trace-reader';
import { withUse } from '../store/with-use';
import {
  FIRST_STATE,
  followedStation,
  takeBatch,
  TRACE_WINDOW,
  withPastLines,
  type BenchState,
  type DriveRef,
} from './state/bench-state';
import { createDrafts, type DraftStore } from './state/drafts';
import { jobTabs } from './jobs/job-tabs';
import { jobActs } from './jobs/job-acts';
import type { JobShelf } from './jobs/job-shelf';
import { changedPlans, plansOf, whyKeptOpen } from './jobs/line-plans';
import { RUNS_KEPT, type RunAbout, type RunView } from './state/runs';
import { unansweredStops } from './state/unanswered-stops';
import { startLineWorker, type WorkerLink } from './workers/worker-link';

const shelves = () => import('../store/shelves');

/** The worker is called silent after this long. */
const SILENT_MS = 500;

/** What a user can do with lines and drives, from any view. Nothing here is called without a press. */
export interface Bench {
  readonly state: StoreApi<BenchState>;
  readonly drafts: DraftStore;
  readonly jobs: JobShelf;
  readonly select: (line: string, station: number) => void;
  readonly open: (line: string) => void;
  readonly close: (line: string) => void;
  /** Sends bytes to a drive, whatever is looked at; the ticket finds the result in `results`. */
  readonly send: (to: DriveRef, bytes: Uint8Array, cause: string, options?: SendOptions) => number;
  readonly poll: (line: string, items: readonly PollItem[]) => void;
  /** Begins a procedure on a line; its run is in `runs` under the id that is returned. */
  readonly start: (line: string, procedure: Procedure, about?: RunAbout) => string;
  readonly tell: (run: string, told: ProcedureTold) => void;
  /** A run that is over is not shown any more. */
  readonly putAway: (run: string) => void;
  readonly stop: () => void;
  readonly dismissStop: () => void;
  /** A person saw this drive's shaft stand, which no answer tells. */
  readonly seenStanding: (drive: DriveRef) => void;
  /** A key that lets this drive's shaft turn goes down; what is sent then, and what when it is let go. */
  readonly hold: (drive: DriveRef, jog: Pick<Jog, 'press' | 'release'>) => void;
  /** It is still down; to be said several times in the 300 ms after which the worker takes it for let go. */
  readonly held: (drive: DriveRef) => void;
  readonly letGo: (drive: DriveRef) => void;
  readonly dismissRefused: () => void;
  /** Changes the open job and keeps it; lines that it concerns are built anew, which closes them. False, and said, where a drive is in motion there. */
  readonly changeJob: (change: (job: Job) => Job, undoable?: WayBack) => boolean;
  /** Takes the last deletion in the open job back. */
  readonly undoChange: () => void;
  readonly dismissChange: () => void;
  /** New settings for this end of a line, at once; the job keeps them. */
  readonly setEnd: (line: string, serial: SerialSettings) => void;
  /** Keeps a sheet of the user's own; lines that use it are built anew. Rejects where it cannot be kept, or a drive is in motion there. */
  readonly keepSheet: (sheet: Sheet) => Promise<void>;
  /** Deletes all revisions of a sheet of the user's own; what is given puts them back. Rejects while a station of the open job uses it. */
  readonly dropSheet: (slug: string) => Promise<() => Promise<void>>;
  /** Keeps a manual in this browser, so that entries taken from it can show their page. */
  readonly keepPaper: (paper: PaperRow) => Promise<void>;
  /** A kept manual; undefined where this browser has none of this digest. */
  readonly paper: (digest: string) => Promise<PaperRow | undefined>;
  /** Values of drives and plans that were written, as this browser keeps them with the jobs. */
  readonly sets: SetShelf;
  readonly trials: TrialShelf;
  readonly looks: LookShelf;
  readonly records: RecordShelf;
  readonly photos: PhotoShelf;
  /** What the traces of this browser take. */
  readonly room: Room;
  readonly post: WorkerLink['post'];
}

/** Makes the bench of this tab: database, line worker and state. Called once, in the browser. */
export function createBench(): Bench {
  const state = createStore<BenchState>(() => FIRST_STATE);
  const { setState: set, getState: get } = state;
  const worker = startLineWorker((batch) => {
    const before = get();
    const after = takeBatch(before, batch);
    return () => {
      // What a person did meanwhile stands: the batch is taken after it.
      set((current) => (current === before ? after : takeBatch(current, batch)));
      if (batch.exchanges.length > 0) void fetchTelling();
    };
  });
  const session = newId<'session'>();
  const drafts = createDrafts();
  const database = new BujoDatabase();
  const asked = fetchShipped();
  const tabs = jobTabs((id) => {
    if (id === get().job?.id) void catchUp();
  });
  /** Changes of this tab that are on their way into the database, and whether another tab’s wait to be shown. */
  let unwritten = 0;
  let isBehind = false;
  let ticket = 0;
  let isTellingAsked = false;
  /** The drive at which Stop was pressed last. */
  let stoppedAt = 0;

  holdSession(session);
  void begin();
  setInterval(() => {
    const silent = performance.now() - worker.lastHeardMs() > SILENT_MS;
    if (silent !== get().silent) set({ silent });
    if (silent) set(({ stops, lines }) => ({ stops: unansweredStops(stops, lines, stoppedAt) }));
  }, SILENT_MS / 2);

  /** With the first line that is opened; while it does not come, once more with each answer. */
  async function fetchTelling(): Promise<void> {
    if (isTellingAsked || get().telling) return;
    isTellingAsked = true;
    try {
      set({ telling: (await import('./state/telling')).telling });
    } catch {
      // The server is away, and the views say so by what they cannot tell.
    }
    isTellingAsked = false;
  }

  async function begin(): Promise<void> {
    const wallMs = Date.now();
    let shipped: Shipped;
    try {
      shipped = await asked;
    } catch (error) {
      return set({ phase: { kind: 'failed', reason: messageOf(error) } });
    }
    let job: Job;
    let jobs: readonly Job[] = [];
    let badJobs: readonly BadRow[] = [];
    let trouble = '';
    try {
      ({ open: job, all: jobs, bad: badJobs } = await readShelf(database, shipped.demo));
    } catch (error) {
      job = shipped.demo;
      trouble = messageOf(error);
    }
    const first = job.lines[0];
    let sheets: Sheets = withStandins(shelfOf(shipped.sheets), shipped.unlisted);
    try {
      const read = await readSheets(database, shipped.sheets);
      sheets = withStandins(read.sheets, shipped.unlisted);
      trouble ||= read.faults.join('; ');
    } catch (error) {
      trouble ||= messageOf(error);
    }
    worker.post({
      kind: 'begin',
      session,
      job: job.id,
      wallMs,
      seed: wallMs % 2 ** 32,
      lines: plansOf(job, sheets),
      jobLines: job.lines,
    });
    const sessionStartMs = new Map([[session, wallMs]]);
    set({
      phase: { kind: 'ready' },
      job,
      jobs,
      badJobs,
      sheets,
      shippedSlugs: new Set(shipped.sheets.map(({ slug }) => slug)),
      session,
      sessionStartMs,
      lineId: first?.id ?? '',
      station: first?.stations[0]?.station ?? 0,
      readTrouble: trouble,
    });
    await tellRunsCut();
    await recall();
  }

  /** A procedure that a reload ended is told as ended there, once; a session of another tab goes on. */
  async function tellRunsCut(): Promise<void> {
    const alive = { held: heldSessions, whenEnds: whenSessionEnds };
    const tell = (cut: readonly RunRow[]): void => {
      // Of the job that is open then, which may be another one.
      const lines = new Set(get().job?.lines.map(({ id }) => id));
      const views = cut
        .filter(({ line }) => lines.has(line))
        .map(({ id, line, procedure, run }): RunView => ({ id, line, procedure, about: { kind: 'none' }, run }));
      if (views.length > 0) set(({ runs }) => ({ runs: [...views, ...runs] }));
    };
    await tellCutRuns(database, session, alive, tell, (error) => set({ readTrouble: messageOf(error) }));
  }

  /** Puts the trace of earlier sessions before this one's. */
  async function recall(): Promise<void> {
    set({ recordRead: 'reading' });
    let isCut = false;
    let isWindowFull = false;
    try {
      for await (const { session: of, blocks } of readTrace(database, get().job?.id ?? '', session)) {
        set((current) => {
          isWindowFull ||= current.entries.length >= TRACE_WINDOW;
          return {
            record: withOlder(current.record, blocks),
            sessionStartMs: current.sessionStartMs.has(of.id)
              ? current.sessionStartMs
              : new Map([[of.id, of.startedAtMs], ...current.sessionStartMs]),
            pastLines: withPastLines(current, of.lines ?? []),
            sessionLines: current.sessionLines.has(of.id)
              ? current.sessionLines
              : new Map([...current.sessionLines, [of.id, linesOfSession(of)]]),
            ...(isWindowFull
              ? {}
              : { entries: [...blocks.flatMap(unpackBlock), ...current.entries].slice(-TRACE_WINDOW) }),
          };
        });
        isCut = sizeOf(get().record) >= RECORD_MOST;
        if (isCut) break;
      }
    } catch (error) {
      set({ readTrouble: messageOf(error) });
    }
    set({ recordRead: isCut ? 'cut' : 'whole' });
  }

  function changeJob(change: (job: Job) => Job, undoable?: WayBack): boolean {
    const { job } = get();
    if (!job) return false;
    if (!show(job, change(job))) return false;
    set({ undoable: undoable ?? null });
    unwritten++;
    updateJob(database, job, change)
      .then(() => tabs.tell(job.id))
      .catch((error: unknown) => set({ readTrouble: `the job could not be kept: ${messageOf(error)}` }))
      .finally(() => {
        unwritten--;
        if (unwritten === 0 && isBehind) void catchUp();
      });
    return true;
  }

  /** Another tab changed the open job: it is shown as it is stored, once nothing of this tab is on its way there. */
  async function catchUp(): Promise<void> {
    isBehind = unwritten > 0;
    const { job } = get();
    if (isBehind || !job) return;
    const stored = await storedJob(database, job.id);
    if (unwritten > 0) isBehind = true;
    else if (stored && !sameJob(stored, job) && show(job, stored)) set({ changedElsewhere: true });
  }

  /** Shows a job instead of the one before; lines that differ are built anew. False, and said, where a drive is in motion on one of them. */
  function show(job: Job, next: Job): boolean {
    const { sheets } = get();
    const { plans, gone } = changedPlans({ job, sheets }, { job: next, sheets });
    const refused = whyKeptOpen(get(), [...gone, ...plans.map(({ id }) => id)]);
    set({ refused });
    if (refused !== '') return false;
    for (const line of gone) worker.post({ kind: 'unplan', line });
    for (const plan of plans) worker.post({ kind: 'plan', line: plan.id, plan });
    if (plans.length + gone.length > 0) worker.post({ kind: 'job-lines', lines: next.lines });
    set((current) => ({
      pastLines: withPastLines(
        current,
        job.lines.filter(({ id }) => gone.includes(id)),
      ),
    }));
    set((current) => ({
      job: next,
      jobs: current.jobs.map((known) => (known.id === next.id ? next : known)),
      station: followedStation(current, job, next),
    }));
    return true;
  }

  return {
    state,
    drafts,
    jobs: jobActs(
      async () =>
        (await import('./jobs/job-shelf')).createJobShelf(database, asked, state, tabs, () => location.reload()),
      (shelfNews) => set({ shelfNews }),
    ),
    select: (lineId, station) => set({ lineId, station }),
    open: (id) => {
      const line = get().job?.lines.find((candidate) => candidate.id === id);
      const off = line ? whyNotOpened(line, drafts.getState().forms) : '';
      if (off !== '') return set({ refused: `${line?.name ?? id} is not opened: ${off}` });
      worker.post({ kind: 'open', line: id });
      void fetchTelling();
    },
    close: (line) => worker.post({ kind: 'close', line }),
    send: ({ line, station }, bytes, cause, options) => {
      ticket++;
      worker.post({ kind: 'send', line, station, bytes, cause, ticket, ...(options ? { options } : {}) });
      return ticket;
    },
    poll: (line, items) => worker.post({ kind: 'poll', line, items }),
    start: (line, procedure, about = { kind: 'none' }) => {
      const id = newId();
      set(({ runs }) => ({ runs: [...runs, { id, line, procedure, about, run: null }].slice(-RUNS_KEPT) }));
      worker.post({ kind: 'procedure', line, procedure, id });
      return id;
    },
    tell: (id, told) => {
      const view = get().runs.find((one) => one.id === id);
      if (view) worker.post({ kind: 'procedure-told', line: view.line, id, told });
    },
    putAway: (id) => set(({ runs }) => ({ runs: runs.filter((view) => view.id !== id) })),
    stop: () => {
      const { lineId: line, station } = get();
      stoppedAt = station;
      drafts.getState().clearWords();
      set({ stops: [{ line, cause: 'Stop', outcomes: [], over: false }], refused: '' });
      worker.post({ kind: 'stop', line, station });
    },
    dismissStop: () => set({ stops: [] }),
    seenStanding: ({ line, station }) => worker.post({ kind: 'seen-standing', line, station }),
    hold: ({ line, station }, { press, release }) => worker.post({ kind: 'hold', line, station, press, release }),
    held: ({ line, station }) => worker.post({ kind: 'held', line, station }),
    letGo: ({ line, station }) => worker.post({ kind: 'let-go', line, station }),
    dismissRefused: () => set({ refused: '' }),
    changeJob,
    undoChange: () => {
      const { undoable } = get();
      if (undoable) changeJob(undoable.restore);
    },
    dismissChange: () => set({ undoable: null, changedElsewhere: false }),
    setEnd: (line, serial) => {
      worker.post({ kind: 'reconfigure', line, settings: serial });
      // The line refuses this while a drive turns, and says so; the job must not say otherwise.
      if ((get().lines.get(line)?.driven.length ?? 0) > 0) return;
      changeJob((job) => withLine(job, line, (own) => ({ ...own, serial })));
    },
    keepSheet: async (sheet) => {
      // Asked before it is kept and once more after: meanwhile a drive may have been set in motion, or another sheet kept.
      const next = () => {
        const { job, sheets: before } = get();
        const sheets = shelfOf([sheet], before);
        const plans = job ? changedPlans({ job, sheets: before }, { job, sheets }).plans : [];
        const refused = whyKeptOpen(
          get(),
          plans.map(({ id }) => id),
        );
        if (refused !== '') throw new Error(refused);
        return { sheets, plans };
      };
      next();
      const { sheets: shipped } = await asked;
      await keepSheet(database, shipped, sheet).catch(async (error: unknown) => {
        // What the other tab kept is known from now on, so that the next press finds a free number.
        if (error instanceof RevisionTaken) set({ sheets: (await readSheets(database, shipped)).sheets });
        throw error;
      });
      const { sheets, plans } = next();
      set({ sheets });
      for (const plan of plans) worker.post({ kind: 'plan', line: plan.id, plan });
    },
    dropSheet: async (slug) => {
      const users = (get().job?.lines ?? []).flatMap(({ stations }) =>
        stations.filter(({ sheet }) => sheet?.slug === slug),
      );
      if (users.length > 0)
        throw new Error(
          `it is used by ${users.map(({ station, name }) => `${station} · ${name}`).join(', ')}: give them another sheet first`,
        );
      const taken = revisionsOf(get().sheets, slug).map(({ sheet }) => sheet);
      await dropSheet(database, slug);
      set(({ sheets }) => ({ sheets: new Map([...sheets].filter(([, { sheet }]) => sheet.slug !== slug)) }));
      return async () => {
        for (const sheet of taken) await keepSheet(database, (await asked).sheets, sheet);
        set(({ sheets }) => ({ sheets: shelfOf(taken, sheets) }));
      };
    },
    keepPaper: async (paper) => {
      await database.papers.put(paper);
    },
    paper: (digest) => database.papers.get(digest),
    trials: withUse(async () => (await shelves()).trialShelf(database)),
    looks: withUse(async () => (await shelves()).lookShelf(database)),
    photos: photoShelf(database),
    room: withUse(async () => (await shelves()).roomOf(database)),
    records: withUse(async () =>
      (await shelves()).recordShelf(database, async (id) => {
        const { demo, sheets } = await asked;
        return id === demo.id ? (await import('../store/record-row')).shippedRecords(demo, sheets) : [];
      }),
    ),
    sets: withUse(async () =>
      (await shelves()).setShelf(database, async (id) => {
        const { demo, sheets } = await asked;
        return id === demo.id ? (await import('../store/set-row')).shippedSets(demo, sheets) : [];
      }),
    ),
    post: worker.post,
  };
}
