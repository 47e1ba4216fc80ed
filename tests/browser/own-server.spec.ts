import { spawn, execFileSync, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { EVIL_MODES, EvilDevice } from '../harness/evil-device';
import { BenchPage, expect, test } from './bench';

/** A server of its own, so that it can be killed; it has no stand-ins of the network. */
class OwnServer {
  readonly #port: number;
  #process: ChildProcess | null = null;

  constructor(port: number) {
    this.#port = port;
  }

  get address(): string {
    return `http://127.0.0.1:${this.#port}`;
  }

  async start(): Promise<void> {
    this.#process = spawn('node_modules/.bin/next', ['start', '-H', '127.0.0.1', '-p', `${this.#port}`], {
      stdio: 'ignore',
      detached: true,
    });
    for (let tries = 0; tries < 300; tries++) {
      const answers = await fetch(this.address).then(
        () => true,
        () => false,
      );
      if (answers) return;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error('the server does not answer');
  }

  async kill(): Promise<void> {
    const { pid } = this.#process ?? {};
    if (pid === undefined) return;
    const gone = new Promise((resolve) => this.#process?.once('exit', resolve));
    process.kill(-pid, 'SIGKILL');
    await gone;
    this.#process = null;
  }
}

/** The stacker's line goes to a device of the test. */
async function lineTo(page: Page, port: number): Promise<void> {
  await page.getByRole('button', { name: /1 · stacker lift/ }).click();
  await page.getByRole('link', { name: /Line/ }).click();
  await page.getByRole('button', { name: 'Set up the line' }).click();
  await page.getByLabel('TCP port').fill(`${port}`);
}

const ask = async (page: Page): Promise<string> => {
  const outcome = page.getByTestId('prove-outcome');
  await page.getByRole('button', { name: /^Ask 1/ }).click();
  await expect(outcome).not.toContainText('waiting for the drive');
  return (await outcome.textContent()) ?? '';
};

test('once it was there the bench starts without its server, and works on lines that need none', async ({
  playwright,
  launchOptions,
}) => {
  const server = new OwnServer(4398);
  await server.start();
  const window = await playwright.chromium.launch(launchOptions);
  const page = await window.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(server.address);
  await expect(page.getByRole('heading', { name: 'Alder Ford' })).toBeVisible();
  // The whole program is kept, and looks after this page.
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  await server.kill();
  const bench = new BenchPage(page);
  for (const stage of ['/', '/words']) {
    await page.goto(server.address + stage);
    await expect(page.getByText('Alder Ford').first()).toBeVisible();
  }
  await bench.stage('Job');
  await bench.turnFan();
  await bench.press(/^Stop/);
  await expect(bench.stopReport()).toContainText('3 · kiln fan: ✓ stopped');
  await window.close();
});

test.describe('with a server of its own', () => {
  // They share the server and the device, one after the other.
  test.describe.configure({ mode: 'default' });
  const server = new OwnServer(4397);
  const device = new EvilDevice();
  test.beforeAll(async () => {
    await device.start();
    await server.start();
  });
  test.afterAll(async () => {
    await server.kill();
    await device.stop();
  });

  test('the server is killed and comes back: stages, lines and Stop stay, and the line over it recovers', async ({
    page,
  }) => {
    const bench = new BenchPage(page);
    await page.goto(server.address);
    await expect(page.getByRole('heading', { name: 'Alder Ford' })).toBeVisible();
    await lineTo(page, device.port);
    await page.getByRole('button', { name: 'Open E1 stacker' }).click();
    expect(await ask(page)).toContain('✓ answered');
    // Whatever a press needs has been fetched by then, however long a busy computer takes.
    await page.waitForFunction(() => performance.getEntriesByName('bujo: all stages are here').length > 0);
    await server.kill();
    await expect(page.locator('header')).toContainText('lost, tried again by itself');
    for (const name of ['Job', 'Line', 'Frames', 'Words', 'Scaling', 'Registers']) {
      await page.getByRole('link', { name: new RegExp(name) }).click();
      await expect(page.getByRole('link', { name: new RegExp(name) })).toHaveAttribute('aria-current', 'page');
      await expect(page.locator('main')).not.toContainText('This stage is not here');
    }
    // A table is read and a sheet is kept by a worker, whose script is here too.
    await page.getByRole('link', { name: /Sheets/ }).click();
    await page.getByLabel('Name of a new sheet').fill('Made without a server');
    await bench.press('Start it');
    await page.getByRole('tab', { name: 'From a table' }).click();
    await page
      .getByLabel('rows of the manual’s table, with their headings')
      .fill('40001\tSpeed\tINT16\t0 to 50\tHz\tR/W');
    await bench.press('Take 1 entry into Made without a server');
    await bench.press('Keep as revision 1');
    await expect(page.getByText('revision 1, as it is kept')).toBeVisible();
    await expect(page.locator('body')).not.toContainText('Failed to load');
    // A line that needs no server works on, and so does Stop.
    await page.getByRole('link', { name: /Job/ }).click();
    await bench.openK1();
    await page
      .getByRole('button', { name: /3 · kiln fan/ })
      .first()
      .click();
    await page.keyboard.press('Control+.');
    await expect(bench.stopReport()).toContainText('3 · kiln fan: ✓ stopped');
    await server.start();
    await page.getByRole('button', { name: /1 · stacker lift/ }).click();
    await expect(page.locator('header')).toContainText('exchanges/s', { timeout: 40_000 });
    await page.getByRole('link', { name: /Line/ }).click();
    expect(await ask(page)).toContain('✓ answered');
  });

  test(`a device with ${EVIL_MODES.length} ways: a wrong answer is never taken, and an honest one is at the second try`, async ({
    page,
  }) => {
    await page.goto(server.address);
    await lineTo(page, device.port);
    await page.getByRole('button', { name: 'Open E1 stacker' }).click();
    const wrong: string[] = [];
    for (const mode of EVIL_MODES) {
      device.mode = mode;
      const told = await ask(page);
      if (told.includes('✓ answered') !== mode.good) wrong.push(`${mode.name}: ${told}`);
      device.mode = EVIL_MODES[0]!;
      let good = '';
      // A device that floods is not called again by itself.
      const open = page.getByRole('button', { name: 'Open E1 stacker' });
      if (await open.isVisible()) await open.click();
      for (let tries = 0; tries < 2 && !good.includes('✓ answered'); tries++) {
        await expect(page.locator('header')).toContainText('exchanges/s', { timeout: 40_000 });
        good = await ask(page);
      }
      if (!good.includes('✓ answered')) wrong.push(`after ${mode.name}: ${good}`);
    }
    expect(wrong).toEqual([]);
    // What the device saw is what was asked for: reads only, one a press.
    expect(new Set(device.seen.map(({ fc }) => fc))).toEqual(new Set([3]));
  });

  /** The run word of the stacker, kept alive; what the device sees of it is what a drive would see. */
  async function runningOver(page: Page): Promise<void> {
    device.mode = EVIL_MODES[0]!;
    await page.goto(server.address);
    await lineTo(page, device.port);
    await page.getByRole('button', { name: 'Open E1 stacker' }).click();
    await page.getByRole('link', { name: /Words/ }).click();
    await page.getByRole('button', { name: 'run', exact: true }).click();
    await page.getByRole('button', { name: /^Send 0x007F/ }).click();
    await expect(page.getByText(/0x007F kept alive/)).toBeVisible();
  }
  const RUN = 0x007f;
  const STOP = 0x0002;

  test('a page that hangs: the device sees the stop word while it hangs, and no run word after it', async ({
    page,
  }) => {
    await runningOver(page);
    const before = device.seen.length;
    await page.evaluate(() => {
      const endMs = performance.now() + 4_000;
      while (performance.now() < endMs);
    });
    const during = device.seen.slice(before).filter(({ fc }) => fc === 6);
    const stop = during.findIndex(({ word }) => word === STOP);
    expect(stop).toBeGreaterThanOrEqual(0);
    expect(during.slice(stop).some(({ word }) => word === RUN)).toBe(false);
    await expect(page.getByTestId('stop-report')).toContainText('Nobody pressed it');
  });

  test('a lost connection that comes back: reading goes on, and the device sees no run word again', async ({
    page,
  }) => {
    await runningOver(page);
    await page.getByRole('button', { name: 'Watch' }).click();
    const { port } = device;
    await device.stop();
    await expect(page.locator('header')).toContainText('lost, tried again by itself');
    const before = device.seen.length;
    await device.start(port);
    await expect(page.locator('header')).toContainText('exchanges/s', { timeout: 40_000 });
    await expect.poll(() => device.seen.slice(before).some(({ fc }) => fc === 3)).toBe(true);
    await expect(page.getByRole('status', { name: 'Set in motion by this bench' })).toContainText(
      'its run word is not repeated any more',
    );
    // Longer than two keep-alives would be apart.
    await page.waitForTimeout(8_000);
    expect(device.seen.slice(before).filter(({ fc, word }) => fc === 6 && word === RUN)).toEqual([]);
  });

  test('nine tabs: those that find no place are told so, and Stop of the first goes through', async ({
    context,
    page,
  }) => {
    test.setTimeout(360_000);
    device.mode = EVIL_MODES[0]!;
    await page.goto(server.address);
    await lineTo(page, device.port);
    await page.getByRole('button', { name: 'Open E1 stacker' }).click();
    expect(await ask(page)).toContain('✓ answered');
    const told: string[] = [];
    for (let tab = 2; tab <= 9; tab++) {
      const other = await context.newPage();
      await other.goto(server.address);
      await other.getByRole('link', { name: /Line/ }).click();
      await other.getByRole('tab', { name: 'Sweeps' }).click();
      await other.getByLabel('hosts: subnet or range').fill('127.0.0.1-127.0.0.2');
      await other.getByRole('button', { name: 'Try 2 addresses' }).click();
      const outcome = other.getByText(/2 of 2 tries|tabs of this browser use the local server already/).first();
      await expect(outcome).toBeVisible();
      told.push((await outcome.textContent()) ?? '');
    }
    // Four have a place, the first tab among them.
    expect(told.map((text) => (text.includes('tabs of this browser') ? 'told' : 'in')).join(' ')).toBe(
      'in in in told told told told told',
    );
    await page.bringToFront();
    const before = device.seen.length;
    await page.keyboard.press('Control+.');
    await expect(page.getByTestId('stop-report')).toContainText('1 · stacker lift');
    await expect.poll(() => device.seen.slice(before).some(({ fc }) => fc === 6)).toBe(true);
  });
});

test('a computer that sleeps: nothing is sent from the past, and the shaft stands', async ({
  baseURL,
  launchOptions,
}) => {
  const profile = mkdtempSync(path.join(tmpdir(), 'bujo-sleep-'));
  const context = await chromium.launchPersistentContext(profile, {
    ...launchOptions,
    viewport: { width: 1280, height: 800 },
  });
  const page = context.pages()[0] ?? (await context.newPage());
  const bench = new BenchPage(page);
  await page.goto(baseURL ?? '');
  await expect(page.getByRole('heading', { name: 'Alder Ford' })).toBeVisible();
  await bench.turnFan();
  const signal = (name: string): void => void execFileSync('pkill', [`-${name}`, '-f', profile]);
  signal('STOP');
  await new Promise((resolve) => setTimeout(resolve, 6_000));
  signal('CONT');
  await expect(page.getByRole('status', { name: 'Set in motion by this bench' })).toContainText(
    'its run word is not repeated any more: asleep',
  );
  await expect(page.getByText(/kept alive each/)).toHaveCount(0);
  await page.getByLabel('Filter the trace').fill('asleep');
  const rows = page.getByRole('region', { name: 'Entries of the trace' });
  await expect(rows).toContainText('what was due meanwhile is not sent');
  await expect(rows).not.toContainText('0x000D');
  await context.close();
  rmSync(profile, { recursive: true, force: true });
});
