import { expect } from '@playwright/test';
import { test as base } from './told-again';
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

/** Four reads each 200 ms of the yard are 40 rows a second: at ten times its rate these take 3 s, or longer on a slow computer. */
const ROWS = 1200;

base(
  'at ten times the line’s rate: at most 20 batches a second, every row arrives, at most 80 of them in the page, the newest in sight',
  async ({ page }) => {
    await page.addInitScript(countBatches);
    const bench = new BenchPage(page);
    await bench.start();
    await bench.watchFan();
    await expect(page.getByTestId('status-sentence')).toContainText('standing');
    const read = async () => ({
      ...(await page.evaluate(() => ({
        batches: (window as Window & { batches?: number }).batches ?? 0,
        seconds: performance.now() / 1000,
      }))),
      rows: parseInt(((await page.getByTestId('trace-kept').textContent()) ?? '').replaceAll(',', ''), 10),
    });
    const before = await read();
    await expect.poll(async () => (await read()).rows - before.rows).toBeGreaterThan(ROWS);
    const after = await read();
    expect((after.batches - before.batches) / (after.seconds - before.seconds)).toBeLessThanOrEqual(20);
    expect(
      await page.getByRole('region', { name: 'Entries of the trace' }).getByRole('listitem').count(),
    ).toBeLessThanOrEqual(80);

    // The list follows the newest entry at this rate too, and lets itself be held.
    const belowEnd = () =>
      bench.trace().evaluate(({ scrollHeight, scrollTop, clientHeight }) => scrollHeight - scrollTop - clientHeight);
    await expect.poll(belowEnd).toBeLessThan(44);
    await bench.trace().evaluate((list) => list.scrollBy(0, -600));
    const held = await bench.trace().evaluate(({ scrollTop }) => scrollTop);
    const grown = await read();
    await expect.poll(async () => (await read()).rows - grown.rows).toBeGreaterThan(40);
    expect(await bench.trace().evaluate(({ scrollTop }) => scrollTop)).toBe(held);
  },
);
