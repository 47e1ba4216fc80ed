import type { Browser, Page } from '@playwright/test';
import alderFord from '../demo/alder-ford.json';
import tern from '../sheets/tern.json';
import { longTail } from '../src/core/shipped/long-tail';
import { DATABASE_NAME } from '../src/store/database';
import { hourRun } from './hour-run';
import { claim, note } from './measure';

const ENTRIES = 5000;
const STATIONS = 247;
const VISITS = 50;
const FRAMES = 2000;
const STEPS = 500;
/** Of the wheel, through the values. */
const TURNS = 30;
/** Each step of the trial is done so often: 2000 steps in all. */
const TIMES = 4;

/** A trial under way is looked at for so long. */
const RUNS_MS = 10_000;

const SLUG = 'large-drive';
const LINE = 'large-line';
const TRIAL = 'A trial of very many steps';
const HOUR = 'An hour of it';

/** The fan's sheet with thousands of entries more, at addresses that its own rule does not reach. */
function largeSheet() {
  const more = Array.from({ length: ENTRIES - tern.parameters.length }, (_, i) => ({
    number: `L.${i + 1}`,
    name: `value ${i + 1} of group ${Math.floor(i / 40)}`,
    type: i % 3 === 0 ? 'int32' : 'uint16',
    unit: i % 2 === 0 ? 'A' : 's',
    scale: { kind: 'resolution', value: '0.1' },
    min: 0,
    max: 6000,
    default: i % 600,
    write: i % 5 === 0 ? 'never' : 'always',
    path: `Menu, group ${Math.floor(i / 40)}`,
    at: [{ kind: 'register', table: 'holding-register', address: 20_000 + 2 * i }],
  }));
  return { ...tern, slug: SLUG, name: 'Large', parameters: [...tern.parameters, ...more] };
}

function largeJob() {
  const [kiln] = alderFord.lines;
  const stations = Array.from({ length: STATIONS }, (_, i) => ({
    id: `large-${i}`,
    station: i + 1,
    name: `drive ${i + 1}`,
    sheet: { slug: SLUG, revision: tern.revision },
  }));
  const hold = (i: number) => ({ id: `hold-${i}`, kind: 'hold', s: 0.1 });
  const steps = [
    ...Array.from({ length: STEPS - 1 }, (_, i) => hold(i)),
    { id: 'again', kind: 'repeat', from: 'hold-0', times: TIMES },
  ];
  return {
    ...alderFord,
    lines: [{ ...kiln, id: LINE, name: 'L1 large', stations }, ...alderFord.lines],
    frames: Array.from({ length: FRAMES }, (_, i) => ({
      id: `frame-${i}`,
      name: `frame ${i}`,
      note: '',
      protocol: 'modbus-rtu',
      hex: '030301850001950f',
    })),
    trials: [
      ...alderFord.trials,
      { format: 1, id: 'very-many', name: TRIAL, proves: 'Nothing.', leaves: 'All.', steps },
    ],
  };
}

/** Sets of fifty visits of one drive, each as its reading was kept. */
function visits() {
  const numbers = longTail({ kind: 'groups', first: 20 }).map(({ number }) => number);
  return Array.from({ length: VISITS }, (_, i) => ({
    id: `visit-${i}`,
    job: alderFord.id,
    line: LINE,
    station: 1,
    kind: 'visit',
    name: `visit ${i + 1}`,
    sheet: { slug: SLUG, revision: tern.revision },
    startedMs: 1_700_000_000_000 + i * 86_400_000,
    said: numbers.map((number, j) => [number, { kind: 'value', words: [(i + j) % 600], atMs: null }] as const),
  }));
}

/** Playwright hands over plain lists, so the line goes as one. */
function anHour() {
  const place = {
    job: alderFord.id,
    line: LINE,
    station: 1,
    name: 'drive 1',
    sheet: { slug: SLUG, revision: tern.revision },
  };
  const run = hourRun('an-hour', place);
  return { ...run, samples: [...run.samples] };
}

const fill = (page: Page): Promise<void> =>
  page.evaluate(
    async ([name, sheet, job, sets, run]) => {
      const open = indexedDB.open(name);
      const database = await new Promise<IDBDatabase>((resolve) => (open.onsuccess = () => resolve(open.result)));
      const write = database.transaction(['sheetRevisions', 'jobs', 'sets', 'trialRuns'], 'readwrite');
      write.objectStore('sheetRevisions').put({ slug: sheet.slug, revision: sheet.revision, sheet });
      write.objectStore('jobs').put(job);
      for (const { said, ...row } of sets)
        write.objectStore('sets').put({
          ...row,
          reading: {
            waiting: [],
            said: new Map(said as [string, object][]),
            of: said.length,
            requests: 0,
            tries: 0,
            silences: 0,
          },
        });
      write.objectStore('trialRuns').put({ ...run, samples: Float64Array.from(run.samples) });
      await new Promise((resolve, reject) => {
        write.oncomplete = resolve;
        write.onerror = reject;
      });
      database.close();
    },
    [DATABASE_NAME, largeSheet(), largeJob(), visits(), anHour()] as const,
  );

