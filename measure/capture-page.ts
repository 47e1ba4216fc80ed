import { closeSync, mkdtempSync, openSync, readdirSync, readFileSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Browser, Page } from '@playwright/test';
import { seededRandom } from '../src/core/random/random';
import { exchangeOf } from '../tests/harness/streams';
import { best, MB, streamOf } from './capture';
import { claim, note } from './measure';
import { plainCrc } from './plain-crc';

const PART = 8 * MB;
const PARTS = 128;
const LOOK_MS = 100;
/** Goals for a capture of this size. */
const OPENED_S = 30;
const MOST_MB = 400;

/** So many different exchanges, one after the other, over and over: a line that is polled. */
function polled(different: number): Uint8Array {
  const random = seededRandom(22);
  const round = Array.from({ length: different }, () => exchangeOf(random)).flat();
  const part = new Uint8Array(PART);
  for (let at = 0, i = 0; at < PART; i++) {
    const frame = round[i % round.length] ?? new Uint8Array(1);
    part.set(frame.subarray(0, PART - at), at);
    at += frame.length;
  }
  return part;
}

/** A gigabyte of what a line carried, in a folder of its own. */
function captureFile(folder: string, part: Uint8Array): string {
  const name = path.join(folder, 'gigabyte.bin');
  const file = openSync(name, 'w');
  for (let i = 0; i < PARTS; i++) writeSync(file, part);
  closeSync(file);
  return name;
}

/** What a process holds of its own, without what is mapped from files, in MB; 0 where the system does not tell. */
function heldMb(pid: number): number {
  try {
    const [, kB] = /^RssAnon:\s+(\d+) kB$/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8')) ?? [];
    return Number(kB ?? 0) / 1024;
  } catch {
    return 0;
  }
}

/** The processes that draw pages, the most of what they hold together. */
async function pagesHold(browser: Browser): Promise<() => number> {
  const devtools = await browser.newBrowserCDPSession();
  const { processInfo } = await devtools.send('SystemInfo.getProcessInfo');
  await devtools.detach();
  const renderers = processInfo.filter(({ type }) => type === 'renderer').map(({ id }) => id);
  // Where processes have numbers of their own inside the browser, none of them is found here.
  const own = new Set(readdirSync('/proc', { withFileTypes: true }).map(({ name }) => name));
  return () => renderers.filter((id) => own.has(`${id}`)).reduce((sum, id) => sum + heldMb(id), 0);
}

const longTasks = (page: Page): Promise<void> =>
  page.evaluate(() => {
    const seen: number[] = [];
    Object.assign(window, { seen });
    new PerformanceObserver((list) => seen.push(...list.getEntries().map(({ duration }) => duration))).observe({
      type: 'longtask',
    });
  });

interface Opened {
  readonly said: string;
  readonly seconds: number;
  /** What the page held more than before, at most; 0 where the system does not tell. */
  readonly mostMb: number;
  readonly tasks: readonly number[];
  /** All frames of one station found, from the key that names it. */
  readonly stationS: number;
}

/** A gigabyte of raw bytes opened in the browser, held and let go once on the way. */
async function opened(browser: Browser, origin: string, part: Uint8Array): Promise<Opened> {
  const folder = mkdtempSync(path.join(tmpdir(), 'capture-'));
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  try {
    const page = await context.newPage();
    await page.goto(`${origin}/frames`);
    await page.getByRole('tab', { name: 'Capture' }).click();
    await page.waitForFunction(() => performance.getEntriesByName('bujo: all stages are here').length > 0);
    const hold = await pagesHold(browser);
    const beforeMb = hold();
    let mostMb = 0;
    const look = setInterval(() => (mostMb = Math.max(mostMb, hold() - beforeMb)), LOOK_MS);
    await longTasks(page);
    const startMs = performance.now();
    await page.getByLabel('Capture file').setInputFiles(captureFile(folder, part));
    await page.getByRole('button', { name: 'Wait here' }).click();
    await page.getByText(/, waiting$/).waitFor();
    await page.getByRole('button', { name: 'Go on' }).click();
    const end = page.getByText(/entries, read in/);
    await end.waitFor({ timeout: 300_000 });
    const seconds = (performance.now() - startMs) / 1000;
    const stationMs = performance.now();
    await page.getByRole('textbox', { name: 'Station', exact: true }).fill('7');
    await page
      .getByTestId('capture-found')
      .filter({ hasText: /of \d+$/, hasNotText: new RegExp(`^${/\d+/.exec((await end.textContent()) ?? '')?.[0]} `) })
      .waitFor({ timeout: 300_000 });
    const stationS = (performance.now() - stationMs) / 1000;
    clearInterval(look);
    const tasks = await page.evaluate(() => (window as unknown as { seen: number[] }).seen);
    return { said: (await end.textContent()) ?? '', seconds, mostMb, tasks, stationS };
  } finally {
    await context.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** A gigabyte of a polled line, and one of which hardly two frames are alike: how long it takes, what it holds, what the page's thread feels of it. */
export async function capturePageBench(browser: Browser, origin: string): Promise<void> {
  for (const [what, part] of [
    ['120 exchanges that go round', polled(120)],
    ['2000 exchanges that go round', polled(2000)],
    ['hardly two frames alike', streamOf(PART)],
  ] as const) {
    const crcMs = best(() => plainCrc(part), 5).ms;
    const { said, seconds, mostMb, tasks, stationS } = await opened(browser, origin, part);
    note(
      `a capture of 1 GB, ${what}: ${said}, ${seconds.toFixed(1)} s with all (goal ${OPENED_S}), ${mostMb.toFixed(0)} MB more than before at most (goal ${MOST_MB}); ${tasks.length} tasks of the page over 50 ms, the longest ${Math.max(0, ...tasks)} ms; a station found in ${stationS.toFixed(1)} s`,
    );
    claim(`opening a capture of 1 GB against a plain CRC pass over it, ${what}`, (1000 * seconds) / (PARTS * crcMs), {
      atMost: 6,
    });
    if (mostMb > 0)
      claim(`memory for a capture of 1 GB against it, ${what}`, mostMb / 1024, { atMost: MOST_MB / 1024 });
  }
}
