import type { LineBatch, LineCommand } from '../link/messages';

/** The page's end of the line worker. */
export interface WorkerLink {
  readonly post: (command: LineCommand) => void;
  /** Wall-clock milliseconds of the last batch; the page says so when the worker is silent. */
  readonly lastHeardMs: () => number;
}

/** Starts the line worker; made once a tab, never on the server. */
export function startLineWorker(take: (batch: LineBatch) => void): WorkerLink {
  const worker = new Worker(new URL('../workers/line.worker.ts', import.meta.url), {
    type: 'module',
    name: 'bujo line',
  });
  let heardMs = performance.now();
  worker.addEventListener('message', ({ data }: MessageEvent<LineBatch>) => {
    heardMs = performance.now();
    take(data);
  });
  return {
    post: (command) => worker.postMessage(command),
    lastHeardMs: () => heardMs,
  };
}