interface Felt {
  /** Until what was asked for is there. */
  readonly readyMs: number;
  /** The page's thread at one stretch, above 50 ms; 0 where none was. */
  readonly longestMs: number;
  /** From an input to the next picture, as the browser measures it; the longest. */
  readonly inputMs: number;
}

/** Notes long tasks and inputs from the beginning of each page on. */
function listen(): void {
  const seen = { task: 0, input: 0 };
  Object.assign(window, { seen });
  const most = (kind: 'task' | 'input', type: string, more: object): void => {
    new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) seen[kind] = Math.max(seen[kind], duration);
    }).observe({ type, ...more });
  };
  most('task', 'longtask', {});
  most('input', 'event', { durationThreshold: 16 });
}

/** What an act costs the page, by the browser's own records of long tasks and of inputs. */
async function felt(page: Page, act: () => Promise<unknown>): Promise<Felt> {
  const seen = (): Promise<{ task: number; input: number }> =>
    page.evaluate(() => (window as unknown as { seen: { task: number; input: number } }).seen);
  await page.evaluate(() => Object.assign((window as unknown as { seen: object }).seen, { task: 0, input: 0 }));
  const startMs = performance.now();
  await act();
  const readyMs = performance.now() - startMs;
  await page.waitForTimeout(600);
  const { task, input } = await seen();
  return { readyMs, longestMs: task, inputMs: input };
}

const ms = (number: number): string => `${number.toFixed(0)} ms`;
const tell = (what: string, { readyMs, longestMs, inputMs }: Felt): void =>
  note(`large: ${what}: ready after ${ms(readyMs)}, input ${ms(inputMs)}, longest task ${ms(longestMs)}`);

/** Reads how long this page’s styles took until now, in seconds. */
async function stylesOf(page: Page): Promise<() => Promise<number>> {
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('Performance.enable');
  return async () =>
    (await devtools.send('Performance.getMetrics')).metrics.find(({ name }) => name === 'RecalcStyleDuration')?.value ??
    NaN;
}

/** The middle of the last third against that of the first. */
function growth(all: readonly number[]): number {
  const third = Math.floor(all.length / 3);
  const middle = (part: readonly number[]): number => [...part].sort((a, b) => a - b)[third >> 1] ?? NaN;
  return middle(all.slice(-third)) / middle(all.slice(0, third));
}

/** 5000 entries, 247 stations, 50 visits, 2000 kept frames, a trial of 2000 steps: what opening, typing, filtering and scrolling cost the page. */
export async function largeBench(browser: Browser, origin: string): Promise<void> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  await context.addInitScript(listen);
  const page = await context.newPage();
  const kept = page.getByRole('heading', { name: 'Alder Ford' });
  await page.goto(origin);
  await kept.waitFor();
  await fill(page);
  const tab = (name: string) => page.getByRole('tab', { name }).click();
  tell(
    'the page with all of it',
    await felt(page, async () => {
      await page.reload();
      await kept.waitFor();
    }),
  );
  await page
    .getByRole('button', { name: /^1 · drive 1\b/ })
    .first()
    .click();
  const grid = page.getByRole('grid', { name: 'Values' });
  tell(
    `Registers with ${ENTRIES} entries, opened`,
    await felt(page, async () => {
      await stage(page, 'Registers');
      await grid.locator('[data-number]').first().waitFor();
    }),
  );
  tell('a word typed into its search', await felt(page, () => page.getByLabel(/^Find/).pressSequentially('group 77')));
  await page.getByLabel(/^Find/).fill('');
  const styles = await stylesOf(page);
  const turned: number[] = [];
  tell(
    'scrolled through it',
    await felt(page, async () => {
      for (let i = 0; i < TURNS; i++) {
        const before = await styles();
        await grid.hover();
        await page.mouse.wheel(0, 3000);
        await page.waitForTimeout(50);
        turned.push((await styles()) - before);
      }
    }),
  );
  claim('styles of rows that come into sight, after hundreds that came and went', growth(turned), { atMost: 2.5 });
  tell(
    `${VISITS} visits listed`,
    await felt(page, async () => {
      await tab('Visits and files');
      await page.getByText(`visit ${VISITS}`).first().waitFor();
    }),
  );
  tell(
    `${FRAMES} kept frames, opened`,
    await felt(page, async () => {
      await stage(page, 'Frames');
      await tab('Kept frames');
      await page.getByRole('list', { name: 'Kept frames' }).waitFor();
    }),
  );
  tell(
    `${STATIONS} stations in Line`,
    await felt(page, async () => {
      await stage(page, 'Line');
      await page.getByRole('button', { name: 'Set up the line' }).click();
      await page.getByRole('group', { name: 'station 3 drive 3' }).waitFor();
    }),
  );
  await stage(page, 'Trials');
  tell(
    `a trial of ${STEPS * TIMES} steps, opened`,
    await felt(page, async () => {
      await page.getByRole('button', { name: new RegExp(TRIAL) }).click();
      await page.getByRole('table', { name: 'Steps of the trial' }).waitFor();
    }),
  );
  await editBench(page);
  await hourBench(page);
  await runBench(page);
  const heap = await page.evaluate(
    () => (performance as unknown as { memory?: { usedJSHeapSize: number } }).memory?.usedJSHeapSize ?? NaN,
  );
  note(`large: memory of the page with all of it: ${(heap / 1e6).toFixed(0)} MB`);
  await context.close();
}

