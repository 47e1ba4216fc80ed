import { expect, test, type BenchPage } from './bench';

const part = async (bench: BenchPage, name: string): Promise<void> => {
  await bench.page.getByRole('tab', { name, exact: true }).click();
};

const proof = (bench: BenchPage) => bench.page.getByTestId('prove-outcome');

/** Job with the yard's time ×10, line K1 open, and the Line stage. */
async function lineK1(bench: BenchPage): Promise<void> {
  await bench.hurry();
  await bench.openK1();
  await bench.stage('Line');
}

test('a wrong rate is found and mended on K1', async ({ bench }) => {
  const { page } = bench;
  await lineK1(bench);
  await page.getByLabel('rate, bit/s').fill('9600');
  await bench.press(/^Set this end only: 9600 8E1/);
  await bench.press(/^Ask 3/);
  await expect(proof(bench)).toContainText('✗ no answer within the time-out');
  await bench.press(/Ask the doctor/);
  const first = page.locator('[data-cause]').first();
  await expect(first).toHaveAttribute('data-cause', 'wrong-rate');
  await expect(first).toContainText('19200 8E1, this end has 9600 8E1');
  await part(bench, 'Sweeps');
  await bench.press('Try the usual settings');
  await expect(page.getByTestId('sweep-found')).toContainText('19200 8E1 works');
  await expect(page.getByTestId('sweep-found')).toContainText('19200 8E2 would look the same');
  await bench.press('Set this end to 19200 8E1');
  await part(bench, 'Both ends');
  await bench.press(/^Ask 3/);
  await expect(proof(bench)).toContainText('✓ answered');
  await part(bench, 'Doctor');
  await expect(page.getByText('Nothing wrong is seen')).toBeVisible();
});

test('a drive is found by settings and station together; one without a sheet is asked who it is', async ({ bench }) => {
  const { page } = bench;
  await lineK1(bench);
  await page.getByLabel('rate, bit/s').fill('9600');
  await bench.press(/^Set this end only: 9600 8E1/);
  await part(bench, 'Sweeps');
  await bench.press('Try settings and stations together');
  await expect(page.getByTestId('everything-found')).toContainText('✓ station 3 at 19200 8E1 answers.');
  await bench.press('Set this end so, and work on station 3');
  await part(bench, 'Both ends');
  await bench.press(/^Ask 3/);
  await expect(proof(bench)).toContainText('✓ answered');
  await bench.stage('Job');
  await bench.press('Open G1 flap');
  await page.getByRole('button', { name: /^21 · air flap/ }).click();
  await bench.stage('Line');
  await part(bench, 'Sweeps');
  await bench.press(/^Ask which of \d+ sheets fits/);
  await expect(page.getByRole('table', { name: 'Sheets by how well they fit' })).toContainText('it tells nothing');
  await bench.press('Make a sheet for it');
  await expect(page.getByLabel('Name of a new sheet')).toBeVisible();
});

test('the rate is changed at both ends, and a break is the way back', async ({ bench }) => {
  const { page } = bench;
  await lineK1(bench);
  await page.getByLabel('rate, bit/s').fill('38400');
  await bench.press(/^Set both ends/);
  const work = page.getByTestId('link-work');
  await expect(work.getByText('the drive starts, and answers under the new settings')).toBeVisible();
  await expect(work.locator('li').last()).toContainText('✓');
  await bench.press('Read its link settings and identity');
  await expect(page.getByTestId('drive-bit-rate')).toContainText('38400');
  await bench.press(/^Send a break/);
  await page.getByLabel('rate, bit/s').fill('19200');
  await bench.press(/^Set this end only/);
  await bench.press(/^Ask 3/);
  await expect(proof(bench)).toContainText('✓ answered');
});

test('a restart that was asked for is no fault: what was not kept is told as lost', async ({ bench }) => {
  const { page } = bench;
  await lineK1(bench);
  await bench.stage('Frames');
  await page.getByRole('textbox', { name: 'Or paste bytes, any notation' }).fill('03 06 01 44 00 28 C9 DF');
  await page.getByRole('textbox', { name: 'Or paste bytes, any notation' }).press('Enter');
  await bench.press(/^Send to 3/);
  await expect(page.getByTestId('reply-outcome')).toHaveText('✓ answered');
  await bench.stage('Line');
  await bench.press(/^Restart 3/);
  await expect(page.getByText('read all settings again')).toBeVisible();
  const lost = page.getByRole('row', { name: /5.04 watchdog time was lost/ });
  await expect(lost).toContainText('4 s → 3.2 s');
});

