import { movedControls } from '../harness/moved-controls';
import { expect, test } from './bench';

test('from bytes to a turning shaft, and all of it in the trace after a reload', async ({ bench, page }) => {
  await bench.openK1();
  await bench.hurry();

  // The fan's status, every byte of request and reply explained.
  await bench.stage('Frames');
  const request = page.getByRole('group', { name: 'Request' });
  await expect(request).toContainText('6.02 status word');
  await bench.press(/^Send to 3 · kiln fan/);
  await expect(page.getByTestId('reply-outcome')).toHaveText('✓ answered');
  const reply = page.getByRole('group', { name: 'Reply', exact: true });
  await expect(reply.getByRole('button')).toHaveCount(13);
  await expect(reply).toContainText('in remote, ready, standing');

  // Ready, then running.
  await bench.stage('Words');
  await bench.press('Watch');
  await bench.press('make ready');
  await bench.press(/^Send 0x0005 to 3 · kiln fan/);
  await expect(page.getByTestId('word-outcome')).toHaveText('✓ answered');

  // It confirms and does not act: the keypad is in command. The reason is shown with its evidence, and mended.
  await page.getByRole('tab', { name: 'Why it does not run' }).click();
  const source = page.locator('[data-condition="command-source"]');
  await expect(source).toHaveAttribute('data-verdict', 'not-met');
  await expect(source).toContainText('keypad 2.01 command source');
  await expect(source).toContainText('The shaft does not start with it');
  await bench.press('write 2.01 ← network to 3 · kiln fan');
  await expect(source).toHaveAttribute('data-verdict', 'met');
  await page.getByRole('tab', { name: 'Status' }).click();
  await bench.press(/^Send 0x0005 to 3 · kiln fan/);
  await expect(page.getByTestId('status-sentence')).toContainText('enabled, standing');
  await bench.press('run forward');
  await expect(page.getByText('Zero reference is not standstill')).toBeVisible();
  await bench.press(/^Send 0x000D to 3 · kiln fan/);
  await expect(page.getByTestId('word-outcome')).toHaveText('✓ answered');
  await expect(page.getByTestId('status-sentence')).toContainText('running forward');

  // 17.5 Hz, and how it became 3909.
  await page.getByLabel('wanted, Hz').fill('17.5');
  await expect(page.getByTestId('working')).toContainText('17.5 / 55 × 12287 = 3909.5');
  await expect(page.getByTestId('working')).toContainText('3909.5 rounded down = 3909');
  await bench.press('Send 0x0F45 to 3 · kiln fan');
  await expect(page.getByTestId('status-sentence')).toContainText('at speed, 17.489 Hz');
  // Known for as long as nothing else changes, though the heartbeat does with each reading.
  await expect(page.getByTestId('status-change')).toHaveText(/^changed last, (?:[2-9]|\d\d) s ago: at speed rose$/);
  await expect(page.getByText(/0x000D kept alive each 1.07 s/)).toBeVisible();
  await expect(page.locator('header')).toContainText('1 run word kept alive');
  // Values change many times a second, and nothing that a hand may be about to press moves by that.
  expect(await movedControls(page, 1500)).toEqual([]);

  // Backward.
  await bench.press('run backward');
  await bench.press(/^Send 0x002D to 3 · kiln fan/);
  await expect(page.getByTestId('status-sentence')).toContainText('running backward, at speed, −17.489 Hz');

  // What Stop tells takes room from below: nothing moves from under a hand.
  const watch = page.getByRole('button', { name: 'End the watch' });
  const before = await watch.boundingBox();
  await page.keyboard.press('Control+.');
  await expect(bench.stopReport()).toContainText('3 · kiln fan: ✓ stopped');
  const after = await watch.boundingBox();
  expect(after?.y).toBe(before?.y ?? NaN);
  // Digits in the label beside it are not all of one width: a quarter of a pixel.
  expect(after?.x).toBeCloseTo(before?.x ?? NaN, 0);
  await expect(bench.drive()).toContainText('standing');
  await expect(page.getByText(/kept alive/)).toHaveCount(0);

  // Kept, and there again after a reload; nothing resumes by itself.
  await bench.press('End the watch');
  await expect(page.getByTestId('trace-kept')).toHaveText(/\d+ entries · kept$/);
  const count = (await page.getByTestId('trace-kept').textContent())?.split(' ')[0];
  await page.reload();
  await expect(page.getByTestId('trace-kept')).toHaveText(new RegExp(`^${count} entries`));
  await expect(page.getByText('closed, nothing is sent')).toBeVisible();
  await page.getByLabel('Filter the trace').fill('02 C3 0f 45');
  await expect(bench.trace()).toContainText('write 11.03 speed reference ← 3909 = 17.498 Hz');
  await page.getByLabel('Filter the trace').fill('06 02 C1 00 04');
  await expect(bench.trace()).toContainText('write 11.01 control word ← 0x0004 · stop on the ramp');
});

test('the page is isolated and asks no other host for anything', async ({ page, baseURL }) => {
  const asked: string[] = [];
  page.context().on('request', (request) => asked.push(request.url()));
  const response = await page.goto('/');
  expect(response?.headers()).toMatchObject({
    'cross-origin-opener-policy': 'same-origin',
    'cross-origin-embedder-policy': 'require-corp',
  });
  for (const stage of ['Frames', 'Words', 'Job']) await page.getByRole('link', { name: new RegExp(stage) }).click();
  await page.getByRole('button', { name: 'Open K1 kiln' }).click();
  await expect(page.getByRole('button', { name: 'Close K1 kiln' })).toBeVisible();
  expect(await page.evaluate(() => globalThis.crossOriginIsolated)).toBe(true);
  expect(await page.evaluate(() => document.fonts.check("16px 'Atkinson Hyperlegible Mono Variable'"))).toBe(true);
  expect(asked.length).toBeGreaterThan(5);
  expect(
    asked.filter((url) => new URL(url).origin !== baseURL && !url.startsWith('blob:') && !url.startsWith('data:')),
  ).toEqual([]);
});

test('every line of the demo can be opened; one whose other end is taken away is shown as such', async ({
  page,
  bench,
}) => {
  await expect(page.getByRole('button', { name: /^Open \w/ })).toHaveCount(8);
  await page.getByRole('button', { name: /vent hoist/ }).click();
  await bench.stage('Line');
  await bench.press('Set up the line');
  await page.getByLabel('other end').selectOption('not-built');
  await bench.stage('Job');
  const line = page.getByRole('group', { name: 'Line K2 vents' });
  await expect(line).toContainText('set up its other end in Line');
  await expect(line.getByRole('button').first()).toBeDisabled();
});
