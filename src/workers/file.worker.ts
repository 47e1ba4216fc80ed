/// <reference lib="webworker" />
import { describe } from '../core/devices/describe';
import { messageOf } from '../core/message-of';
import { done, failed, type Result } from '../core/result';
import { openSet } from '../core/sets/open-set';
import { adoptDescribed } from '../core/sheet/adopt-described';
import { indexSheet } from '../core/sheet/index-sheet';
import { loadSheet } from '../core/sheet/load-sheet';
import { tableOfPages } from '../core/tables/page-table';
import { readTable } from '../core/tables/read-table';
import { readFramesText } from '../core/job/frames-file';
import { LARGEST_JOB_FILE, readJobText } from '../core/job/load-job';
import { BujoDatabase } from '../store/database';
import type { FileAnswer, FileQuestion } from '../messages/file';
import { fetchShipped } from '../store/shipped';
import { exportTrace } from '../store/trace-export';
import { sizedDown } from './sized-down';

declare const self: DedicatedWorkerGlobalScope;

/** People's files are read and validated here, never on the page; a large one is refused by its size before it is read. */
async function readJob(file: File): Promise<FileAnswer> {
  const tooLarge = sizeFault(file);
  if (tooLarge) return tooLarge;
  const read = readJobText(await file.text());
  return read.ok ? { kind: 'job', file: read.value } : { kind: 'faults', faults: read.error };
}

function sizeFault(file: File): FileAnswer | null {
  if (file.size <= LARGEST_JOB_FILE) return null;
  const megabytes = (size: number): string => (size / 1024 / 1024).toFixed(0);
  const text = `the file has ${megabytes(file.size)} MB; such a file has ${megabytes(LARGEST_JOB_FILE)} MB at most`;
  return { kind: 'faults', faults: [{ path: '', text }] };
}

async function readFrames(file: File): Promise<FileAnswer> {
  const tooLarge = sizeFault(file);
  if (tooLarge) return tooLarge;
  const read = readFramesText(await file.text());
  return read.ok ? { kind: 'frames', frames: read.value } : { kind: 'faults', faults: read.error };
}

/** A table as text; the first sheet of a spreadsheet, its cells parted by tabs. */
async function tableText(file: File): Promise<string> {
  if (!/\.xlsx$/i.test(file.name)) return file.text();
  const { default: readSheets } = await import('read-excel-file/web-worker');
  const [first] = await readSheets(file);
  const cell = (value: unknown): string =>
    value instanceof Date
      ? value.toISOString()
      : typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean'
        ? String(value)
        : '';
  return (first?.data ?? [])
    .map((row) => row.map((value) => cell(value).replace(/[\t\n]+/g, ' ')).join('\t'))
    .join('\n');
}

function table({ text, settings, reach }: Extract<FileQuestion, { kind: 'read-table' }>): FileAnswer {
  const { parameters, ...rest } = readTable(text, settings);
  const adopted = parameters.map((one) => ({ ...adoptDescribed(one, reach, rest.lowFirst), line: one.line }));
  return { kind: 'table', table: { ...rest, adopted } };
}

async function description(file: File): Promise<FileAnswer> {
  const { parameters, ...rest } = describe(await file.text());
  return {
    kind: 'description',
    description: { ...rest, adopted: parameters.map((one) => adoptDescribed(one, { kind: 'rule' })) },
  };
}

async function set({ file, sheet: known }: Extract<FileQuestion, { kind: 'open-set' }>): Promise<FileAnswer> {
  const tooLarge = sizeFault(file);
  if (tooLarge) return tooLarge;
  const opened = openSet(indexSheet(known), await tableText(file));
  return opened.ok
    ? { kind: 'set', opened: opened.value }
    : { kind: 'faults', faults: [{ path: '', text: opened.error }] };
}

async function sheet(file: File): Promise<FileAnswer> {
  const tooLarge = sizeFault(file);
  if (tooLarge) return tooLarge;
  const read = readJson(await file.text());
  return read.ok ? loaded(read.value) : { kind: 'faults', faults: [{ path: '', text: read.error }] };
}

function loaded(file: unknown): FileAnswer {
  const sheet = loadSheet(file);
  return sheet.ok ? { kind: 'sheet', sheet: sheet.value } : { kind: 'faults', faults: sheet.error };
}

function readJson(text: string): Result<unknown, string> {
  try {
    return done(JSON.parse(text) as unknown);
  } catch (error) {
    return failed(`no JSON: ${messageOf(error)}`);
  }
}

async function answer(question: FileQuestion): Promise<FileAnswer> {
  if (question.kind === 'read-table') return table(question);
  if (question.kind === 'open-set') return set(question);
  if (question.kind === 'page-table')
    return { kind: 'page-table', table: tableOfPages(question.pages, question.columns ?? undefined) };
  if (question.kind === 'read-sheet') return sheet(question.file);
  if (question.kind === 'load-sheet') return loaded(question.sheet);
  if (question.kind === 'table-text')
    return sizeFault(question.file) ?? { kind: 'table-text', text: await tableText(question.file) };
  if (question.kind === 'describe') return sizeFault(question.file) ?? description(question.file);
  if (question.kind === 'photo') return sizedDown(question.file);
  if (question.kind === 'read-job') return readJob(question.file);
  if (question.kind === 'read-frames') return readFrames(question.file);
  const database = new BujoDatabase();
  const { blob, entries } = await exportTrace(database, question.job, question.form, (await fetchShipped()).sheets);
  database.close();
  return { kind: 'file', blob, entries };
}

self.addEventListener('message', ({ data }: MessageEvent<FileQuestion>) => {
  answer(data).then(
    (told) => self.postMessage(told),
    (error: unknown) =>
      self.postMessage({
        kind: 'faults',
        faults: [{ path: '', text: messageOf(error) }],
      } satisfies FileAnswer),
  );
});
