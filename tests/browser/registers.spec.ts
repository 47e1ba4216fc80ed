import { expect, test } from './bench';

test('a fan that does not run as before: everything is read, what changed since the last visit is planned, written, broken off and proved', async ({
  bench,
  page,
}) => {
  await bench.openK1();
  await bench.hurry();
  await bench.stage('Registers');
  await bench.press('Read all values of 3 · kiln fan');
  await expect(page.getByRole('status').filter({ hasText: /204 of 204 values, 14 refused/ })).toBeVisible();

  // The visit that was left there in spring says what it held then.
  const besideLastVisit = async (): Promise<void> => {
    await page.getByRole('tab', { name: 'Visits and files' }).click();
    await page
      .getByRole('listitem')
      .filter({ hasText: 'the last visit' })
      .getByRole('button', { name: 'What changed since' })
      .click();
  };
  await besideLastVisit();
  await page.getByLabel('Show').selectOption('settings that differ');
  await expect(page.getByText('11 of 204 values; 11 settings differ')).toBeVisible();
  const grid = page.getByRole('grid', { name: 'Values' });
  await expect(grid.locator('[data-number="2.01"]')).toContainText('who starts and stops it is another');
  // Hours go on by themselves: they differ, and are set aside.
  await page.getByLabel('Show').selectOption('what differs');
  await expect(grid.locator('[data-number="31.01"]')).toContainText('can only be read: it changes by itself');
  await page.getByLabel('Show').selectOption('settings that differ');
  await bench.press('Plan 11 values from the last visit');
  await page.getByRole('tab', { name: 'Plan and write' }).click();
  const plan = page.getByRole('table', { name: 'The plan in its order' });
  await expect(plan.getByRole('row')).toHaveCount(12);
  // Who commands it comes last.
  await expect(plan.getByRole('row').last()).toContainText('2.01');
  await bench.press('Write 11 values to 3 · kiln fan on K1 kiln');
  await expect(page.getByRole('table', { name: 'What became of each value' })).toContainText('✓ read back and equal');

  // The page goes away in the middle; what it says afterwards is true, and it goes on without doing twice what is done.
  await page.reload();
  await bench.stage('Registers');
  await page.getByRole('tab', { name: 'Plan and write' }).click();
  await bench.openK1Here();
  const goOn = page.getByRole('button', { name: /^Go on with \d+/ });
  if (await goOn.isVisible()) await goOn.click();
  const became = page.getByRole('table', { name: 'What became of each value' });
  await expect(became.getByText('✓ read back and equal')).toHaveCount(11);
  await page.getByRole('tab', { name: 'Values' }).click();
  await bench.press('Read all values of 3 · kiln fan');
  await expect(page.getByRole('status').filter({ hasText: /204 of 204 values, 14 refused/ })).toBeVisible();
  await besideLastVisit();
  await page.getByLabel('Show').selectOption('settings that differ');
  // The fan powered up anew with the page, and keeps only what is stored: what was written before is lost and told, what was written after it stands.
  await expect(grid.locator('[data-number="5.04"]')).toContainText('32 = 3.2 s');
  await expect(grid.locator('[data-number="2.01"]')).toHaveCount(0);
});

