import type { HandoverDrive, HandoverInput, KeptSet } from '../../core/handover/drive';
import { TraceFacts } from '../../core/handover/trace-facts';
import { lineThen, numberNow, sheetThen, stationAt } from '../../core/job/line-history';
import { protocolOfLine, protocolsThen } from '../../core/protocol/choose';
import { sheetOfRun } from '../../core/sheet/plain-text';
import { pinnedIn, shelfOf, type Sheets } from '../../core/sheet/shelf';
import { eachEntry } from '../../store/each-entry';
import { historyOfJob, type BujoDatabase, type SetRow } from '../../store/database';
import type { RecordSources } from '../../messages/handover';

/** All that a record is made of, by what the page told and what the trace of the job holds, since the visit began. */
export async function gather(database: BujoDatabase, sources: RecordSources): Promise<HandoverInput> {
  const { job, sets, writings, runs, visit, madeMs, zoneMinutes } = sources;
  const sheets = shelfOf(sources.sheets);
  const since = visit.sinceMs ?? -Infinity;
  const startMs = new Map<string, number>();
  const starts = await database.sessions.where('job').equals(job.id).sortBy('startedAtMs');
  const history = historyOfJob(job, starts);
  const protocolThen = protocolsThen(history, sheets);
  const facts = new TraceFacts(
    (entry) => {
      const protocol = protocolThen(entry);
      const index = pinnedIn(sheets, sheetThen(history, entry));
      return protocol && { protocol, index, station: numberNow(history, entry) };
    },
    (entry) => lineThen(history, entry)?.stations.map(({ station }) => station) ?? [],
    (session) => startMs.get(session) ?? 0,
  );
  for await (const { session, entries } of eachEntry(database, job.id)) {
    startMs.set(session.id, session.startedAtMs);
    for (const entry of entries) if (session.startedAtMs + entry.atUs / 1000 >= since) facts.take(entry);
  }
  const drives = job.lines.flatMap((line) => {
    const protocol = protocolOfLine(line, sheets);
    return line.stations.map((station): HandoverDrive => {
      const isOwn = (row: Kept): boolean =>
        row.line === line.id && stationAt(history, starts, { ...row, atMs: row.startedMs }) === station.id;
      const own = sets.filter(isOwn).flatMap((row) => keptSet(sheets, row));
      const now = own.findLast(({ row }) => row.kind === 'now' && row.startedMs >= since);
      return {
        line,
        station,
        index: pinnedIn(sheets, station.sheet),
        protocol,
        facts: facts.of(line.id, station.station),
        now: now?.set ?? null,
        visits: own
          .filter(({ row }) => row.kind === 'visit')
          .sort((a, b) => a.row.startedMs - b.row.startedMs)
          .map(({ set }) => set),
        writings: writings
          .filter((row) => isOwn(row) && row.startedMs >= since)
          .sort((a, b) => a.startedMs - b.startedMs)
          .map(({ id, startedMs, writing }) => ({ id, startedMs, items: writing.items })),
        runs: runs
          .filter((row) => isOwn(row) && row.startedMs >= since)
          .flatMap(({ axis = null, sheet, ...row }) => {
            const index = sheetOfRun(sheets, sheet);
            return index ? [{ ...row, axis, index }] : [];
          }),
      };
    });
  });
  const photos = sources.photos.filter(({ atMs }) => atMs >= since);
  return { job, drives, photos, visit, madeMs, zoneMinutes };
}

/** What was kept of a drive, under the number that it had then. */
type Kept = Pick<SetRow, 'line' | 'station' | 'startedMs'>;

/** A set with the sheet of then; none where that is not here any more. */
function keptSet(sheets: Sheets, row: SetRow): readonly { readonly row: SetRow; readonly set: KeptSet }[] {
  const index = pinnedIn(sheets, row.sheet);
  const { id, name, startedMs, reading } = row;
  return index ? [{ row, set: { id, name, startedMs, index, said: reading.said } }] : [];
}
