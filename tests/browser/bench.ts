import { expect, type BrowserContext, type Page } from '@playwright/test';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { test as base } from './told-again';

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

  /** The kiln fan turning at ten times life's speed, its run word kept alive. */
  async turnFan(): Promise<void> {
    await this.watchFan();
    await this.takeCommand();
    await this.press('make ready');
    await this.press(/^Send 0x0005/);
    await this.press('run forward');
    await this.press(/^Send 0x000D/);
    await expect(this.page.getByText(/0x000D kept alive/)).toBeVisible();
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

/** What a story leaves in the browser; compiled scripts and files of the program stay, which is half of a story's start. */
const LEFT = 'cookies,indexeddb,local_storage,cache_storage,service_workers';

/** Every story begins in a browser without data, in one tab of the same window. */
export const test = base.extend<{ bench: BenchPage }, { window: BrowserContext }>({
  window: [
    async ({ playwright }, use, { project }) => {
      const folder = mkdtempSync(path.join(tmpdir(), 'bujo-browser-'));
      const { launchOptions, viewport, baseURL } = project.use;
      const window = await playwright.chromium.launchPersistentContext(folder, {
        ...launchOptions,
        viewport,
        baseURL,
        // Each story begins without the program kept, and would keep all of it in its midst; the story of that has a window of its own.
        serviceWorkers: 'block',
      });
      await use(window);
      await window.close();
      rmSync(folder, { recursive: true, force: true });
    },
    { scope: 'worker' },
  ],
  context: async ({ window }, use) => {
    await use(window);
  },
  page: async ({ window, baseURL }, use) => {
    const page = await window.newPage();
    await Promise.all(
      window
        .pages()
        .filter((other) => other !== page)
        .map((other) => other.close()),
    );
    const browser = await window.newCDPSession(page);
    await browser.send('Storage.clearDataForOrigin', { origin: baseURL ?? '', storageTypes: LEFT });
    await browser.detach();
    await use(page);
  },
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
