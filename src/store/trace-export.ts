import { pinnedIn } from '../core/sheet/shelf';
import Papa from 'papaparse';
import type { Job } from '../core/job/job';
import { sheetThen } from '../core/job/line-history';
import { protocolsThen } from '../core/protocol/choose';
import type { Sheet } from '../core/sheet/sheet';
import { EXPORT_COLUMNS, exporter, type ExportRow } from '../core/trace/export';
import { historyOfJob, type BujoDatabase, type SessionRow } from './database';
import { eachEntry } from './each-entry';
import { readSheets } from './sheets';

const FORMS: Readonly<
  Record<
    'csv' | 'jsonl',
    { readonly type: string; readonly head: string; readonly text: (rows: readonly ExportRow[]) => string }
  >
> = {
  csv: {
    type: 'text/csv',
    head: `${EXPORT_COLUMNS.join(',')}\r\n`,
    text: (rows) =>
      `${Papa.unparse({ fields: [...EXPORT_COLUMNS], data: rows.map((row) => EXPORT_COLUMNS.map((column) => row[column])) }, { header: false, newline: '\r\n', escapeFormulae: true })}\r\n`,
  },
  jsonl: {
    type: 'application/x-ndjson',
    head: '',
    text: (rows) => rows.map((row) => `${JSON.stringify(row)}\n`).join(''),
  },
};

/** The whole trace of a job as one file, block by block, so that a long evening does not have to fit into one string. */
export async function exportTrace(
  database: BujoDatabase,
  job: Job,
  form: 'csv' | 'jsonl',
  shipped: readonly Sheet[],
): Promise<{ readonly blob: Blob; readonly entries: number }> {
  const { type, head, text } = FORMS[form];
  const { sheets } = await readSheets(database, shipped);
  const sessions = await database.sessions.where('job').equals(job.id).sortBy('startedAtMs');
  const history = historyOfJob(job, sessions);
  const protocolOf = protocolsThen(history, sheets);
  const parts: BlobPart[] = [head];
  let entries = 0;
  const rowsOf = new Map<string, ReturnType<typeof exporter>>();
  const makeRow = ({ startedAtMs }: SessionRow): ReturnType<typeof exporter> =>
    exporter({
      startedAtMs,
      lineName: (line) => (job.lines.find(({ id }) => id === line) ?? history.past.get(line))?.name ?? line,
      indexOf: (entry) => pinnedIn(sheets, sheetThen(history, entry)),
      protocolOf,
    });
  for await (const { session, entries: own } of eachEntry(database, job.id)) {
    const row = rowsOf.get(session.id) ?? makeRow(session);
    rowsOf.set(session.id, row);
    parts.push(text(own.map(row)));
    entries += own.length;
  }
  return { blob: new Blob(parts, { type }), entries };
}
