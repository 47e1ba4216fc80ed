import type { Page } from '@playwright/test';

/** What is fetched ahead is read by the page's thread, once after each start; what keeps the program for starts without its server takes the processor at the first of all. */
export async function allIsHere(page: Page): Promise<void> {
  await page.waitForFunction(() => performance.getEntriesByName('bujo: all stages are here').length > 0);
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
}
