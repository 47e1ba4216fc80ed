import type { Page } from '@playwright/test';
import { BenchPage, expect, test } from './bench';

test('an unplugged line: no answer, and Stop says so instead of hoping', async ({ bench, page }) => {
  await bench.commandFan({ inHurry: true });
  await bench.press('run forward');
  await bench.press(/^Send 0x000D/);
  await expect(page.getByTestId('word-outcome')).toHaveText('✓ answered');
  await bench.stage('Job');
  await bench.press('unplugged');
  await bench.stage('Frames');
  await bench.press(/^Send to 3/);
  await expect(page.getByTestId('reply-outcome')).toHaveText('✗ no answer within the time-out');
  await page.keyboard.press('Control+.');
  await expect(bench.stopReport()).toContainText('3 · kiln fan: ✗ no answer');
  await expect(bench.stopReport()).toContainText('Stop the drive at its own keypad');
  await expect(bench.drive()).toContainText('no answer for');
});

test('a closed line: Stop is not sent, and says that', async ({ bench, page }) => {
  await page.keyboard.press('Control+.');
  await expect(bench.stopReport()).toContainText('✗ not sent, the line is closed');
});

test('a wrong check is shown where it is, sent on purpose, and mended', async ({ bench, page }) => {
  await bench.openK1();
  await bench.stage('Frames');
  const request = page.getByRole('group', { name: 'Request' });
  await request.locator('[data-at="7"]').click();
  await page.keyboard.type('00');
  const fault = page.locator('[data-code="checksum-mismatch"]');
  await expect(fault).toContainText('these bytes give E4 3F (bytes 7 to 8)');
  await bench.press(/^Send to 3/);
  await expect(page.getByTestId('reply-outcome')).toHaveText('✗ no answer within the time-out');
  await bench.press('Mend the check');
  await expect(fault).toHaveCount(0);
  await bench.press('Undo');
  await expect(fault).toBeVisible();
  await bench.press('Undo');
  await expect(fault).toHaveCount(0);
});

test('bytes and fields are one thing: typing a byte moves the field, a field moves the bytes', async ({
  bench,
  page,
}) => {
  await bench.stage('Frames');
  const request = page.getByRole('group', { name: 'Request' });
  await request.locator('[data-at="3"]').click();
  await page.keyboard.type('40');
  await expect(request).toContainText('register 320');
  await bench.press('register 320');
  await page.getByLabel('value of address').fill('0x0183');
  await page.keyboard.press('Enter');
  await expect(request.locator('[data-at="3"]')).toHaveText('83');
  await expect(request).toContainText('6.03 torque');
  await expect(page.locator('[data-code]')).toHaveCount(0);
  // The draft stays when the view is left.
  await bench.stage('Words');
  await bench.stage('Frames');
  await expect(request).toContainText('6.03 torque');
});

test('pasted bytes in any notation, and a sentence at the character where it stops', async ({ bench, page }) => {
  await bench.stage('Frames');
  const paste = page.getByLabel('Or paste bytes, any notation');
  await paste.fill('0x03, 0x06, 0x02, 0x4G');
  await expect(page.getByText('“G” at character 22 is no hex digit')).toBeVisible();
  await paste.fill('uint8_t f[] = { 0x03, 0x06, 0x02, 0xC3, 0x0F, 0x45, 0xBD, 0xAF };');
  await paste.press('Enter');
  await expect(page.getByRole('heading', { name: 'write 11.03 speed reference ← 3909 = 17.498 Hz' })).toBeVisible();
});

test('limits are named before sending, and the refusal that must come is shown as one', async ({ bench, page }) => {
  await bench.openK1();
  await bench.stage('Frames');
  const paste = page.getByLabel('Or paste bytes, any notation');
  await paste.fill('03 06 01 44 02 59 08 9B');
  await paste.press('Enter');
  await expect(
    page.getByText('5.04 watchdog time takes 0 to 60 s, not 60.1 s; the drive refuses it with exception 3'),
  ).toBeVisible();
  await expect(page.getByRole('group', { name: 'Expected reply' })).toContainText('illegal data value');
  await bench.press(/^Send to 3/);
  await expect(page.getByTestId('reply-outcome')).toHaveText('✗ refused');
  await expect(page.getByText('byte for byte as it should')).toBeVisible();
});

