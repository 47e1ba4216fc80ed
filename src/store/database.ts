import Dexie, { type EntityTable, type Table } from 'dexie';
import type { VisitRecord } from '../core/handover/document';
import type { Photo } from '../core/handover/photo';
import type { Visit } from '../core/handover/visit';
import type { Job, JobLine } from '../core/job/job';
import type { EarlierLines, LineHistory, SessionLines } from '../core/job/line-history';
import type { Procedure } from '../core/procedure/procedure';
import type { RunState } from '../core/procedure/run-state';
import type { Look } from '../core/registers/look';
import type { Plan } from '../core/sets/plan';
import type { SetReading } from '../core/sets/set-reading';
import type { SetWriting } from '../core/sets/set-writing';
import type { AxisStart } from '../core/trial/expect-position';
import type { CompiledTrial } from '../core/trial/compile';
import type { Sample, SeenLine } from '../core/trial/seen-line';
import type { TraceBlock } from '../core/trace/block';
import type { CopyRow } from './copies';

/** One run of a tab's line worker. Wall-clock time is stored here once; entries count microseconds from it. */
export interface SessionRow {
  readonly id: string;
  readonly startedAtMs: number;
  readonly job: string;
  /** Lines as they were at its end, so that their entries are read as they were made; absent in rows of version 3 and before. */
  readonly lines?: readonly JobLine[];
  /** The same before changes in the session; absent where there were none. */
  readonly earlier?: readonly EarlierLines[];
}

/** The lines of a session as its entries are read by them. */
export const linesOfSession = ({ lines, earlier = [] }: SessionRow): SessionLines => ({
  lines: lines ?? null,
  earlier,
});

/** By which lines and sheets the traces of a job are read; `sessions` from the oldest to the newest. */
export const historyOfJob = (job: Job, sessions: readonly SessionRow[]): LineHistory => ({
  now: job.lines,
  past: new Map(sessions.flatMap(({ lines = [] }) => lines.map((line) => [line.id, line] as const))),
  sessions: new Map(sessions.map((row) => [row.id, linesOfSession(row)])),
});

/** Non-volatile memory of a stand-in, by line and station. */
export interface NonvolatileRow {
  readonly line: string;
  readonly station: number;
  readonly values: Readonly<Record<string, number>>;
}

/** Where a procedure is, or ended: after a reload it tells the truth about that. */
export interface RunRow {
  readonly id: string;
  readonly session: string;
  readonly line: string;
  readonly procedure: Procedure;
  readonly run: RunState;
}

/** One revision of a sheet that the user made, as it was written. */
export interface SheetRow {
  readonly slug: string;
  readonly revision: number;
  readonly sheet: unknown;
}

/** A manual whose pages entries of a sheet are from: kept so that the page can be shown beside them. */
export interface PaperRow {
  /** SHA-256 of the file, in hex. */
  readonly digest: string;
  readonly name: string;
  readonly file: Blob;
}

/** Values of one drive as they were read, or came in a file. `said` is as the sheet's revision of then reads it. */
export interface SetRow {
  readonly id: string;
  readonly job: string;
  readonly line: string;
  readonly station: number;
  /** `now`: the last reading, whole or not; `visit`: one that was kept under a name; `file`: one that came in a file. */
  readonly kind: 'now' | 'visit' | 'file';
  readonly name: string;
  readonly sheet: { readonly slug: string; readonly revision: number };
  readonly startedMs: number;
  readonly reading: SetReading;
}

/** A look at what a drive has, as it stood after its last read. */
export interface LookRow {
  readonly job: string;
  /** The drive's key: its line and its station. */
  readonly drive: string;
  /** The station's name then. */
  readonly name: string;
  readonly look: Look;
  /** The look before it, to be compared with. */
  readonly before: Look | null;
  /** The commands that are looked through, by their places in the look. */
  readonly commands: readonly string[];
}

/** What is planned for a drive, as it stands on the bench. */
export interface PlanRow {
  /** The drive's key: its line and its station. */
  readonly drive: string;
  readonly job: string;
  readonly plan: Plan;
}

/** A plan that is being written, or was, as it stood after its last exchange. */
export interface WritingRow {
  readonly id: string;
  readonly job: string;
  readonly line: string;
  readonly station: number;
  /** The station's name then. */
  readonly name: string;
  readonly sheet: { readonly slug: string; readonly revision: number };
  readonly startedMs: number;
  /** Each write goes into non-volatile memory at once; absent: as the link writes. */
  readonly memory?: 'kept';
  readonly writing: SetWriting;
}

/** A trial as it was run on a drive: what was expected, what came, what was seen. */
export interface TrialRunRow {
  readonly id: string;
  readonly job: string;
  readonly line: string;
  readonly station: number;
  /** The station's name then. */
  readonly name: string;
  readonly sheet: { readonly slug: string; readonly revision: number };
  readonly startedMs: number;
  readonly compiled: CompiledTrial;
  /** The ramp by which the expected speed was drawn, in seconds; null where it was not known. */
  readonly rampS: number | null;
  /** The axis as it was then, where the trial moves one; absent in rows from before that was kept. */
  readonly axis?: AxisStart | null;
  readonly run: RunState | null;
  /** The actual speed, or the position where an axis is moved, as it was seen: in seconds of the line clock and in its unit. */
  readonly samples: SeenLine;
  readonly remark: string;
}

