import { pinnedIn, type Sheets } from '../../core/sheet/shelf';
import type { Job, JobLine, JobStation } from '../../core/job/job';
import { sheetThen, type LineHistory, type SessionLines } from '../../core/job/line-history';
import type { JobFile } from '../../core/job/job-file';
import type { WayBack } from '../../core/job/take-away';
import type { BadRow } from '../../store/jobs';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { TraceEntry } from '../../core/trace/entry';
import { EMPTY_RECORD, RECORD_MOST, withNewer, withoutOldest, type TraceRecord } from '../../core/trace/record';
import type { LineBatch, LineState, StopReport } from '../../messages/line';
import type { ExchangeResult } from '../../link/request';
import { runsAfter, type RunView } from './runs';
import { afterCut, afterExchange, UNKNOWN_STATION, type StationView } from './live-values';
import type { Telling } from './told-state';

/** The newest entries, unpacked, for views that look back over a short time; the whole record is `record`. */
export const TRACE_WINDOW = 5000;
/** Results that views may still ask for by ticket. */
const RESULTS_KEPT = 50;

/** Ages are shown by a clock of this step: a finer one would draw every view anew with every batch. */
const CLOCK_STEP_US = 200_000;

/** How the start went. */
export type StartPhase =
  { readonly kind: 'starting' } | { readonly kind: 'ready' } | { readonly kind: 'failed'; readonly reason: string };

/** What the shelf has to say after an act; `undo` where it can be taken back, `ask` where a choice is needed. */
export interface ShelfNews {
  readonly text: string;
  readonly bad: boolean;
  readonly undo?: Job;
  readonly ask?: JobFile;
}

/** Everything that the views show of lines and drives. Plain data; `takeBatch` is its only way forward. */
export interface BenchState {
  readonly phase: StartPhase;
  readonly job: Job | null;
  /** All jobs of this browser, by name. */
  readonly jobs: readonly Job[];
  /** Rows of the database that are no jobs any more. */
  readonly badJobs: readonly BadRow[];
  /** The last deletion in the open job, until it was seen or taken back. */
  readonly undoable: WayBack | null;
  /** Another tab of this browser changed the open job; said until it was seen. */
  readonly changedElsewhere: boolean;
  /** What came of the last act on them. */
  readonly shelfNews: ShelfNews | null;
  readonly sheets: Sheets;
  /** Names of the sheets that ship; they cannot be changed. */
  readonly shippedSlugs: ReadonlySet<string>;
  /** Lines that are not in the job any more, as the sessions that used them had them: their entries are read by these. */
  readonly pastLines: ReadonlyMap<string, JobLine>;
  /** How lines were in each session: an entry is read by those of its time. */
  readonly sessionLines: ReadonlyMap<string, SessionLines>;
  readonly session: string;
  /** Wall-clock start of every session that has entries here. */
  readonly sessionStartMs: ReadonlyMap<string, number>;
  readonly lineId: string;
  readonly station: number;
  readonly lines: ReadonlyMap<string, LineState>;
  readonly views: ReadonlyMap<string, StationView>;
  readonly entries: readonly TraceEntry[];
  readonly record: TraceRecord;
  /** Whether what earlier starts of the page left is in the record: not asked for, coming, all of it, or as much as it holds. */
  readonly recordRead: 'not-asked' | 'reading' | 'whole' | 'cut';
  readonly results: ReadonlyMap<number, ExchangeResult>;
  /** How the last press of Stop goes, a report a line; empty when it was put away. */
  readonly stops: readonly StopReport[];
  /** Procedures that run on a line, or ran, the newest last. */
  readonly runs: readonly RunView[];
  readonly nowUs: number;
  readonly keptUpTo: number;
  /** Why the worker cannot keep the trace just now; empty when it can. */
  readonly keepTrouble: string;
  /** Why this page could not read its jobs or the earlier trace; it stays, for nothing will read them again. */
  readonly readTrouble: string;
  /** Why the last change of the job was not made; empty when it was, or when that was seen. */
  readonly refused: string;
  readonly yardSpeed: number;
  readonly turning: LineBatch['turning'];
  /** A real link is open, so the yard's time does not run faster than life. */
  readonly realTime: boolean;
  readonly ipSweep: LineBatch['ipSweep'];
  /** The line worker has not been heard for half a second. */
  readonly silent: boolean;
  /** Null until it is here. */
  readonly telling: Telling | null;
}

export const FIRST_STATE: BenchState = {
  phase: { kind: 'starting' },
  job: null,
  jobs: [],
  badJobs: [],
  undoable: null,
  changedElsewhere: false,
  shelfNews: null,
  sheets: new Map(),
  shippedSlugs: new Set(),
  pastLines: new Map(),
  sessionLines: new Map(),
  session: '',
  sessionStartMs: new Map(),
  lineId: '',
  station: 0,
  lines: new Map(),
  views: new Map(),
  entries: [],
  record: EMPTY_RECORD,
  recordRead: 'not-asked',
  results: new Map(),
  stops: [],
  runs: [],
  nowUs: 0,
  keptUpTo: -1,
  keepTrouble: '',
  readTrouble: '',
  refused: '',
  yardSpeed: 1,
  turning: [],
  realTime: false,
  ipSweep: null,
  silent: false,
  telling: null,
};

/** One drive of the job. Whatever is sent carries this from its press on: another drive may be looked at meanwhile. */
export interface DriveRef {
  readonly line: string;
  readonly station: number;
}

/** How a drive is named in maps: its line and its number. */
export const stationKey = (line: string, station: number): string => `${line} ${station}`;

/** The chosen line of the open job. */
export const lineOf = (state: BenchState): JobLine | null =>
  state.job?.lines.find(({ id }) => id === state.lineId) ?? null;

