import type { VisitRecord } from '../../core/handover/document';
import { archiveFiles, controllerFiles, curveFiles, photoFiles, recordFile } from '../../core/handover/archive';
import { pageOf, recordText, type PageFonts, type Paper } from '../../core/handover/html';
import { makeRecord } from '../../core/handover/make-record';
import { LARGEST_RECORD, readRecord } from '../../core/handover/read-record';
import type { HandoverAnswer, HandoverQuestion } from '../../messages/handover';
import type { BujoDatabase } from '../../store/database';
import { exportTrace } from '../../store/trace-export';
import { curvePng } from './curve-png';
import { gather } from './gather';
import { schemaFiles } from './schemas';
import { tracePackets } from './trace-packets';
import { digestOf } from '../../store/digest';
import { DIGEST_LIST, LARGEST_ARCHIVE, packed, unpacked, type PackedFile } from './zip';

/** What the worker needs from outside: where the job's trace is kept, and the fonts of the page. */
export interface HandoverTools {
  readonly database: BujoDatabase;
  readonly fonts: () => Promise<PageFonts>;
}

const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);

/** Does what the page asks of a record; a question is answered once. */
export async function answerHandover(tools: HandoverTools, question: HandoverQuestion): Promise<HandoverAnswer> {
  switch (question.kind) {
    case 'record': {
      const record = makeRecord(await gather(tools.database, question.sources));
      // What cannot be opened again would be closed for good.
      const again = readRecord(recordText(record));
      const notes = again.ok ? [] : [`This record could not be opened again, leave sections out: ${again.error}.`];
      return { kind: 'record', record, digest: await digestOf(record), notes };
    }
    case 'page': {
      const digest = await digestOf(question.record);
      const page = await pageText(tools, question.record, digest, question.paper);
      return { kind: 'file', blob: new Blob([page], { type: 'text/html' }), digest };
    }
    case 'archive':
      return archive(tools, question);
    case 'open':
      return opened(question.file);
  }
}

const pageText = async (tools: HandoverTools, record: VisitRecord, digest: string, paper: Paper): Promise<string> =>
  pageOf(record, digest, paper, await tools.fonts());

/** Sections that a controller's programmer needs. */
const FOR_CONTROLLER: ReadonlySet<string> = new Set(['lines', 'addresses', 'words', 'scaling', 'cyclic']);

async function archive(
  tools: HandoverTools,
  { record, sources, paper, part }: Extract<HandoverQuestion, { kind: 'archive' }>,
): Promise<HandoverAnswer> {
  const { database } = tools;
  const input = sources && (await gather(database, sources));
  const isWhole = part === 'whole';
  const own = isWhole ? record : { ...record, sections: record.sections.filter(({ id }) => FOR_CONTROLLER.has(id)) };
  const digest = await digestOf(own);
  const page = { path: isWhole ? 'record.html' : 'words.html', text: await pageText(tools, own, digest, paper) };
  const texts = [
    page,
    ...(isWhole ? [recordFile(record)] : []),
    ...(input ? (isWhole ? archiveFiles(input) : controllerFiles(input)) : []),
    ...(isWhole ? await schemaFiles() : []),
  ];
  const files: PackedFile[] = [
    ...texts.map(({ path, text }) => ({ path, bytes: bytesOf(text) })),
    ...(isWhole ? [...(await curvePictures(record)), ...photoFiles(record)] : []),
  ];
  if (isWhole && sources) {
    const { blob: csv } = await exportTrace(database, sources.job, 'csv', sources.sheets);
    const packets = await tracePackets(database, sources.job);
    for (const [path, blob] of [
      ['trace.csv', csv],
      ['trace.pcapng', packets],
    ] as const)
      files.push({ path, bytes: new Uint8Array(await blob.arrayBuffer()) });
  }
  const zip = await packed(files, Date.parse(record.made));
  return { kind: 'file', blob: new Blob([Uint8Array.from(zip)], { type: 'application/zip' }), digest };
}

async function curvePictures(record: VisitRecord): Promise<readonly PackedFile[]> {
  const files: PackedFile[] = [];
  for (const { path, curve } of curveFiles(record)) {
    const bytes = await curvePng(curve);
    if (bytes) files.push({ path, bytes });
  }
  return files;
}

/** A record out of its page, its JSON or an archive; hostile until it was read. */
async function opened(file: File): Promise<HandoverAnswer> {
  const isZip = (await file.slice(0, 2).text()) === 'PK';
  if (!isZip) {
    if (file.size > LARGEST_RECORD) return { kind: 'failed', why: 'the file is too large for a record' };
    return recordOf(await file.text(), []);
  }
  if (file.size > LARGEST_ARCHIVE) return { kind: 'failed', why: 'the archive is too large' };
  const all = await unpacked(new Uint8Array(await file.arrayBuffer()));
  if (!all.ok) return { kind: 'failed', why: all.error };
  const { files, notes } = all.value;
  const found = files.find(({ path }) => path === 'record.json') ?? files.find(({ path }) => path.endsWith('.html'));
  if (!found)
    return {
      kind: 'failed',
      why: `no record is in this archive${notes.length > 0 ? `; ${notes[0] ?? ''}` : ''}; it holds ${files
        .filter(({ path }) => path !== DIGEST_LIST)
        .slice(0, 5)
        .map(({ path }) => path)
        .join(', ')}`,
    };
  return recordOf(new TextDecoder().decode(found.bytes), notes);
}

async function recordOf(text: string, notes: readonly string[]): Promise<HandoverAnswer> {
  const read = readRecord(text);
  return read.ok
    ? { kind: 'record', record: read.value, digest: await digestOf(read.value), notes }
    : { kind: 'failed', why: read.error };
}
