import type { BatchDrawn, LineBatch, LineCommand, LineNews, PageHere } from '../../messages/line';

/** The page's end of the line worker. */
export interface WorkerLink {
  readonly post: (command: LineCommand) => void;
  /** When the last batch came or was drawn, in the page's milliseconds; the page says so when the worker is silent. */
  readonly lastHeardMs: () => number;
}

/** The worker's own start may take so long. */
const START_MS = 4_000;

/** Starts the line worker; made once a tab, never on the server. */
export function startLineWorker(take: (batch: LineBatch) => void): WorkerLink {
  const worker = new Worker(new URL('../../workers/line.worker.ts', import.meta.url), {
    type: 'module',
    name: 'bujo line',
  });
  // It takes a while to start, and that is no silence.
  let heardMs = performance.now() + START_MS;
  // Made out of its message a batch has cost as much as a task should that somebody's key waits for: it is taken in the next one.
  const waiting: LineBatch[] = [];
  const turn = new MessageChannel();
  turn.port1.onmessage = () => {
    const batch = waiting.shift();
    if (!batch) return;
    const tookMs = performance.now();
    take(batch);
    const drawn = (): void => {
      heardMs = performance.now();
      worker.postMessage({ kind: 'drawn', number: batch.number } satisfies BatchDrawn);
    };
    // A page out of sight draws nothing, and its timers are slow.
    if (document.hidden) drawn();
    // As much time for the user as the batch took: a slow computer gets fewer batches, not a page that does not answer.
    else setTimeout(() => setTimeout(drawn, performance.now() - tookMs));
  };
  worker.addEventListener('message', ({ data }: MessageEvent<LineNews>) => {
    // At once, and apart from the batches: it tells that this thread is alive, however long the drawing takes.
    if (data.kind === 'ping') return worker.postMessage({ kind: 'here' } satisfies PageHere);
    // While the page draws it is the worker that waits: that is no silence either.
    heardMs = Infinity;
    waiting.push(data);
    turn.port2.postMessage(null);
  });
  return {
    post: (command) => worker.postMessage(command),
    lastHeardMs: () => heardMs,
  };
}