/** The chosen station of the open job. */
export const stationOf = (state: BenchState): JobStation | null =>
  lineOf(state)?.stations.find(({ station }) => station === state.station) ?? null;

/** The number of the chosen station in a changed job: it is the same drive, whatever number it has now. */
export function followedStation(
  { lineId, station }: Pick<BenchState, 'lineId' | 'station'>,
  before: Job,
  after: Job,
): number {
  const stationsOf = ({ lines }: Job) => lines.find(({ id }) => id === lineId)?.stations ?? [];
  const chosen = stationsOf(before).find((own) => own.station === station);
  return stationsOf(after).find(({ id }) => id === chosen?.id)?.station ?? station;
}

/** A station as views name it. */
export const stationName = ({ station, name }: JobStation): string => `${station} · ${name}`;

/** What is known of a station; the chosen one where none is named. */
export const viewOf = (state: BenchState, line = state.lineId, station = state.station): StationView =>
  state.views.get(stationKey(line, station)) ?? UNKNOWN_STATION;

/** A line of the job, or one that was. */
export const knownLine = ({ job, pastLines }: Pick<BenchState, 'job' | 'pastLines'>, line: string): JobLine | null =>
  job?.lines.find(({ id }) => id === line) ?? pastLines.get(line) ?? null;

/** What a session's lines add; a newer session's word counts. */
export const withPastLines = ({ pastLines }: BenchState, lines: readonly JobLine[]): BenchState['pastLines'] =>
  lines.every(({ id }) => pastLines.has(id))
    ? pastLines
    : new Map([...lines.map((line) => [line.id, line] as const), ...pastLines]);

/** By which lines and sheets entries are read. */
export const historyOf = ({
  job,
  pastLines,
  sessionLines,
}: Pick<BenchState, 'job' | 'pastLines' | 'sessionLines'>): LineHistory => ({
  now: job?.lines ?? [],
  past: pastLines,
  sessions: sessionLines,
});

/** The sheet by which an entry is read: the one that its station had then. */
export const indexThen = (state: BenchState, entry: TraceEntry): SheetIndex | null =>
  pinnedIn(state.sheets, sheetThen(historyOf(state), entry));

/** The pinned sheet of a station, or null where it has none. */
export function indexOf(state: BenchState, line = state.lineId, station = state.station): SheetIndex | null {
  const found = knownLine(state, line)?.stations.find((candidate) => candidate.station === station);
  return pinnedIn(state.sheets, found?.sheet);
}

/** The state after one batch of the worker. */
export function takeBatch(state: BenchState, batch: LineBatch): BenchState {
  const grown = withNewer(state.record, batch.entries);
  const record = withoutOldest(grown, RECORD_MOST);
  return {
    ...state,
    lines:
      batch.lines.length === 0
        ? state.lines
        : new Map([...state.lines, ...batch.lines.map((line) => [line.line, line] as const)]),
    views: viewsAfterCuts(state, batch.lines, viewsAfter(state, batch.exchanges)),
    entries: batch.entries.length === 0 ? state.entries : [...state.entries, ...batch.entries].slice(-TRACE_WINDOW),
    record,
    recordRead: record === grown ? state.recordRead : 'cut',
    results: resultsAfter(state.results, batch.exchanges),
    sessionLines: batch.earlier
      ? new Map([...state.sessionLines, [state.session, { earlier: batch.earlier, lines: null }]])
      : state.sessionLines,
    stops: stopsAfter(state.stops, batch.stops),
    runs: runsAfter(state.runs, batch.runs),
    nowUs: Math.floor(batch.nowUs / CLOCK_STEP_US) * CLOCK_STEP_US,
    keptUpTo: batch.keptUpTo,
    keepTrouble: batch.keepTrouble,
    yardSpeed: batch.yardSpeed,
    turning: batch.turning,
    realTime: batch.realTime,
    ipSweep: batch.ipSweep,
    silent: false,
  };
}

/** The newest report of each line takes the place of its older one. */
function stopsAfter(stops: BenchState['stops'], news: LineBatch['stops']): BenchState['stops'] {
  return news.reduce((known, report) => [...known.filter(({ line }) => line !== report.line), report], stops);
}

/** Lines that were open and are not any more take what lives at their stations with them. */
function viewsAfterCuts(state: BenchState, lines: LineBatch['lines'], views: BenchState['views']): BenchState['views'] {
  const cut = lines.filter(({ line, open }) => !open && state.lines.get(line)?.open === true);
  if (cut.length === 0) return views;
  const isCut = new Set(cut.map(({ line }) => line));
  const after = new Map(views);
  for (const { id, stations } of state.job?.lines ?? [])
    for (const { station } of isCut.has(id) ? stations : []) {
      const key = stationKey(id, station);
      const view = views.get(key);
      if (view) after.set(key, afterCut(view, indexOf(state, id, station)));
    }
  return after;
}

function viewsAfter(state: BenchState, exchanges: LineBatch['exchanges']): BenchState['views'] {
  if (exchanges.length === 0) return state.views;
  const after = new Map(state.views);
  for (const { line, result, learned } of exchanges) {
    const key = stationKey(line, result.request.station);
    const index = indexOf(state, line, result.request.station);
    after.set(key, afterExchange(after.get(key) ?? UNKNOWN_STATION, result, learned, index));
  }
  return after;
}

function resultsAfter(results: BenchState['results'], exchanges: LineBatch['exchanges']): BenchState['results'] {
  const told = exchanges.filter(({ result }) => result.request.ticket !== 0);
  if (told.length === 0) return results;
  return new Map(
    [...results, ...told.map(({ result }) => [result.request.ticket, result] as const)].slice(-RESULTS_KEPT),
  );
}
