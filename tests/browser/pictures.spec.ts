import { readFileSync } from 'node:fs';
import { concatBytes } from '../../src/core/bytes/concat';
import { seededRandom } from '../../src/core/random/random';
import { exchangeOf } from '../harness/streams';
import { expect, test } from './bench';
import { printManual } from './printed-manual';

/** Remakes the pictures of docs/screenshots (`npm run pictures`); they show the demo job only. */
test.skip(process.env.BUJO_PICTURES !== '1', 'pictures are made on request');

const picture = (name: string) => ({ path: `docs/screenshots/${name}.png`, animations: 'disabled' as const });

test('pictures of the main views', async ({ bench, page }) => {
  await page.screenshot(picture('job'));
  await bench.openK1();
  await bench.stage('Words');
  await bench.press('Watch');
  await bench.press('run forward');
  await bench.press(/^Send 0x000D/);
  await page.getByRole('tab', { name: 'Why it does not run' }).click();
  await expect(page.getByRole('button', { name: /^write 2.01/ })).toBeVisible();
  await page.screenshot(picture('why'));
  await bench.takeCommand();
  await bench.press('make ready');
  await bench.press(/^Send 0x0005/);
  await bench.press('run forward');
  await bench.press(/^Send 0x000D/);
  await page.getByLabel('wanted, Hz').fill('17.5');
  await bench.press(/^Send 0x0F45/);
  await expect(page.getByTestId('status-sentence')).toContainText('at speed');
  await page.screenshot(picture('words'));
  await bench.stage('Scaling');
  await expect(page.getByRole('slider')).toBeVisible();
  await page.screenshot(picture('scaling'));
  await bench.stage('Frames');
  await expect(page.getByRole('group', { name: 'Request' })).toBeVisible();
  await page.getByLabel('What to ask').click();
  await page.getByRole('option', { name: '06 Write one register' }).click();
  await page.getByLabel('Parameter or register').click();
  await page.getByRole('option', { name: /11.03/ }).click();
  await page.getByLabel(/^Value/).fill('17.5');
  await bench.press(/^Send to 3/);
  await expect(page.getByTestId('reply-outcome')).toHaveText('✓ answered');
  await page.screenshot(picture('frames'));
  await page.keyboard.press('Control+.');
  await expect(bench.stopReport()).toContainText('✓ stopped');
  await page.screenshot(picture('stop'));
});

test('picture of the Line stage', async ({ bench, page }) => {
  await bench.openK1();
  await bench.stage('Line');
  await bench.press(/^Ask 3/);
  await bench.press('Read its link settings and identity');
  await expect(page.getByTestId('drive-bit-rate')).toContainText('19200');
  await page.screenshot(picture('line'));
});

test('pictures of Registers', async ({ bench, page }) => {
  await bench.openK1();
  await bench.hurry();
  await bench.stage('Registers');
  await bench.press('Read all values of 3 · kiln fan');
  await expect(page.getByRole('status').filter({ hasText: '204 of 204 values' })).toBeVisible();
  await page.getByRole('tab', { name: 'Visits and files' }).click();
  await bench.press('What changed since');
  await page.getByLabel('Show').selectOption('settings that differ');
  await page.locator('[data-number="2.01"]').click();
  await page.screenshot(picture('registers'));
  await bench.press('Plan 11 values from the last visit');
  await page.getByRole('tab', { name: 'Plan and write' }).click();
  await bench.press(/^Write 11 values/);
  await expect(page.getByText('11 proved')).toBeVisible();
  await page.screenshot(picture('plan'));
});

test('picture of a manual’s page with its table framed', async ({ bench, page, browser }) => {
  await bench.stage('Sheets');
  await page.getByLabel('Name of a new sheet').fill('Sump pump');
  await bench.press('Start it');
  await page.getByRole('tab', { name: 'From the manual' }).click();
  await page
    .getByLabel('Manual file')
    .setInputFiles({ name: 'pump.pdf', mimeType: 'application/pdf', buffer: await printManual(browser) });
  await page.getByLabel('Page, of 4').fill('2');
  await page.getByLabel('Frame in mm').fill('16 38 194 279');
  await expect(page.getByRole('button', { name: /^Take \d+ entries/ })).toBeVisible();
  await page.screenshot(picture('manual'));
});

test('pictures of an axis: its settings, and a move', async ({ bench, page }) => {
  await page.getByRole('button', { name: /fence axis/ }).click();
  await bench.hurry();
  await bench.stage('Registers');
  await page.getByRole('tab', { name: 'Position and limits' }).click();
  await bench.press('Open S1 saw');
  await bench.press('Read all values of 5 · fence axis');
  await expect(page.getByRole('status').filter({ hasText: '23 of 23 values' })).toBeVisible({ timeout: 20_000 });
  await page.screenshot(picture('position'));
  await bench.stage('Trials');
  await bench.press('A move');
  await bench.press('Read once');
  await page.getByLabel('by, mm').fill('320');
  await expect(page.getByText('from 0 mm to 320 mm: 320 mm away from the blade')).toBeVisible();
  await expect(page.getByText('the band is where the position is expected')).toBeVisible();
  await page.screenshot(picture('move'));
});

