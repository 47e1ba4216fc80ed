import { expect, test } from './bench';

/** From a cold drive to a turning shaft by its route, on each profile and each kind of link. */

test('CiA 402 over Modbus RTU: the route walked word by word, then back, and a fault reset on its edge', async ({
  bench,
  page,
}) => {
  await bench.openK1();
  await bench.hurry();
  await bench.press(/7 · infeed chain.*Pulls boards/);
  await bench.stage('Words');
  await bench.press('Watch');
  await expect(page.locator('[data-state="switch-on-disabled"]')).toHaveAttribute('data-presence', 'here');
  await bench.press(/^running/);
  const steps = page.getByRole('list', { name: 'Words of the route' }).getByRole('listitem');
  await expect(steps).toHaveCount(4);
  expect(await steps.evaluateAll((items) => items.map((item) => item.getAttribute('data-word')))).toEqual([
    '0x0006',
    '0x0007',
    '0x000F',
    '0x007F',
  ]);
  await expect(steps.last()).toContainText('the shaft may turn from here');
  await expect(page.getByText('the minimum speed 75 rpm. Zero reference is not standstill.').first()).toBeVisible();

  // One step, then the rest in one go.
  await bench.press(/^One step: 0x0006/);
  await expect(page.locator('[data-state="ready-to-switch-on"]')).toHaveAttribute('data-presence', 'here');
  await bench.press(/^Walk 7 · infeed chain to running/);
  await expect(page.getByTestId('walk')).toHaveText('It is there: running.');
  await expect(bench.drive()).toContainText('operation enabled, 75 rpm');

  await bench.press(/^Stop/);
  await expect(bench.stopReport()).toContainText('stands');
  await expect(page.locator('[data-state="switched-on"]')).toHaveAttribute('data-presence', 'here');
});

test('PROFIdrive over USS: ready word, run word, and the reference in the same telegram', async ({ bench, page }) => {
  await bench.press('Open K2 vents');
  await bench.hurry();
  await bench.press(/4 · vent hoist/);
  await bench.stage('Words');
  await bench.press('Watch');
  await expect(page.locator('[data-state="S1"]')).toHaveAttribute('data-presence', 'here');
  await bench.press(/^running/);
  await bench.press(/^Walk 4 · vent hoist to running/);
  await expect(page.getByTestId('walk')).toHaveText('It is there: running.');
  await page.getByLabel('wanted, Hz').fill('12.5');
  await bench.press(/^Send 0x1000/);
  await expect(bench.drive()).toContainText('S4 operation, 12.5 Hz');
  await expect(page.getByRole('list', { name: 'Words of the route' })).toContainText('0x047F');

  await bench.press(/^Stop/);
  await expect(bench.stopReport()).toContainText('stands');
  await expect(page.locator('[data-state="S2"]')).toHaveAttribute('data-presence', 'here');
});

test('a drive without a control word is enabled by its mode number, over its own command lines', async ({
  bench,
  page,
}) => {
  await bench.press('Open S1 saw');
  await bench.press(/5 · fence axis/);
  await bench.stage('Words');
  await bench.press('Read once');
  await page.getByRole('tab', { name: 'States' }).click();
  await expect(page.locator('[data-state="free"]')).toHaveAttribute('data-presence', 'here');
  await page.locator('[data-state="held"]').click();
  await bench.press(/^Walk 5 · fence axis to held/);
  await expect(page.getByTestId('walk')).toHaveText('It is there: held, no move.');
});

test('plain bits: cold to running by route, reverse by bit, by sign and both, timeline, comparison', async ({
  bench,
  page,
}) => {
  await bench.watchFan();
  await bench.takeCommand();
  await page.getByLabel('wanted, Hz').fill('10');
  await bench.press(/^Send 0x08BA/);
  await page.getByRole('tab', { name: 'States' }).click();
  await page.locator('[data-state="running-forward"]').click();
  await bench.press(/^Walk 3 · kiln fan to running forward/);
  await expect(bench.drive()).toContainText('running forward');
  // By the bit.
  await page.locator('[data-state="running-backward"]').click();
  await bench.press(/^Walk 3 · kiln fan to running backward/);
  await expect(bench.drive()).toContainText('running backward');
  // By the bit and the sign, which cancel.
  await page.getByLabel('wanted, Hz').fill('-10');
  await bench.press(/^Send 0xF746/);
  await expect(bench.drive()).toContainText('running forward');
  await expect(page.getByText('Reverse and a negative reference cancel').first()).toBeVisible();
  // By the sign alone.
  await bench.press('run forward');
  await bench.press(/^Send 0x000D to/);
  await expect(bench.drive()).toContainText('running backward');

  await page.getByRole('tab', { name: 'Timeline' }).click();
  await page.getByLabel('Bit', { exact: true }).selectOption('5');
  await expect(page.getByRole('row', { name: /backward rose/ }).first()).toBeVisible();
  await page.getByRole('tab', { name: 'Compare' }).click();
  await page.getByLabel('first status word').fill('0x2A0D');
  await page.getByLabel('second status word').fill('0b0010 1010 0010 1101');
  await expect(page.getByTestId('compared')).toHaveText('bit 5 backward 0 → 1');
  await bench.press(/^Stop/);
  await expect(bench.stopReport()).toContainText('stands');
});

