import { expect, test } from './bench';

test('a page that hangs does not keep a shaft turning: the worker stops it, and says why', async ({ bench, page }) => {
  await bench.turnFan();
  await page.evaluate(() => {
    const endMs = performance.now() + 4_000;
    while (performance.now() < endMs);
  });
  await expect(bench.stopReport()).toContainText('3 · kiln fan: ✓ stopped');
  await expect(page.getByText(/kept alive each/)).toHaveCount(0);
  await expect(bench.stopReport()).toContainText('Nobody pressed it: the page did not answer for');
});

test('a list goes on over its own line when another drive is chosen; a reload says where it ended', async ({
  bench,
  page,
}) => {
  await bench.openK1();
  await page
    .getByRole('button', { name: /3 · kiln fan/ })
    .first()
    .click();
  await bench.stage('Frames');
  await page.getByLabel('Repeat every, ms').fill('300');
  await bench.press('Repeat');
  const status = page.getByLabel('Keep or repeat').getByRole('status');
  await expect(status).toContainText(/[2-9] sent/);
  await bench.stage('Job');
  await bench.press('Open K2 vents');
  await page.getByRole('button', { name: /4 · vent hoist/ }).click();
  const filter = page.getByLabel('Filter the trace');
  await filter.fill('list:');
  const rows = page.getByRole('region', { name: 'Entries of the trace' });
  await expect(rows).toContainText('list:');
  await page.waitForTimeout(1_500);
  await filter.fill('station 4');
  await expect(rows).not.toContainText('list:');
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Alder Ford' })).toBeVisible();
  await page
    .getByRole('button', { name: /3 · kiln fan/ })
    .first()
    .click();
  await bench.stage('Frames');
  await expect(status).toContainText('its page was reloaded or closed at step');
});
