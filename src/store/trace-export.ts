import { pinnedIn } from '../core/sheet/shelf';
import Dexie from 'dexie';
import Papa from 'papaparse';
import type { Job } from '../core/job/job';
import { protocolOfLine } from '../core/protocol/choose';
import type { Sheet } from '../core/sheet/sheet';
import { unpackBlock } from '../core/trace/block';
import { EXPORT_COLUMNS, exporter, type ExportRow } from '../core/trace/export';
import type { BujoDatabase } from './database';
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
  // Lines that are not in the job any more are read as the session that used them had them.
  const known = [...sessions.flatMap(({ lines: had = [] }) => had), ...job.lines];
  const lines = new Map(known.map((line) => [line.id, line]));
  const protocols = new Map([...lines.values()].map((line) => [line.id, protocolOfLine(line, sheets)]));
  const parts: BlobPart[] = [head];
  let entries = 0;
  for (const session of sessions) {
    const row = exporter({
      startedAtMs: session.startedAtMs,
      lineName: (line) => lines.get(line)?.name ?? line,
      indexOf: (line, number) => {
        return pinnedIn(sheets, lines.get(line)?.stations.find(({ station }) => station === number)?.sheet);
      },
      protocolOf: (line) => protocols.get(line) ?? null,
    });
    const keys = await database.traceBlocks
      .where('[session+first]')
      .between([session.id, Dexie.minKey], [session.id, Dexie.maxKey])
      .primaryKeys();
    for (const key of keys) {
      const block = await database.traceBlocks.get(key);
      if (!block) continue;
      parts.push(text(unpackBlock(block).map(row)));
      entries += block.count;
    }
  }
  return { blob: new Blob(parts, { type }), entries };
}
