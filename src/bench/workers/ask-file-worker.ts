import type { FileAnswer, FileQuestion } from '../../messages/file';

const NOT_STARTED = 'the part of the program that reads files did not start: the local server does not answer';

/** Asks the file worker one thing; it is started for that and ended after it. After `withinMs` it is ended in any case, and that is the answer. */
export function askFileWorker(question: FileQuestion, withinMs?: number): Promise<FileAnswer> {
  const worker = new Worker(new URL('../../workers/file.worker.ts', import.meta.url), {
    type: 'module',
    name: 'bujo files',
  });
  let limit: ReturnType<typeof setTimeout> | undefined;
  return new Promise<FileAnswer>((resolve) => {
    if (withinMs !== undefined)
      limit = setTimeout(
        () =>
          resolve({
            kind: 'faults',
            faults: [{ path: '', text: `it took more than ${withinMs / 1000} s, and was ended` }],
          }),
        withinMs,
      );
    worker.addEventListener('message', ({ data }: MessageEvent<FileAnswer>) => resolve(data));
    worker.addEventListener('error', ({ message }) =>
      // A worker whose script does not come says nothing of it.
      resolve({ kind: 'faults', faults: [{ path: '', text: message || NOT_STARTED }] }),
    );
    worker.postMessage(question);
  }).finally(() => {
    clearTimeout(limit);
    worker.terminate();
  });
}

/** Offers a file for saving under a name. */
export function saveFile(blob: Blob, name: string): void {
  const address = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  // The browser has taken the file by the next turn; the address would hold its memory for good.
  setTimeout(() => URL.revokeObjectURL(address), 0);
}

/** `alder-ford.job.json` */
export const fileName = (name: string, ending: string): string =>
  `${
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'job'
  }.${ending}`;
