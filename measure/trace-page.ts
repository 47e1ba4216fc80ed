import type { Browser, Page } from '@playwright/test';
import alderFord from '../demo/alder-ford.json';
import { DATABASE_NAME } from '../src/store/database';
import { allIsHere } from './all-is-here';
import { claim, note } from './measure';

const BLOCK = 2000;
const STEPS = 100;
const STEP_PX = 220;

/** Fills the database of a page's origin with one earlier session of the demo job’s exchanges, block by block as the program keeps them. */
async function fill(page: Page, entries: number): Promise<void> {
  await page.evaluate(
    async ([name, count, size, job]) => {
      const open = indexedDB.open(name);
      const database = await new Promise<IDBDatabase>((resolve) => (open.onsuccess = () => resolve(open.result)));
      const write = database.transaction(['sessions', 'traceBlocks'], 'readwrite');
      write.objectStore('sessions').put({ id: 'earlier', startedAtMs: Date.now() - 1e9, job });
      const frame = [3, 3, 1, 0x85, 0, 1, 0x95, 0xf3];
      for (let first = 0; first < count; first += size) {
        const n = Math.min(size, count - first);
        const index = Array.from({ length: n }, (_, i) => first + i);
        write.objectStore('traceBlocks').put({
          session: 'earlier',
          first,
          count: n,
          atUs: Float64Array.from(index, (i) => 1000 * i),
          exchange: Uint32Array.from(index, (i) => 1 + (i >> 1)),
          station: Uint8Array.from(index, () => 3),
          direction: Uint8Array.from(index, (i) => i & 1),
          outcome: Uint8Array.from(index, (i) => i & 1),
          lineFaults: new Uint8Array(n),
          line: new Uint16Array(n),
          cause: Uint16Array.from(index, () => 1),
          texts: ['K1', 'poll'],
          ends: Uint32Array.from(index, (_, i) => (i + 1) * frame.length),
          bytes: Uint8Array.from({ length: n * frame.length }, (_, i) => frame[i % frame.length] ?? 0),
        });
      }
      await new Promise((resolve) => (write.oncomplete = resolve));
      database.close();
    },
    [DATABASE_NAME, entries, BLOCK, alderFord.id] as const,
  );
}

/** Milliseconds that reading all blocks takes and nothing else, on a page that does nothing else. */
const plainRead = (page: Page): Promise<number> =>
  page.evaluate(async (name) => {
    const open = indexedDB.open(name);
    const database = await new Promise<IDBDatabase>((resolve) => (open.onsuccess = () => resolve(open.result)));
    const start = performance.now();
    const all = database.transaction('traceBlocks').objectStore('traceBlocks').getAll();
    await new Promise((resolve) => (all.onsuccess = resolve));
    const ms = performance.now() - start;
    database.close();
    return ms;
  }, DATABASE_NAME);

/** Milliseconds from the first block that the program asks for to the whole record in the page. */
const opening = (page: Page): Promise<number> =>
  page.evaluate(
    () =>
      new Promise<number>((resolve) => {
        let start = 0;
        const look = (): void => {
          const text = document.querySelector('[data-testid=trace-kept]')?.textContent ?? '';
          if (start === 0 && text.includes('being read')) start = performance.now();
          if (start !== 0 && !text.includes('being read')) resolve(performance.now() - start);
          else setTimeout(look, 1);
        };
        look();
      }),
  );

interface Scrolled {
  readonly scriptMs: number;
  readonly rows: number;
}

/** Script that a step of scrolling costs in the enlarged trace, and the most rows that were in the page. */
async function scroll(page: Page): Promise<Scrolled> {
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('Performance.enable', { timeDomain: 'threadTicks' });
  const script = async (): Promise<number> =>
    (await devtools.send('Performance.getMetrics')).metrics.find(({ name }) => name === 'ScriptDuration')?.value ?? NaN;
  let rows = 0;
  const steps = async (way: 1 | -1): Promise<void> => {
    for (let step = 0; step < STEPS; step++)
      rows = Math.max(
        rows,
        await page.evaluate(
          (by) =>
            new Promise<number>((resolve) => {
              const list = document.querySelector('[aria-label="Entries of the trace"]');
              list?.scrollBy(0, by);
              requestAnimationFrame(() =>
                requestAnimationFrame(() => resolve(list?.querySelectorAll('li').length ?? 0)),
              );
            }),
          way * STEP_PX,
        ),
      );
  };
  await steps(-1);
  let best = Infinity;
  for (const way of [1, -1, 1] as const) {
    const before = await script();
    await steps(way);
    best = Math.min(best, ((await script()) - before) / STEPS);
  }
  return { scriptMs: 1000 * best, rows };
}

interface Opened extends Scrolled {
  readonly readMs: number;
  readonly openMs: number;
}

async function openedWith(browser: Browser, address: string, entries: number): Promise<Opened> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.goto(address);
  await page.getByRole('heading', { name: 'Alder Ford' }).waitFor();
  await allIsHere(page);
  const nothing = `${address}/no-such-page`;
  await page.goto(nothing);
  await fill(page, entries);
  const reads = [await plainRead(page), await plainRead(page), await plainRead(page)];
  const openings: number[] = [];
  for (let round = 0; round < 3; round++) {
    // What is open is left first: a page with a million entries takes its time to be cleared away.
    await page.goto(nothing);
    await page.goto(address, { waitUntil: 'commit' });
    openings.push(await opening(page));
  }
  await page.getByText(`${entries.toLocaleString('en-GB')} entries · kept`).waitFor();
  await page.getByRole('button', { name: 'enlarge' }).click();
  const scrolled = await scroll(page);
  await context.close();
  return { readMs: Math.min(...reads), openMs: Math.min(...openings), ...scrolled };
}

/** A trace of a million entries in the browser: opening it, and scrolling in it. */
export async function tracePageBench(browser: Browser, address: string): Promise<void> {
  const large = await openedWith(browser, address, 1_000_000);
  const small = await openedWith(browser, address, 1000);
  note(
    `a trace of 1,000,000 entries: blocks read in ${large.readMs.toFixed(0)} ms, opened in ${large.openMs.toFixed(0)} ms; ` +
      `script of a scroll step ${large.scriptMs.toFixed(2)} ms, with 1,000 entries ${small.scriptMs.toFixed(2)} ms`,
  );
  claim('opening a trace of 1,000,000 entries against reading its blocks', large.openMs / large.readMs, {
    atMost: 2.3,
  });
  claim('rows in the page while scrolling', Math.max(large.rows, small.rows), { atMost: 80 });
  claim('script of a scroll step against that with 1,000 entries', large.scriptMs / small.scriptMs, { atMost: 1.5 });
}
