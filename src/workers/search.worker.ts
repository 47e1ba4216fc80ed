/// <reference lib="webworker" />
import type { TraceSearchQuestion } from '../messages/trace-search';
import { breathe } from '../store/breathe';
import { SearchHost } from './search-host';

declare const self: DedicatedWorkerGlobalScope;

const host = new SearchHost(
  (answer) => self.postMessage(answer),
  breathe,
  () => performance.now(),
);

self.addEventListener('message', ({ data }: MessageEvent<TraceSearchQuestion>) => {
  // The page hears of it, and goes through its trace itself.
  host.take(data).catch((error: unknown) => self.reportError(error));
});