test('a drive that is another than its sheet is told before anything is written', async ({ bench }) => {
  const { page } = bench;
  await page
    .getByRole('button', { name: /7 · infeed chain/ })
    .first()
    .click();
  await lineK1(bench);
  await bench.press('Read its link settings and identity');
  await expect(page.getByTestId('identity-warning')).toContainText('firmware is 139, the sheet was written for 141');
  await bench.stage('Frames');
  await expect(page.getByTestId('identity-warning')).toBeVisible();
});

test('the keypad card is ticked, and verified over the link', async ({ bench }) => {
  const { page } = bench;
  await lineK1(bench);
  await part(bench, 'Keypad card');
  await page.getByRole('checkbox', { name: /station number/ }).check();
  await bench.press('Verify over the link');
  await expect(page.locator('[data-step="5.01"]')).toContainText('✓ met');
  await expect(page.locator('[data-step="2.01"]')).toContainText('✗ the drive has keypad');
  await page.reload();
  await page.getByRole('tab', { name: 'Keypad card' }).click();
  await expect(page.getByRole('checkbox', { name: /station number/ })).toBeChecked();
});

test('a cable fault is found, drawn and mended', async ({ bench }) => {
  const { page } = bench;
  await bench.stage('Line');
  await part(bench, 'Cable');
  await expect(page.getByTestId('cable-verdict')).toHaveText('✓ this cable can be made');
  await page.getByLabel('core 1, kiln fan').selectOption('5');
  await page.getByLabel('core 2, kiln fan').selectOption('4');
  await expect(page.getByTestId('cable-verdict')).toContainText('✗ 2 wrong');
  await expect(page.getByTestId('cable-faults')).toContainText('the conductors of a pair are swapped (A and B)');
  await bench.press('Wire it right');
  await expect(page.getByTestId('cable-verdict')).toHaveText('✓ this cable can be made');
});

test('a TCP line to E1: opened, the device stopped, the line recovers', async ({ bench }) => {
  const { page } = bench;
  await bench.press('Open E1 stacker');
  await expect(page.getByRole('button', { name: 'Close E1 stacker' })).toBeVisible();
  await page.getByRole('button', { name: /1 · stacker lift/ }).click();
  await bench.stage('Line');
  await bench.press(/^Ask 1/);
  await expect(proof(bench)).toContainText('✓ answered');
  await expect(bench.drive()).toContainText('switch on disabled');
  await bench.stage('Job');
  await bench.press('is off');
  await expect(page.locator('header')).toContainText('lost, tried again by itself');
  await bench.stage('Line');
  await part(bench, 'Doctor');
  await expect(page.locator('[data-cause="far-closed"], [data-cause="tcp-refused"]').first()).toBeVisible();
  await bench.stage('Job');
  await bench.press('works');
  await expect(page.locator('header')).toContainText('exchanges/s');
  await bench.stage('Line');
  await part(bench, 'Both ends');
  await bench.press(/^Ask 1/);
  await expect(proof(bench)).toContainText('✓ answered');
});

test('unknown addresses and stations are found and taken into the job', async ({ bench }) => {
  const { page } = bench;
  await lineK1(bench);
  await part(bench, 'Sweeps');
  await page.getByLabel('to station').fill('8');
  await bench.press('Try 8 stations');
  await expect(page.getByTestId('stations-found')).toContainText('✓ 3');
  await expect(page.getByTestId('stations-found')).toContainText('✓ 7');
  const yard = (await (await page.request.get('/api/yard')).json()) as readonly { name: string; port: number }[];
  const port = yard.find(({ name }) => name === 'E1')?.port ?? 0;
  await page.getByLabel('hosts: subnet or range').fill('127.0.0.1-127.0.0.2');
  await page.getByLabel('TCP port', { exact: true }).fill(String(port));
  await bench.press('Try 2 addresses');
  await bench.press(`Make 127.0.0.1 port ${port} a line`);
  await expect(page.getByRole('heading', { name: 'found 127.0.0.1' })).toBeVisible();
});