test('contradictory switches are named and not sent', async ({ bench, page }) => {
  await bench.openK1();
  await bench.stage('Words');
  await page.getByRole('switch', { name: 'bit 3, run' }).click();
  await page.getByRole('switch', { name: 'bit 6, jog' }).click();
  await expect(page.getByText('run and jog together contradict each other: this word is not sent.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Send 0x004C/ })).toBeDisabled();
});

test('a second tab looks on, and its Stop reaches the first', async ({ bench, page, context }) => {
  await bench.commandFan({ inHurry: true });
  await bench.press('run forward');
  await bench.press(/^Send 0x000D/);
  await bench.press('Watch');
  await expect(page.getByTestId('status-sentence')).toContainText('running forward');
  const second = await context.newPage();
  await second.goto('/');
  await second.getByRole('button', { name: 'Open K1 kiln' }).click();
  await expect(second.getByText('another tab has this line; Stop is passed on to it')).toBeVisible();
  await second.keyboard.press('Control+.');
  await expect(second.getByTestId('stop-report')).toContainText('3 · kiln fan: ✓ stopped');
  await page.bringToFront();
  await expect(page.getByTestId('status-sentence')).toContainText('standing');
});

/** Scripts in which one of these texts stands do not come until what is given is called. */
async function keptAway(page: Page, marks: readonly string[]): Promise<() => void> {
  let isAway = true;
  await page.route('**/chunks/*.js', async (route) => {
    const chunk = await route.fetch();
    const text = await chunk.text();
    await (isAway && marks.some((mark) => text.includes(mark)) ? route.abort() : route.fulfill({ response: chunk }));
  });
  return () => {
    isAway = false;
  };
}

test('the part that tells a drive’s words does not come: that is said, and it is asked for until it comes', async ({
  page,
}) => {
  // The browser itself complains of what does not come, so the bench is not taken from where nobody may.
  const bench = new BenchPage(page);
  const letCome = await keptAway(page, ['identityWarning:']);
  await bench.start();
  await bench.openK1();
  await bench.stage('Words');
  await bench.press('Watch');
  await expect(bench.drive()).toContainText('it answers; what it says cannot be told yet');
  const identity = page.getByTestId('identity-warning');
  await expect(identity).toContainText('cannot be told yet');
  letCome();
  await expect(bench.drive()).toContainText('ready, standing');
  await expect(identity).toHaveCount(0);
});

test('the job shelf does not come, nor what says so: it is said all the same, and the page goes on', async ({
  page,
}) => {
  const faults: string[] = [];
  page.on('pageerror', ({ message }) => faults.push(message));
  const bench = new BenchPage(page);
  const letCome = await keptAway(page, ['Copied to ', 'Replace it with the file']);
  await bench.start();
  await bench.press('Copy');
  await expect(page.getByText('That could not be done, and nothing was changed')).toBeVisible();
  letCome();
  await bench.press('Copy');
  const copy = page.getByRole('listitem', { name: 'Alder Ford, copy' });
  await copy.getByRole('button', { name: 'Delete' }).click();
  await expect(copy).toHaveCount(0);
  await bench.press('Undo');
  await expect(copy).toBeVisible();
  await bench.openK1();
  expect(faults).toEqual([]);
});

test('what is fetched ahead does not come at first, nor does what fetches it: all of it is here once the server is back', async ({
  page,
}) => {
  const bench = new BenchPage(page);
  for (const mark of ['"pointerdown","keydown","input","wheel"', 'Copied to ']) {
    const letCome = await keptAway(page, [mark]);
    const missed = page.waitForEvent('requestfailed');
    await bench.start();
    await missed;
    expect(await page.evaluate(() => performance.getEntriesByName('bujo: all stages are here').length)).toBe(0);
    letCome();
    await page.waitForFunction(() => performance.getEntriesByName('bujo: all stages are here').length > 0);
    await page.unrouteAll();
  }
});