/** As it is kept: rows from before the line was one piece have its samples one by one. */
export type KeptTrialRun = Omit<TrialRunRow, 'samples'> & { readonly samples: SeenLine | readonly Sample[] };

/** A photograph that somebody put to a job. */
export interface PhotoRow extends Photo {
  readonly job: string;
}

/** What a person put to the record of a job that is being made. */
export interface VisitRow {
  readonly job: string;
  readonly visit: Visit;
}

/** A record that was closed, or came in a file: it is never changed. */
export interface RecordRow {
  /** SHA-256 of its JSON, in hex. */
  readonly digest: string;
  readonly job: string;
  readonly record: VisitRecord;
  readonly keptMs: number;
  /** It comes with the demo: it is no row of the database, and cannot be deleted. */
  readonly ships?: boolean;
}

/** The number of a sheet that was stored before revisions had rows of their own. */
const revisionIn = (sheet: unknown): number =>
  typeof sheet === 'object' && sheet !== null && 'revision' in sheet && Number.isInteger(sheet.revision)
    ? Number(sheet.revision)
    : 1;

/** One remembered choice, such as the job that is open. */
export interface SettingRow {
  readonly key: 'current-job';
  readonly value: string;
}

/** Names of database, tables and columns are persisted: changing one without a new version below loses people's data. */
export const DATABASE_NAME = 'bujo';

/** Everything that stays in the browser. Every version keeps its own stores() call, and each new one comes with a migration test. */
export class BujoDatabase extends Dexie {
  readonly jobs!: EntityTable<Job, 'id'>;
  readonly sessions!: EntityTable<SessionRow, 'id'>;
  readonly traceBlocks!: Table<TraceBlock, [string, number]>;
  readonly settings!: EntityTable<SettingRow, 'key'>;
  readonly sheetRevisions!: Table<SheetRow, [string, number]>;
  readonly papers!: EntityTable<PaperRow, 'digest'>;
  readonly sets!: EntityTable<SetRow, 'id'>;
  readonly writings!: EntityTable<WritingRow, 'id'>;
  readonly plans!: EntityTable<PlanRow, 'drive'>;
  readonly trialRuns!: EntityTable<KeptTrialRun, 'id'>;
  readonly looks!: Table<LookRow, [string, string]>;
  readonly visits!: EntityTable<VisitRow, 'job'>;
  readonly photos!: EntityTable<PhotoRow, 'id'>;
  readonly records!: EntityTable<RecordRow, 'digest'>;
  readonly runs!: EntityTable<RunRow, 'id'>;
  readonly nonvolatile!: Table<NonvolatileRow, [string, number]>;
  readonly copies!: EntityTable<CopyRow, 'version'>;

  constructor(name = DATABASE_NAME) {
    super(name);
    this.version(1).stores({
      jobs: 'id',
      sessions: 'id, startedAtMs, job',
      traceBlocks: '[session+first]',
      nonvolatile: '[line+station]',
    });
    // Jobs can be chosen among: the open one is remembered. Nothing of version 1 changes.
    this.version(2).stores({ settings: 'key' });
    // Sheets of the user's own. Nothing of version 2 changes.
    this.version(3).stores({ sheets: 'slug' });
    // Procedures under way. Nothing of version 3 changes.
    this.version(4).stores({ runs: 'id, session' });
    // Every revision of a sheet is a row: a trace is read with the one that its station had. What was there is copied, then the old table goes.
    this.version(5)
      .stores({ sheetRevisions: '[slug+revision], slug' })
      .upgrade(async (change) => {
        const rows = (await change.table('sheets').toArray()) as { slug: string; sheet: unknown }[];
        await change
          .table('sheetRevisions')
          .bulkPut(rows.map(({ slug, sheet }): SheetRow => ({ slug, revision: revisionIn(sheet), sheet })));
      });
    this.version(6).stores({ sheets: null });
    // Manuals that entries are from. Nothing of version 6 changes.
    this.version(7).stores({ papers: 'digest' });
    // Values as they were read, and plans as they were written. Nothing of version 7 changes.
    this.version(8).stores({ sets: 'id, job', writings: 'id, job' });
    // Plans that are not written yet. Nothing of version 8 changes.
    this.version(9).stores({ plans: 'drive, job' });
    // Trials as they were run. Nothing of version 9 changes.
    this.version(10).stores({ trialRuns: 'id, job' });
    // Records of visits. Nothing of version 10 changes.
    this.version(11).stores({ visits: 'job', records: 'digest, job' });
    // Looks at what drives have. Nothing of version 11 changes.
    this.version(12).stores({ looks: '[job+drive]' });
    // Photographs. Nothing of version 12 changes.
    this.version(13).stores({ photos: 'id, job' });
    // Where `keepCopy` puts the rows that a later version changes. Nothing of version 13 changes.
    this.version(14).stores({ copies: 'version' });
  }
}
