import type { LineBatch, LineCommand } from '../link/messages';

/** The page's end of the line worker. */
export interface WorkerLink {
  readonly post: (command: LineCommand) => void;
  /** Wall-clock milliseconds of the last batch; the page says so when the worker is silent. */
  readonly lastHeardMs: () => number;
}

/** The worker's own start may take so long. */
const START_MS = 4_000;

/** Starts the line worker; made once a tab, never on the server. */
export function startLineWorker(take: (batch: LineBatch) => void): WorkerLink {
  const worker = new Worker(new URL('../workers/line.worker.ts', import.meta.url), {
    type: 'module',
    name: 'bujo line',
  });
  // It takes a while to start, and that is no silence.
  let heardMs = performance.now() + START_MS;
  worker.addEventListener('message', ({ data }: MessageEvent<LineBatch>) => {
    heardMs = performance.now();
    take(data);
  });
  return {
    post: (command) => worker.postMessage(command),
    lastHeardMs: () => heardMs,
  };
}
