import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, expect, type BrowserContext, type Page } from '@playwright/test';
import { test } from './told-again';

const KILLS = 20;

/** What the database holds of a session: entries from 0 on without a gap. */
const storedOf = (page: Page, session: string): Promise<number> =>
  page.evaluate(
    (id) =>
      new Promise<number>((resolve, reject) => {
        const opened = indexedDB.open('bujo');
        opened.onerror = () => reject(new Error('no database'));
        opened.onsuccess = () => {
          const blocks = opened.result
            .transaction('traceBlocks')
            .objectStore('traceBlocks')
            .getAll(IDBKeyRange.bound([id, 0], [id, Infinity]));
          blocks.onsuccess = () => {
            const rows = blocks.result as { first: number; count: number }[];
            opened.result.close();
            resolve(
              rows
                .sort((a, b) => a.first - b.first)
                .reduce((next, { first, count }) => (first === next ? next + count : next), 0),
            );
          };
        };
      }),
    session,
  );

async function watching(context: BrowserContext, baseURL: string): Promise<Page> {
  const page = context.pages()[0] ?? (await context.newPage());
  await page.goto(baseURL);
  await page.getByRole('button', { name: 'Open K1 kiln' }).click();
  await page.getByRole('link', { name: /Words/ }).click();
  await page.getByRole('button', { name: 'Watch' }).click();
  return page;
}

test(`the browser is killed in the middle of polling, ${KILLS} times: nothing told as kept is lost`, async ({
  baseURL,
  launchOptions,
}) => {
  test.setTimeout(360_000);
  const profile = mkdtempSync(path.join(tmpdir(), 'bujo-profile-'));
  let before: { readonly session: string; readonly kept: number } | null = null;
  for (let kill = 0; kill <= KILLS; kill++) {
    const context = await chromium.launchPersistentContext(profile, {
      ...launchOptions,
      viewport: { width: 1280, height: 800 },
    });
    const page = await watching(context, baseURL ?? '');
    if (before) expect([kill, (await storedOf(page, before.session)) >= before.kept]).toEqual([kill, true]);
    if (kill === KILLS) {
      await context.close();
      break;
    }
    const told = page.getByTestId('trace-kept');
    await expect(told).toHaveAttribute('data-kept', /^\S+ \d{2,}$/);
    const [session = '', kept = ''] = ((await told.getAttribute('data-kept')) ?? '').split(' ');
    before = { session, kept: parseInt(kept, 10) + 1 };
    const gone = new Promise((resolve) => context.on('close', resolve));
    execFileSync('pkill', ['-9', '-f', profile]);
    await gone;
  }
  rmSync(profile, { recursive: true, force: true });
});
