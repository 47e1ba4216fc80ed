import { watchHands } from './hands';

/** Each part is read by the page's own thread, so it waits for a page that is left alone so long, but not for ever. */
const LEFT_ALONE_MS = 1_000;
const AT_MOST_MS = 12_000;

/**
 * Parts of stages that come when they are looked at. They are fetched once the first view is there, since by the time that they are looked at the
 * local server may be gone, while lines and Stop go on in this page.
 */
const PARTS_AHEAD: readonly (() => Promise<unknown>)[] = [
  () => import('../bench/state/telling'),
  () => import('../store/shelves'),
  () => import('../store/record-row'),
  () => import('../store/set-row'),
  () => import('../store/copy-file'),
  () => import('../bench/jobs/job-shelf'),
  () => import('../features/job/finders'),
  () => import('../features/job/shelf-news'),
  () => import('../features/job/name-entry'),
  () => import('../features/job/merge-panel'),
  () => import('../store/job-fault'),
  () => import('../features/line/ends-part'),
  () => import('../features/line/doctor-part'),
  () => import('../features/line/sweep-part'),
  () => import('../features/line/time-part'),
  () => import('../features/line/keypad-part'),
  () => import('../features/line/cable-part'),
  () => import('../features/line/address-part'),
  () => import('../features/line/wiring-part'),
  () => import('../features/line/terminal-part'),
  () => import('../features/frames/kept-part'),
  () => import('../features/frames/capture-part'),
  () => import('../features/frames/capture-item-chart'),
  () => import('../features/frames/unknown-part'),
  () => import('../features/frames/dialect-part'),
  () => import('../features/scaling/rounding-chart'),
  () => import('../features/words/trend-chart'),
  () => import('../features/palette/command-list'),
  () => import('../features/palette/key-map-dialog'),
  () => import('../features/trace/trace-tray'),
  () => import('../features/trials/band-chart'),
  () => import('../store/own-sheets'),
  // A log of visits as a spreadsheet.
  () => import('write-excel-file/browser'),
  // Its script is kept by the browser from then on: a sheet can be kept, and a table read, without the server.
  async () => (await import('../bench/workers/ask-file-worker')).askFileWorker({ kind: 'load-sheet', sheet: null }),
];

/** Fetches the stages and all other parts, until the page is left; rejects, after all others were asked for, where one did not come. */
export async function fetchAhead(stages: readonly (() => Promise<unknown>)[], isLeft: () => boolean): Promise<void> {
  const hands = watchHands();
  const missing: unknown[] = [];
  try {
    // One after the other: begun together they hold the page for a tenth of a second.
    for (const fetchIt of [...stages, ...PARTS_AHEAD]) {
      await hands.rest(LEFT_ALONE_MS, AT_MOST_MS);
      if (isLeft()) return;
      await fetchIt().catch((error: unknown) => missing.push(error));
    }
  } finally {
    hands.leave();
  }
  if (missing.length > 0) throw new Error(`${missing.length} parts of the page did not come`, { cause: missing });
}