test('the old debarker’s menu: woken, read, edited, a risky page opened, a listing out and in', async ({ bench }) => {
  const { page } = bench;
  await bench.press('Open D1 debarker');
  await page.getByRole('button', { name: /1 · old debarker/ }).click();
  await bench.stage('Line');
  await part(bench, 'Terminal');
  const screen = page.getByTestId('terminal');
  const type = async (text: string): Promise<void> => {
    await screen.click();
    await page.keyboard.type(text);
  };
  await type('?\r');
  await expect(screen).toContainText('DEBARKER DRUM DRIVE');
  await type('ru\r');
  await expect(screen).toContainText('drum speed wanted');
  await type('sp=200\r');
  await expect(screen).toContainText('sp = 200 set');
  await type('-\rlist\r');
  await expect(screen).toContainText('ru.sp=200');
  await type('load\r');
  await expect(screen).toContainText('send the listing');
  await page.getByLabel('Listing', { exact: true }).fill('ru.sp=150\nru.up=80\n.');
  await page.getByLabel('pause after each line, ms').fill('60');
  await bench.press('Send 3 lines');
  await expect(screen).toContainText('2 settings taken');
  await bench.press('Show hex');
  await expect(page.getByLabel('Bytes of this line')).toContainText('72 75 2E 73 70');
});

test('bad input is named at its field, and nothing typed is lost', async ({ bench }) => {
  const { page } = bench;
  await bench.stage('Line');
  await page.getByLabel('rate, bit/s').fill('0');
  await expect(page.getByText('“0” is no rate: 50 to 4000000 bit/s')).toBeVisible();
  await bench.press('Set up the line');
  const station = page.getByLabel('new station');
  const add = page.getByRole('button', { name: 'Add the station' });
  await station.fill('248');
  await expect(station).toHaveAccessibleDescription('“248”: 1 to 247 are stations');
  await expect(add).toBeDisabled();
  await expect(add).toHaveAccessibleDescription('“248”: 1 to 247 are stations');
  await station.fill('0');
  await expect(station).toHaveAccessibleDescription(/station 0 is everyone at once/);
  await part(bench, 'Addresses');
  await page.getByLabel('address', { exact: true }).first().fill('300.1.2.3');
  await expect(page.getByText(/“300”, part 1 of the address, is not 0 to 255/).first()).toBeVisible();
  await page.getByLabel('prefix or mask').nth(1).fill('/33');
  await expect(page.getByText('/33: a prefix has 0 to 32 bits').first()).toBeVisible();
  await part(bench, 'Cable');
  await page.getByLabel('length, m').fill('-4');
  await expect(page.getByText('“-4”: 0 to 10000')).toBeVisible();
  await part(bench, 'Both ends');
  await expect(page.getByLabel('new station')).toBeHidden();
  await expect(page.getByLabel('rate, bit/s')).toHaveValue('0');
});

test('a restart over TCP ends the connection, which is no fault: the lift is found again and read', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.press('Open E1 stacker');
  await page.getByRole('button', { name: /1 · stacker lift/ }).click();
  await bench.stage('Line');
  await bench.press(/^Restart 1/);
  const work = page.getByTestId('link-work');
  await expect(work).toContainText('the drive is asked to restart');
  await expect(work.getByText('read all settings again')).toBeVisible();
  await expect(work.locator('li').last()).toContainText('✓');
  await expect(page.getByText('No setting is another than before.')).toBeVisible();
});

test('a station is renamed, renumbered and given another sheet, each with a way back, and moved in its line', async ({
  bench,
  page,
}) => {
  await bench.openK1();
  await bench.stage('Line');
  await bench.press('Set up the line');
  const row = (name: string) => page.getByRole('group', { name, exact: true });
  await row('station 3 kiln fan').getByRole('textbox', { name: 'station' }).fill('300');
  await expect(page.getByText('1 to 247 are stations').first()).toBeVisible();
  await row('station 3 kiln fan').getByRole('textbox', { name: 'station' }).fill('33');
  await row('station 3 kiln fan').getByRole('textbox', { name: 'name' }).fill('flue fan');
  await bench.press('Change 3');
  await expect(row('station 33 flue fan')).toBeVisible();
  await expect(bench.drive()).toContainText('33 · flue fan');
  await page.getByTestId('job-changed').getByRole('button', { name: 'Undo' }).click();
  await expect(row('station 3 kiln fan').getByRole('textbox', { name: 'name' })).toHaveValue('kiln fan');
  await row('station 3 kiln fan').getByLabel('sheet').selectOption('');
  await bench.press('Change 3');
  await bench.stage('Words');
  await expect(page.getByText(/no sheet says what the words/)).toBeVisible();
  await bench.stage('Line');
  await page.getByTestId('job-changed').getByRole('button', { name: 'Undo' }).click();
  await bench.stage('Words');
  await expect(page.getByLabel('type a word, any base')).toBeVisible();
  await bench.stage('Line');
  await bench.press('Set up the line');
  await page.getByRole('button', { name: 'station 3 down' }).click();
  await expect(page.getByRole('group', { name: /^station / }).nth(1)).toHaveAccessibleName('station 3 kiln fan');
});