const stage = (page: Page, name: string): Promise<void> => page.getByRole('link', { name: new RegExp(name) }).click();

/** Two thousand steps under way on the fan, which is watched; its steps are scrolled through meanwhile. */
async function runBench(page: Page): Promise<void> {
  await stage(page, 'Job');
  await page
    .getByRole('button', { name: /kiln fan/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Open K1 kiln' }).click();
  await page.getByRole('button', { name: 'Close K1 kiln' }).waitFor();
  await stage(page, 'Trials');
  await page.getByRole('button', { name: new RegExp(TRIAL) }).click();
  const steps = page.getByRole('table', { name: 'Steps of the trial' });
  tell(
    'begun on the fan',
    await felt(page, async () => {
      await page.getByRole('button', { name: /^Run / }).click();
      await page.getByText(/is under way, step/).waitFor();
    }),
  );
  tell('under way for ten seconds', await felt(page, () => page.waitForTimeout(RUNS_MS)));
  tell(
    'its steps scrolled through while it runs',
    await felt(page, async () => {
      await steps.hover();
      for (let i = 0; i < 20; i++) await page.mouse.wheel(0, 1000);
    }),
  );
}

/** A run of an hour, seen twenty times a second: its picture, two cursors in it, and its thousand steps. */
async function hourBench(page: Page): Promise<void> {
  const plot = page.getByRole('img', { name: new RegExp(`^The band in which the speed of ${HOUR} is expected`) });
  tell(
    'a run of an hour, opened',
    await felt(page, async () => {
      await page.getByRole('table', { name: 'Runs of this job' }).getByRole('button', { name: HOUR }).click();
      await plot.waitFor();
    }),
  );
  await plot.scrollIntoViewIfNeeded();
  await plot.hover();
  tell(
    'its picture drawn nearer and farther by the wheel',
    await felt(page, async () => {
      for (let i = 0; i < 20; i++) await page.mouse.wheel(0, i < 10 ? -200 : 200);
    }),
  );
  tell(
    'its picture drawn along',
    await felt(page, async () => {
      await page.mouse.wheel(0, -800);
      await page.mouse.down();
      for (let i = 1; i <= 20; i++) await page.mouse.move(640 - 10 * i, 400);
      await page.mouse.up();
    }),
  );
  tell(
    'two cursors set in it and moved',
    await felt(page, async () => {
      await page.getByRole('button', { name: 'Cursors', exact: true }).click();
      for (let i = 0; i < 20; i++) await page.getByRole('slider').first().press('ArrowRight');
    }),
  );
  const steps = page.getByRole('table', { name: 'Steps of the trial' });
  tell(
    'its steps scrolled through',
    await felt(page, async () => {
      await steps.hover();
      for (let i = 0; i < 20; i++) await page.mouse.wheel(0, 2000);
    }),
  );
}

/** Changes of a trial of two thousand steps. */
async function editBench(page: Page): Promise<void> {
  const name = page.getByLabel('Name', { exact: true });
  tell('ten letters typed into its name', await felt(page, () => name.pressSequentially('abcdefghij')));
  const time = page.getByRole('list', { name: 'Steps to edit' }).getByRole('textbox').first();
  tell(
    'its first time typed anew',
    await felt(page, async () => {
      await time.fill('');
      await time.pressSequentially('0.25');
    }),
  );
  tell('a step moved down', await felt(page, () => page.getByRole('button', { name: 'Move step 2 down' }).click()));
  tell('that undone', await felt(page, () => page.getByRole('button', { name: 'Undo', exact: true }).click()));
}
