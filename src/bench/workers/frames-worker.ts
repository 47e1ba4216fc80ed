import type { FramesAnswer, FramesQuestion } from '../../messages/frames';

/** The worker that opens captures and ranks unknown bytes; it lives as long as the page and is started at the first question. */
export interface FramesWorker {
  readonly ask: (question: FramesQuestion) => void;
  readonly listen: (heard: (answer: FramesAnswer) => void) => () => void;
}

let made: FramesWorker | null = null;

/** The worker that reads pasted bytes and captures; it is started when it is first asked. */
export function framesWorker(): FramesWorker {
  made ??= start();
  return made;
}

function start(): FramesWorker {
  const worker = new Worker(new URL('../../workers/frames.worker.ts', import.meta.url), {
    type: 'module',
    name: 'bujo frames',
  });
  const listeners = new Set<(answer: FramesAnswer) => void>();
  const tell = (answer: FramesAnswer): void => {
    for (const heard of listeners) heard(answer);
  };
  worker.addEventListener('message', ({ data }: MessageEvent<FramesAnswer>) => tell(data));
  worker.addEventListener('error', ({ message }) => tell({ kind: 'trouble', text: message }));
  return {
    ask: (question) => worker.postMessage(question),
    listen: (heard) => {
      listeners.add(heard);
      return () => listeners.delete(heard);
    },
  };
}
