/// <reference lib="webworker" />
import { messageOf } from '../core/message-of';
import { readFramesText } from '../core/job/frames-file';
import { LARGEST_JOB_FILE, readJobText } from '../core/job/load-job';
import { BujoDatabase } from '../store/database';
import type { FileAnswer, FileQuestion } from '../messages/file';
import { fetchShipped } from '../store/shipped';
import { exportTrace } from '../store/trace-export';

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

async function answer(question: FileQuestion): Promise<FileAnswer> {
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
