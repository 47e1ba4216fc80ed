import type { JobLine, JobStation } from './job';

/** Lines as a session had them for its entries below a number. */
export interface EarlierLines {
  readonly before: number;
  readonly lines: readonly JobLine[];
}

/** The lines of one session over its time; `lines` null: those that the job has now. */
export interface SessionLines {
  readonly earlier: readonly EarlierLines[];
  readonly lines: readonly JobLine[] | null;
}

/** By which lines and sheets the entries of a job's traces are read: by those of their time. */
export interface LineHistory {
  readonly now: readonly JobLine[];
  /** Lines that the job does not have any more, as they were last. */
  readonly past: ReadonlyMap<string, JobLine>;
  readonly sessions: ReadonlyMap<string, SessionLines>;
}

/** A moment of a session, by the number of an entry. */
export interface Moment {
  readonly session: string;
  readonly sequence: number;
}

/** The same, at a station of a line. */
interface MomentAt extends Moment {
  readonly line: string;
  readonly station: number;
}

/** All lines as they were at a moment; those of now where nothing of then is kept. The same array as long as nothing changed. */
export function linesThen({ now, sessions }: LineHistory, { session, sequence }: Moment): readonly JobLine[] {
  const own = sessions.get(session);
  return own?.earlier.find(({ before }) => sequence < before)?.lines ?? own?.lines ?? now;
}

const lineIn = (lines: readonly JobLine[], line: string): JobLine | undefined => lines.find(({ id }) => id === line);

/** A line as it was at a moment; as it is, or was last, where nothing of then is kept; null where nobody knows it. */
export const lineThen = (history: LineHistory, at: Moment & { readonly line: string }): JobLine | null =>
  lineIn(linesThen(history, at), at.line) ?? lineIn(history.now, at.line) ?? history.past.get(at.line) ?? null;

/** The station of a moment as it is now, whatever number it has; undefined where it is not there any more. */
function stationNow(history: LineHistory, at: MomentAt): JobStation | undefined {
  const then = lineThen(history, at)?.stations.find(({ station }) => station === at.station);
  return lineIn(history.now, at.line)?.stations.find(({ id, station }) =>
    then ? id === then.id : station === at.station,
  );
}

/** The number that the station of a moment has now; its own where it is not there any more. */
export const numberNow = (history: LineHistory, at: MomentAt): number => stationNow(history, at)?.station ?? at.station;

/**
 * The sheet by which a station was read at a moment: a newer revision changes nothing of what was seen before it. Where it had none, the one that it
 * has now says more than none.
 */
export const sheetThen = (history: LineHistory, at: MomentAt): JobStation['sheet'] =>
  lineThen(history, at)?.stations.find(({ station }) => station === at.station)?.sheet ??
  stationNow(history, at)?.sheet;

/** When a session began, on the wall's clock. */
export interface SessionStart {
  readonly id: string;
  readonly startedAtMs: number;
}

/**
 * The id of the station that had a number of a line when something was kept that knows only the time: by the lines of the session in which that was, the
 * starts in their order. Where no session or two stations of it had the number, it is that of now.
 */
export function stationAt(
  history: LineHistory,
  starts: readonly SessionStart[],
  { line, station, atMs }: { readonly line: string; readonly station: number; readonly atMs: number },
): string | undefined {
  const idIn = (lines: readonly JobLine[]): string | undefined =>
    lineIn(lines, line)?.stations.find((one) => one.station === station)?.id;
  const session = starts.findLast(({ startedAtMs }) => startedAtMs <= atMs);
  const own = session && history.sessions.get(session.id);
  const all = own ? [...own.earlier.map((one) => one.lines), own.lines ?? history.now] : [];
  const [id, other] = [...new Set(all.flatMap((lines) => idIn(lines) ?? []))];
  return id === undefined || other !== undefined ? idIn(history.now) : id;
}

/** All by which entries of a line are read. */
const readingOf = (lines: readonly JobLine[]): string =>
  JSON.stringify(
    lines.map(({ id, protocol, stations }) => [
      id,
      protocol,
      stations.map(({ id: own, station, sheet }) => [own, station, sheet?.slug, sheet?.revision]),
    ]),
  );

/** What a session keeps of the lines that it had, after a change that its entries from `before` on do not see; the same where they are read alike. */
export const earlierAfter = (
  earlier: readonly EarlierLines[],
  before: number,
  lines: readonly JobLine[],
  next: readonly JobLine[],
): readonly EarlierLines[] => (readingOf(lines) === readingOf(next) ? earlier : [...earlier, { before, lines }]);