test('the controller is played on the fan: it turns by the block alone, Stop clears the block, a reload in the middle resumes nothing', async ({
  bench,
  page,
}) => {
  await bench.commandFan();
  await bench.stage('Registers');
  await page.getByRole('tab', { name: 'Play the controller' }).click();
  const word = page.getByLabel(/^11\.01 control word/);
  const back = page.getByRole('table', { name: /^Block from/ });
  await page.getByLabel(/^11\.02 ramp time/).fill('1 s');
  await page.getByLabel(/^11\.03 speed reference/).fill('17.5 Hz');
  const turn = async (): Promise<void> => {
    await word.fill('0x0005');
    await bench.press(/^(?:Begin the cycle|Put this block in)$/);
    await expect(back.getByRole('row', { name: /^6\.02 status word .*enabled, standing/ })).toBeVisible();
    await word.fill('0x000D');
    await bench.press(/: the shaft may turn$/);
    await expect(back.getByRole('row', { name: /^6\.02 status word .*at speed/ })).toBeVisible({ timeout: 15_000 });
    // What came of it is told beside what was put in.
    await expect(page.getByRole('table', { name: 'What moved in the block from the drive' })).toContainText('at speed');
  };
  await turn();
  await expect(page.getByRole('status', { name: 'Set in motion by this bench' })).toContainText(
    'its block goes out at every beat of a cycle',
  );
  await page.keyboard.press('Control+.');
  await expect(bench.stopReport()).toContainText('3 · kiln fan: ✓ stopped');
  await expect(page.getByRole('status', { name: 'The cycle' })).toContainText('over: Stop was pressed');
  // No run word waits in its field.
  await expect(word).toHaveValue('0x0004');

  await page.getByLabel(/^11\.03 speed reference/).fill('17.5 Hz');
  await page.getByLabel(/^11\.02 ramp time/).fill('1 s');
  await turn();
  // Somebody thinks about whether to leave for longer than a page may be silent that keeps a shaft turning.
  page.once('dialog', (dialog) => void setTimeout(() => void dialog.accept(), 2_500));
  await page.reload();
  await bench.stage('Registers');
  await page.getByRole('tab', { name: 'Play the controller' }).click();
  await expect(page.getByRole('status', { name: 'The cycle' })).toContainText(
    /over: stopped: the page did not answer for [\d.]+ s; its page was reloaded or closed just then/,
  );
  await expect(word).toHaveValue('0x0004');
  // The line is closed, and nothing is sent before another press.
  await expect(page.getByRole('button', { name: 'Begin the cycle' })).toBeDisabled();
});

test('the gateway’s block: read from its registers, a place whose words are turned round is found by one known value, a neighbour is named', async ({
  bench,
  page,
}) => {
  await bench.press('Open E2 gateway');
  await page.getByRole('button', { name: /1 · block gateway/ }).click();
  await bench.stage('Registers');
  await page.getByRole('tab', { name: 'Cyclic block' }).click();
  await expect(page.getByLabel('Block', { exact: true })).toHaveValue(/d9$/);
  await expect(page.getByText('5 bytes behind the data are not used and stay 0.')).toBeVisible();
  await page.getByLabel('It stands at register').fill('0');
  await page.getByLabel('Of the', { exact: true }).selectOption('input registers');
  await bench.press('Read it from 1 · block gateway');
  await expect(page.getByText('read: its bytes stand below')).toBeVisible();
  const items = page.getByRole('table', { name: 'Items of the block' });
  const place = items.getByRole('row', { name: /^lift_place/ });
  // The display of the lift shows 87.0 mm; 1638.4 counts a millimetre are 142541 of them.
  await expect(place).toContainText('753664002 = 0x2CEC0002');
  await page.getByLabel('lift_place is, as you know').fill('142541');
  await bench.press('Read it so: the two words of each value of 32 bits are swapped');
  await expect(place).toContainText('142572 = 0x00022CEC');

  // The controller has something else in byte 270 already.
  await bench.press('Lay out a block of your own');
  await page
    .getByLabel(/^Items that were copied/)
    .fill('lamp AT %IB270 : BYTE;\nspeed AT %IW274 : INT; (* of a conveyor *)');
  await bench.press('Take 2 items, from the controller’s input byte 270 on');
  await expect(
    page.getByText('bytes 270 to 275 of the controller’s inputs belong to “E2 gateway, to the controller” too.'),
  ).toBeVisible();
  await page.reload();
  await bench.stage('Registers');
  await page.getByRole('tab', { name: 'Cyclic block' }).click();
  await expect(page.getByLabel('Block', { exact: true }).getByRole('option', { name: 'Block 2' })).toBeAttached();
});
