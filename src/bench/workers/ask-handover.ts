import type { HandoverAnswer, HandoverQuestion } from '../../messages/handover';

/** Asks the worker of records one thing; it is started for that and ended after it. */
export function askHandover(question: HandoverQuestion): Promise<HandoverAnswer> {
  const worker = new Worker(new URL('../../workers/handover.worker.ts', import.meta.url), {
    type: 'module',
    name: 'bujo records',
  });
  return new Promise<HandoverAnswer>((resolve) => {
    worker.addEventListener('message', ({ data }: MessageEvent<HandoverAnswer>) => resolve(data));
    worker.addEventListener('error', ({ message }) => resolve({ kind: 'failed', why: message }));
    worker.postMessage(question);
  }).finally(() => worker.terminate());
}
