import type { BatchDrawn, LineBatch, LineCommand, LineNews, PageHere } from '../../messages/line';
import { tasksInTurn } from './tasks-in-turn';

/** The page's end of the line worker. */
export interface WorkerLink {
  readonly post: (command: LineCommand) => void;
  /** When the last batch came or was drawn, in the page's milliseconds; the page says so when the worker is silent. */
  readonly lastHeardMs: () => number;
}

/** The worker's own start may take so long. */
const START_MS = 4_000;

/**
 * Starts the line worker; made once a tab, never on the server. `take` works a batch out and gives back what shows it. A batch is made out of its message,
 * worked out and shown in a task each: any of them costs as much as one should that somebody's key waits for.
 */
export function startLineWorker(take: (batch: LineBatch) => () => void): WorkerLink {
  const worker = new Worker(new URL('../../workers/line.worker.ts', import.meta.url), {
    type: 'module',
    name: 'bujo line',
  });
  // It takes a while to start, and that is no silence.
  let heardMs = performance.now() + START_MS;
  const inTurns = tasksInTurn();
  const drawn = ({ number }: LineBatch): void => {
    heardMs = performance.now();
    worker.postMessage({ kind: 'drawn', number } satisfies BatchDrawn);
  };
  worker.addEventListener('message', ({ data }: MessageEvent<LineNews>) => {
    // At once, and apart from the batches: it tells that this thread is alive, however long the drawing takes.
    if (data.kind === 'ping') return worker.postMessage({ kind: 'here' } satisfies PageHere);
    // While the page draws it is the worker that waits: that is no silence either.
    heardMs = Infinity;
    inTurns(() => {
      const tookMs = performance.now();
      const show = take(data);
      inTurns(() => {
        show();
        // A page out of sight draws nothing, and its timers are slow.
        if (document.hidden) drawn(data);
        // As much time for the user as the batch took: a slow computer gets fewer batches, not a page that does not answer.
        else setTimeout(() => setTimeout(() => drawn(data), performance.now() - tookMs));
      });
    });
  });
  return {
    post: (command) => worker.postMessage(command),
    lastHeardMs: () => heardMs,
  };
}