test('picture of a trial', async ({ bench, page }) => {
  await bench.commandFan();
  await bench.stage('Trials');
  await bench.press('Read once');
  await bench.press('Loss of link');
  await bench.press('Run “Loss of link” on 3 · kiln fan');
  await expect(page.getByRole('heading', { name: /^What came: ✓ passed/ })).toBeVisible({ timeout: 40_000 });
  await bench.press('Seen');
  await page.getByRole('heading', { name: /^What came/ }).evaluate((head) => head.scrollIntoView());
  await page.screenshot(picture('trials'));
});

test('picture of the doctor', async ({ bench, page }) => {
  await bench.openK1();
  await bench.stage('Line');
  await page.getByLabel('rate, bit/s').fill('9600');
  await bench.press(/^Set this end only/);
  await bench.press(/^Ask 3/);
  await bench.press(/Ask the doctor/);
  await expect(page.locator('[data-cause]').first()).toBeVisible();
  await page.screenshot(picture('doctor'));
});

test('pictures of a dialect and a capture', async ({ bench, page }) => {
  await page.getByRole('button', { name: /fence axis/ }).click();
  await bench.stage('Frames');
  await page.getByRole('tab', { name: 'Dialect' }).click();
  await page.getByLabel('Sample lines, one a row').fill('05.spd=9175040\n05.spd=fast\n05.no03~29<CR>');
  await expect(page.getByRole('list', { name: 'How the samples are read' })).toContainText('stops at character 8');
  await page.screenshot(picture('dialect'));
  await page.getByRole('tab', { name: 'Capture' }).click();
  const random = seededRandom(12);
  const stream = concatBytes(...Array.from({ length: 3000 }, () => concatBytes(...exchangeOf(random))));
  await page
    .getByLabel('Capture file')
    .setInputFiles({ name: 'night.bin', mimeType: 'application/octet-stream', buffer: Buffer.from(stream) });
  await page.getByLabel('Only').selectOption('exceptions');
  await page.getByRole('list', { name: 'Frames of the capture' }).getByRole('button').first().click();
  await expect(page.getByRole('group', { name: /^Entry / })).toBeVisible();
  await page.screenshot(picture('capture'));
});

test('picture of the map of states', async ({ bench, page }) => {
  await bench.openK1();
  await bench.press(/7 · infeed chain.*Pulls boards/);
  await bench.stage('Words');
  await bench.press('Watch');
  await page.locator('[data-state="switched-on"]').click();
  await bench.press(/^Walk/);
  await expect(page.getByTestId('walk')).toHaveText('It is there: switched on.');
  await bench.press(/^running/);
  await page.screenshot(picture('states'));
});

test('pictures of the record of a visit, in the bench and on paper', async ({ bench, page, browser }) => {
  await bench.commandFan({ inHurry: true });
  await bench.stage('Trials');
  await bench.press('Read once');
  await bench.press('Loss of link');
  await bench.press('Run “Loss of link” on 3 · kiln fan');
  await expect(page.getByRole('heading', { name: /^What came: / })).toBeVisible({ timeout: 60_000 });
  await bench.stage('Handover');
  await page.getByLabel('Visit', { exact: true }).fill('autumn start-up of the kiln');
  await page.getByLabel('By', { exact: true }).fill('E. Moss');
  await page.getByRole('button', { name: 'Before leaving', exact: true }).click();
  for (const name of [/covers are closed/, /laptop’s cable/]) await page.getByRole('checkbox', { name }).click();
  await page.getByRole('button', { name: 'What is open', exact: true }).click();
  await expect(page.getByRole('row', { name: /keep settings was not given/ }).first()).toBeVisible();
  await bench.press('Seen');
  await page.getByRole('heading', { name: 'Handover' }).evaluate((head) => head.scrollIntoView({ block: 'end' }));
  await page.screenshot(picture('handover'));
  const saving = page.waitForEvent('download');
  await bench.press('Save as one page');
  const paper = await browser.newPage({ viewport: { width: 794, height: 1123 } });
  await paper.setContent(readFileSync(await (await saving).path(), 'utf8'));
  await paper.emulateMedia({ media: 'print' });
  await paper.evaluate(() => document.fonts.ready);
  await paper.evaluate(() => (document.body.style.padding = '60px 53px'));
  await paper.screenshot(picture('record'));
});
