import type { Browser, Page } from '@playwright/test';
import { claim, note } from './measure';

const ROUNDS = 5;

/** Milliseconds from the begin of a page to what can be used in it. */
async function usableAfter(page: Page, address: string, button: string): Promise<number> {
  await page.goto(address, { waitUntil: 'commit' });
  await page.getByRole('button', { name: button, exact: true }).waitFor();
  return page.evaluate(() => performance.now());
}

async function best(page: Page, address: string, button: string): Promise<number> {
  let ms = Infinity;
  for (let round = 0; round < ROUNDS; round++) ms = Math.min(ms, await usableAfter(page, address, button));
  return ms;
}

/** The page once more when it was there before, its server gone meanwhile, against a bare page whose server is there. `leave` ends the server. */
export async function secondStartBench(
  browser: Browser,
  origin: string,
  bare: string,
  leave: () => Promise<void>,
): Promise<void> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.goto(origin);
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  await page.waitForFunction(() => performance.getEntriesByName('bujo: all stages are here').length > 0);
  const bareMs = await best(page, bare, 'bare');
  await leave();
  const againMs = await best(page, origin, 'Open K1 kiln');
  note(
    `the second start, without the server: the job and its lines can be used after ${againMs.toFixed(0)} ms, a bare page with its server after ${bareMs.toFixed(0)} ms`,
  );
  claim('the second start without the server against a bare page with its own', againMs / bareMs, { atMost: 6 });
  await context.close();
}
