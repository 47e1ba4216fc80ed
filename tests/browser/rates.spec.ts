import { expect, test as base } from '@playwright/test';
import { BenchPage } from './bench';

/** Counts what the line worker posts, without touching it. */
const countBatches = (): void => {
  const counted = window as Window & { batches?: number };
  counted.batches = 0;
  const Plain = window.Worker;
  window.Worker = class extends Plain {
    constructor(url: string | URL, options?: WorkerOptions) {
      super(url, options);
      if (options?.name === 'bujo line')
        this.addEventListener('message', () => (counted.batches = (counted.batches ?? 0) + 1));
    }
  };
};

const SECONDS = 3;

base(
  'at ten times the line’s rate: at most 20 batches a second, every row arrives, at most 80 of them in the page',
  async ({ page }) => {
    await page.addInitScript(countBatches);
    const bench = new BenchPage(page);
    await bench.start();
    await bench.openK1();
    await bench.hurry();
    await bench.stage('Words');
    await bench.press('Watch');
    await expect(page.getByTestId('status-sentence')).toContainText('standing');
    const read = async () => ({
      batches: await page.evaluate(() => (window as Window & { batches?: number }).batches ?? 0),
      rows: parseInt((await page.getByTestId('trace-kept').textContent()) ?? '', 10),
    });
    const before = await read();
    await page.waitForTimeout(SECONDS * 1000);
    const after = await read();
    // A little over the time that was waited for, as reading takes time as well.
    expect(after.batches - before.batches).toBeLessThanOrEqual(20 * (SECONDS + 1));
    // A busy line is shown about ten times a second; fewer than seven would be seen as jerks.
    expect(after.batches - before.batches).toBeGreaterThan(7 * SECONDS);
    // Four reads each 200 ms of the yard are 20 exchanges or 40 rows a second, times ten.
    expect(after.rows - before.rows).toBeGreaterThan(300 * SECONDS);
    expect(
      await page.getByRole('region', { name: 'Entries of the trace' }).getByRole('listitem').count(),
    ).toBeLessThanOrEqual(80);
  },
);
