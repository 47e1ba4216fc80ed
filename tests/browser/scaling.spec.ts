import { readFileSync } from 'node:fs';
import { expect, test } from './bench';

test('17.5 Hz found by dragging the hairline, then seen count by count', async ({ bench, page }) => {
  await bench.stage('Scaling');
  const picture = page.getByRole('slider', { name: 'Hairline over the scales' });
  const box = (await picture.boundingBox())!;
  // The scales lie from 120 to 1046 of the picture's 1080 units.
  const xOf = (hz: number): number => box.x + ((120 + (hz / 55) * 926) / 1080) * box.width;
  const y = box.y + box.height / 2;
  await page.mouse.move(xOf(40), y);
  await page.mouse.down();
  await page.mouse.move(xOf(30), y, { steps: 4 });
  await page.mouse.move(xOf(17.5), y, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByLabel('wanted, Hz')).toHaveValue('17.5');
  await expect(page.getByTestId('sent')).toHaveText('17.498');
  await expect(page.getByLabel('hex', { exact: true })).toHaveValue('0x0F45');

  // Close enough that an arrow's one count is a step that is seen.
  for (let i = 0; i < 5; i++) await bench.press('Closer');
  await expect(picture).toContainText('3910');
  await picture.focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByLabel('decimal', { exact: true })).toHaveValue('3910');
  await bench.press('Whole');

  await page.getByLabel('machine unit').fill('m/min');
  await page.getByLabel('per Hz').fill('2.4');
  await page.getByLabel('machine, m/min').fill('24');
  await page.getByLabel('machine, m/min').blur();
  await expect(page.getByLabel('wanted, Hz')).toHaveValue('10');
});

test('a scale found from three observed pairs, a read-back explained, a ramp said both ways', async ({
  bench,
  page,
}) => {
  await bench.stage('Scaling');
  await page.getByRole('tab', { name: 'Find a scale' }).click();
  const fit = page.getByTestId('fit');
  await page.getByLabel('display 1').fill('17.5');
  await page.getByLabel('raw 1').fill('0x0F45');
  await expect(fit).toContainText('two pairs are needed');
  await page.getByLabel('display 2').fill('40.0');
  await page.getByLabel('raw 2').fill('8935');
  await page.getByLabel('display 3').fill('50.0');
  await page.getByLabel('raw 3').fill('11170');
  await expect(fit).toContainText('12287 = 55');
  await expect(fit).toContainText('2 of them confirm it');

  await page.getByRole('tab', { name: 'Read-back' }).click();
  await page.getByLabel('written, any base').fill('0x0F45');
  await page.getByLabel('read back, any base').fill('3908');
  await expect(page.getByTestId('read-back')).toContainText('within the drive’s resolution: one count');

  await page.getByRole('tab', { name: 'Ramp' }).click();
  await page.getByLabel('ramp time, s').fill('8');
  await expect(page.getByLabel('acceleration, Hz/s')).toHaveValue('6.25');
  await page.getByLabel('acceleration, Hz/s').fill('12.5');
  await page.getByLabel('acceleration, Hz/s').press('Enter');
  await expect(page.getByLabel('ramp time, s')).toHaveValue('4');

  await page.getByRole('tab', { name: 'Usual scales' }).click();
  await expect(page.getByRole('list', { name: 'Chain of working' })).toContainText('50 / 100 × 16384');
});

test('points, the plot of rounding, and the word card as a file', async ({ bench, page }) => {
  await bench.stage('Scaling');
  await page.getByRole('tab', { name: 'Points' }).click();
  await expect(page.getByRole('row', { name: /^55 1650 12287 0x2FFF 55/ })).toBeVisible();
  await page.getByRole('tab', { name: 'Rounding' }).click();
  await expect(page.getByRole('img', { name: /^Rounding error around/ })).toBeVisible();
  await page.getByRole('tab', { name: 'Word card' }).click();
  await expect(page.getByRole('row', { name: /^speed reference 11.03 707 708 0x02C3 40708 400708/ })).toBeVisible();
  const saved = page.waitForEvent('download');
  await bench.press('Save as CSV');
  const file = await saved;
  expect(file.suggestedFilename()).toBe('tern-station-3-words.csv');
  const text = readFileSync(await file.path(), 'utf8');
  expect(text).toContain('run forward,0x000D,13,0000 0000 0000 1101,03 06 02 C1 00 0D 19 A9');
});

test('a chain is changed, tried and kept as a sheet of one’s own, but not while the drive moves', async ({
  bench,
  page,
}) => {
  await bench.watchFan();
  await bench.takeCommand();
  await bench.press('make ready');
  await bench.press(/^Send 0x0005 to 3 · kiln fan/);
  await bench.press('run forward');
  await bench.press(/^Send 0x000D to 3 · kiln fan/);
  await expect(page.getByTestId('status-sentence')).toContainText('running forward');

  await bench.stage('Scaling');
  await page.getByLabel('wanted, Hz').fill('17.5');
  await page.getByRole('tab', { name: 'Usual scales' }).click();
  await bench.press('Take into the chain');
  const chains = page.getByRole('list', { name: 'Chain of working' });
  await expect(chains).toHaveCount(2);
  await page.getByLabel('unit', { exact: true }).fill('Hz');
  await page.getByLabel('step 1').selectOption('full scale');
  await page.getByLabel('value', { exact: true }).fill('60');
  await page.getByLabel('counts', { exact: true }).fill('12000');
  await expect(chains.nth(1)).toContainText('17.5 / 60 × 12000= 3500');
  await bench.press('Keep as a sheet of yours');
  await expect(page.getByText(/it would close K1 kiln, on which this bench set a drive in motion/)).toBeVisible();
  await expect(bench.drive()).toContainText('running forward');

  // Nor does any other change of the job cut the line to it.
  await bench.stage('Line');
  await bench.press('Set up the line');
  await bench.press('Delete K1 kiln');
  await expect(page.getByTestId('refused')).toContainText('Not done: it would close K1 kiln');
  await expect(bench.drive()).toContainText('running forward');
  await bench.stage('Scaling');

  await page.keyboard.press('Control+.');
  await expect(bench.stopReport()).toContainText('✓ stopped');
  await page.getByLabel('counts', { exact: true }).fill('12001');
  await bench.press('Keep as a sheet of yours');
  await expect(page.getByText(/^Kept as sheet “Tern \(mine\)”, revision 1; this station uses it now/)).toBeVisible();
  await expect(page.getByTestId('refused')).toHaveCount(0);
  await expect(page.getByLabel('decimal', { exact: true })).toHaveValue('3500');
  await expect(page.getByLabel('counts', { exact: true })).toHaveValue('12001');
});
