import { expect, test as base, type Page } from '@playwright/test';

/** What a technician does, by the words on the screen. */
export class BenchPage {
  readonly page: Page;

  constructor(page: Page) {
    this.page = page;
  }

  async start(): Promise<void> {
    await this.page.goto('/');
    await expect(this.page.getByRole('heading', { name: 'Alder Ford' })).toBeVisible();
  }

  async openK1(): Promise<void> {
    await this.page.getByRole('button', { name: 'Open K1 kiln' }).click();
    await expect(this.page.getByRole('button', { name: 'Close K1 kiln' })).toBeVisible();
  }

  /** Ten times faster than life, so that ramps and sweeps fit a test. */
  async hurry(): Promise<void> {
    await this.page.getByRole('button', { name: '× 10' }).click();
  }

  async stage(name: string): Promise<void> {
    await this.page.getByRole('link', { name: new RegExp(name) }).click();
  }

  async press(name: string | RegExp): Promise<void> {
    await this.page.getByRole('button', { name }).click();
  }

  drive() {
    return this.page.getByRole('status', { name: 'Drive' });
  }

  trace() {
    return this.page.getByRole('region', { name: 'Entries of the trace' });
  }

  stopReport() {
    return this.page.getByTestId('stop-report');
  }
}

export const test = base.extend<{ bench: BenchPage }>({
  bench: async ({ page }, use) => {
    const faults: string[] = [];
    page.on('pageerror', (error) => faults.push(error.message));
    page.on('console', (message) => message.type() === 'error' && faults.push(message.text()));
    const bench = new BenchPage(page);
    await bench.start();
    await use(bench);
    expect(faults).toEqual([]);
  },
});

export { expect };
