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

  /** The same from whatever stage is shown, without leaving it. */
  async openK1Here(): Promise<void> {
    await this.page.getByRole('button', { name: 'Open K1 kiln' }).first().click();
  }

  /** Ten times faster than life, so that ramps and sweeps fit a test. */
  async hurry(): Promise<void> {
    await this.page.getByRole('button', { name: '× 10' }).click();
  }

  async stage(name: string): Promise<void> {
    const link = this.page.getByRole('link', { name: new RegExp(name) });
    await link.click();
    await expect(link).toHaveAttribute('aria-current', 'page');
    await expect(this.page).toHaveTitle('Bujo');
  }

  /** The kiln fan's line open in a hurry, and the fan watched in Words. */
  async watchFan(): Promise<void> {
    await this.openK1();
    await this.hurry();
    await this.stage('Words');
    await this.press('Watch');
  }

  /** The kiln fan's line open and the network in command of it, with Words shown; in a hurry where the story has ramps. */
  async commandFan({ inHurry = false } = {}): Promise<void> {
    await this.openK1();
    if (inHurry) await this.hurry();
    await this.stage('Words');
    await this.takeCommand();
  }

  /** Puts the network in command of the current drive, which the demo's fan does not start with. */
  async takeCommand(): Promise<void> {
    await this.page.getByRole('tab', { name: 'Why it does not run' }).click();
    await this.press('Read once');
    await this.press(/^write 2.01 ← network/);
    await expect(this.page.locator('[data-condition="command-source"]')).toHaveAttribute('data-verdict', 'met');
    await this.page.getByRole('tab', { name: 'Status' }).click();
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
