import type { Page } from '@playwright/test';
import { axeFaults } from '../harness/axe';
import { expect, test } from './bench';

const VIEWS = ['/', '/line', '/frames', '/words', '/scaling', '/registers', '/trials', '/handover'];

/** What two themes of the same page may differ in. */
const OF_THE_THEME = ['color-contrast', 'link-in-text-block'];

/** What may have changed since the whole page was looked at. */
type Where = 'html' | '#stage';

const seriousFaults = async (page: Page, where: Where = 'html', only?: readonly string[]): Promise<readonly string[]> =>
  (await axeFaults(page, where, only)).flatMap(({ isSerious, text }) => (isSerious ? [text] : []));

/** In the dark theme only what a theme changes is looked at again: names, roles and order are those of the light one. */
async function faultsInBothThemes(page: Page, where: Where = 'html'): Promise<readonly string[]> {
  // A button that is switched on goes from grey to black: contrast is that of its end, which comes at once so.
  await page.emulateMedia({ reducedMotion: 'reduce', colorScheme: 'light' });
  const light = await seriousFaults(page, where);
  await page.emulateMedia({ colorScheme: 'dark' });
  await expect(page.locator('html')).toHaveAttribute('data-dark', '');
  const dark = await seriousFaults(page, where, OF_THE_THEME);
  await page.emulateMedia({ colorScheme: 'light' });
  await expect(page.locator('html')).not.toHaveAttribute('data-dark', '');
  return [...light.map((fault) => `light: ${fault}`), ...dark.map((fault) => `dark: ${fault}`)];
}

test('axe finds nothing serious on any view', async ({ page }) => {
  for (const view of VIEWS) {
    await page.goto(view);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    expect([view, await seriousFaults(page)]).toEqual([view, []]);
  }
});

test('axe finds nothing serious on the parts of the line', async ({ bench, page }) => {
  await bench.openK1();
  await bench.stage('Line');
  // All of them are there with the first.
  await expect(page.getByRole('tab').first()).toBeVisible();
  for (const [i, tab] of (await page.getByRole('tab').all()).entries()) {
    await tab.click();
    await expect(page.getByRole('tabpanel').getByRole('heading').first()).toBeVisible();
    const name = await tab.textContent();
    expect([name, await faultsInBothThemes(page, i === 0 ? 'html' : '#stage')]).toEqual([name, []]);
  }
});

test('axe finds nothing serious on the parts of Frames', async ({ bench, page }) => {
  await page.getByRole('button', { name: /fence axis/ }).click();
  await bench.stage('Frames');
  await page.getByLabel('Name to keep it under').fill('position');
  await bench.press('Keep in the job');
  // All of them are there with the first.
  await expect(page.getByRole('tab').first()).toBeVisible();
  for (const [i, tab] of (await page.getByRole('tab').all()).entries()) {
    await tab.click();
    await expect(page.getByRole('tabpanel').getByRole('heading').first()).toBeVisible();
    if ((await tab.textContent()) === 'Unknown bytes') {
      await page.getByLabel('Bytes of unknown origin').fill('03 06 02C3 0F45 BDAF');
      await expect(page.getByText('the CRC agrees')).toBeVisible();
    }
    if ((await tab.textContent()) === 'Capture') {
      const buffer = Buffer.from('030302430001752203830261310303', 'hex');
      await page
        .getByLabel('Capture file')
        .setInputFiles({ name: 'short.bin', mimeType: 'application/octet-stream', buffer });
      await expect(page.getByTestId('capture-found')).toContainText('of');
    }
    const name = await tab.textContent();
    expect([name, await faultsInBothThemes(page, i === 0 ? 'html' : '#stage')]).toEqual([name, []]);
  }
});

test('axe finds nothing serious on views at work', async ({ bench, page }) => {
  await bench.openK1();
  await bench.stage('Words');
  await bench.press('Watch');
  await expect(page.getByTestId('status-sentence')).toContainText('standing');
  for (const look of ['Why it does not run', 'Trend']) {
    await page.getByRole('tab', { name: look }).click();
    expect([look, await faultsInBothThemes(page)]).toEqual([look, []]);
  }
  for (const stage of ['Scaling', 'Frames']) {
    await bench.stage(stage);
    expect([stage, await faultsInBothThemes(page)]).toEqual([stage, []]);
  }
  // A positioning drive, also on a narrow screen.
  await bench.stage('Job');
  await page.getByRole('button', { name: /fence axis/ }).click();
  const isNarrow = async (): Promise<boolean> => {
    await page.setViewportSize({ width: 390, height: 844 });
    const width = await page.evaluate(() => document.querySelector('#stage')?.scrollWidth ?? 0);
    await page.setViewportSize({ width: 1280, height: 800 });
    return width <= 390;
  };
  await bench.stage('Registers');
  await page.getByRole('tab', { name: 'Position and limits' }).click();
  await page.getByRole('button', { name: /^hom homing method/ }).click();
  expect(['position', await faultsInBothThemes(page), await isNarrow()]).toEqual(['position', [], true]);
  await page.getByRole('tab', { name: 'Cyclic block' }).click();
  await page.getByLabel(/^A block that was copied/).fill('0237 2000');
  expect(['block', await faultsInBothThemes(page), await isNarrow()]).toEqual(['block', [], true]);
  await bench.stage('Trials');
  await bench.press('A move');
  await page.getByLabel('by, mm').fill('20');
  expect(['move', await faultsInBothThemes(page), await isNarrow()]).toEqual(['move', [], true]);
});

test('any command by its name, and the map of keys', async ({ bench, page }) => {
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('dialog', { name: 'Commands' })).toBeVisible();
  await page.keyboard.type('open k1');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Close K1 kiln' })).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('run forward');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('control-word')).toHaveText('0x000D');
  await expect(bench.trace()).not.toContainText('write 11.01');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('Stop every drive');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('night shift');
  await page.keyboard.press('Enter');
  await expect(page.locator('html')).toHaveAttribute('data-dark', '');
});

test('390 px wide still reads: no view scrolls sideways, Stop stays in sight', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  for (const view of VIEWS) {
    await page.goto(view);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    const widths = await page.evaluate(() => [
      document.documentElement.scrollWidth,
      document.querySelector('#stage')?.scrollWidth ?? 0,
    ]);
    expect([view, ...widths.map((width) => width <= 390)]).toEqual([view, true, true]);
    await expect(page.getByRole('button', { name: /^Stop/ })).toBeInViewport();
  }
});

test('1280 by 800 fits without page scroll', async ({ page }) => {
  for (const view of VIEWS) {
    await page.goto(view);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    expect([view, await page.evaluate(() => document.documentElement.scrollHeight)]).toEqual([view, 800]);
  }
});

test('reduced motion: nothing moves by itself', async ({ bench, page }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await bench.openK1();
  await bench.stage('Words');
  await bench.press('Watch');
  await expect(page.getByTestId('status-sentence')).toContainText('standing');
  expect(await page.evaluate(() => document.getAnimations().length)).toBe(0);
});