test('a fault comes, is shown with its way out, and is reset on an edge', async ({ bench, page }) => {
  await bench.openK1();
  await bench.hurry();
  await bench.press(/7 · infeed chain.*Pulls boards/);
  await bench.stage('Words');
  await bench.press('Watch');
  await page.locator('[data-state="switched-on"]').click();
  await bench.press(/^Walk/);
  await expect(page.getByTestId('walk')).toHaveText('It is there: switched on.');
  await bench.stage('Job');
  await bench.press('Let the motor overheat');
  await bench.stage('Words');
  await expect(page.locator('[data-state="fault"]')).toHaveAttribute('data-presence', 'here');
  await bench.stage('Job');
  await bench.press('Let it cool');
  await bench.stage('Words');
  const steps = page.getByRole('list', { name: 'Words of the route' }).getByRole('listitem');
  await expect(steps.first()).toHaveAttribute('data-word', '0x0080');
  await expect(steps.first()).toContainText('raises 7');
  await bench.press(/^Walk/);
  await expect(page.getByTestId('walk')).toHaveText('It is there: switched on.');
});

test('jog turns only while it is held, and ends when the window loses its focus', async ({ bench, page }) => {
  await bench.openK1();
  await bench.stage('Words');
  await bench.press('Watch');
  await bench.takeCommand();
  const hold = page.getByRole('button', { name: /^Hold: 3 · kiln fan forward/ });
  await expect(page.getByText('but nobody has proven here that it stops the shaft')).toBeVisible();
  await hold.scrollIntoViewIfNeeded();
  await hold.hover();
  await page.mouse.down();
  await expect(bench.drive()).toContainText('jogging');
  await page.mouse.up();
  await expect(bench.drive()).toContainText('enabled');
  await expect(bench.drive()).not.toContainText('jogging');
  // With the key, and the focus lost.
  await hold.focus();
  await page.keyboard.down('Space');
  await expect(bench.drive()).toContainText('jogging');
  await page.evaluate(() => window.dispatchEvent(new Event('blur')));
  await expect(bench.drive()).not.toContainText('jogging');
  await page.keyboard.up('Space');
  await page.getByLabel('I saw the shaft stop by itself when the link was cut').check();
  await expect(page.getByText('but nobody has proven here')).toHaveCount(0);
});

test('CiA 402 over Modbus TCP: velocity by its route, then a set-point by handshake in profile position', async ({
  bench,
  page,
}) => {
  await bench.press('Open E1 stacker');
  await bench.press(/1 · stacker lift/);
  await bench.stage('Words');
  await bench.press('Watch');
  await expect(page.locator('[data-state="switch-on-disabled"]')).toHaveAttribute('data-presence', 'here');
  await page.getByLabel('mode of operation').selectOption('1');
  await bench.press(/^Set the mode of 1 · stacker lift/);
  await expect(page.getByText('CiA 402, profile position mode')).toBeVisible();
  await page.locator('[data-state="operation-enabled"]').click();
  await bench.press(/^Walk 1 · stacker lift to operation enabled/);
  await expect(page.getByTestId('walk')).toHaveText('It is there: operation enabled.');
  await page.getByLabel('target position, counts').fill('196608');
  await bench.press(/^Send the target to 1 · stacker lift/);
  await bench.press('start the move');
  await bench.press(/^Send 0x001F to 1 · stacker lift/);
  await page.getByRole('tab', { name: 'Status' }).click();
  await expect(page.locator('[data-bit="12"][data-level="1"]')).toBeVisible();
  await bench.press('enable operation');
  await bench.press(/^Send 0x000F to 1 · stacker lift/);
  await expect(page.locator('[data-bit="12"][data-level="0"]')).toBeVisible();
  await expect(page.getByTestId('position')).toHaveText('196608');
  await bench.press(/^Stop/);
  await expect(bench.stopReport()).toContainText('stands');
});

test('a table pasted from a manual’s page becomes the bits of a sheet of one’s own', async ({ bench, page }) => {
  await bench.stage('Words');
  await page.getByRole('tab', { name: 'Bits' }).click();
  const table = page.getByLabel('table of the control word');
  await table.fill(
    '0\tstop\tactive low\n2\tenable\ton\toff\n3\trun\trun\tno run\n4-5\tpreset\t0: none, 1: creep, 2: fast\nx\ty',
  );
  await expect(page.getByText('Line 5: “x” is no bit number')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep as a sheet of yours' })).toBeDisabled();
  await table.fill(
    '0\tstop\tactive low\n2\tenable\ton\toff\n3\trun\trun\tno run\n4-5\tpreset\t0: none, 1: creep, 2: fast',
  );
  await expect(page.getByTestId('bits-read')).toContainText('3 bits, stop active at 0, fields preset (3 values)');
  await bench.press('Keep as a sheet of yours');
  await expect(page.getByText(/Kept as sheet “Tern \(mine\)”, revision 1/)).toBeVisible();
  await page.getByLabel('preset, bits 4 to 5').selectOption('2');
  await expect(page.getByTestId('control-word')).toHaveText('0x0024');
});
