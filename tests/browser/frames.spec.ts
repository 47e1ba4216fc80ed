import { readFile } from 'node:fs/promises';
import { concatBytes } from '../../src/core/bytes/concat';
import { seededRandom } from '../../src/core/random/random';
import { exchangeOf } from '../harness/streams';
import { expect, test, type BenchPage } from './bench';

/** Chooses a station of the demo in Job and goes to Frames. */
async function at(bench: BenchPage, station: string): Promise<void> {
  await bench.page.getByRole('button', { name: new RegExp(station) }).click();
  await bench.stage('Frames');
}

test('bytes pasted in eight notations are the same request', async ({ bench, page }) => {
  await bench.stage('Frames');
  const request = page.getByRole('group', { name: 'Request' });
  const paste = page.getByLabel('Or paste bytes, any notation');
  const wanted = ['03', '06', '02', 'C3', '0F', '45', 'BD', 'AF'];
  const notations = [
    '03 06 02 C3 0F 45 BD AF',
    '030602C30F45BDAF',
    '0x03,0x06,0x02,0xC3,0x0F,0x45,0xBD,0xAF',
    '03h 06h 02h C3h 0Fh 45h BDh AFh',
    '3 6 2 195 15 69 189 175',
    'uint8_t frame[] = { 0x03, 0x06, 0x02, 0xc3, 0x0f, 0x45, 0xbd, 0xaf };',
    '"\\x03\\x06\\x02\\xC3\\x0FE\\xBD\\xAF"',
    '03-06-02-C3-0F-45-BD-AF',
  ];
  for (const text of notations) {
    await request.locator('[data-at="0"]').click();
    await page.keyboard.type('FF');
    await paste.fill(text);
    await paste.press('Enter');
    await expect(request.locator('[data-at]')).toHaveText(wanted);
    await expect(page.locator('[data-code]')).toHaveCount(0);
  }
  await paste.fill('03 06 0G');
  await expect(page.getByText(/character 8/)).toBeVisible();
});

test('a selection gives its value in every type, and bytes are shown in other bases', async ({ bench, page }) => {
  await bench.stage('Frames');
  const request = page.getByRole('group', { name: 'Request' });
  await request.locator('[data-at="2"]').click();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByText('2 bytes selected')).toBeVisible();
  await expect(page.getByText('uint16 AB 386')).toBeVisible();
  await expect(page.getByText('uint16 BA 33281')).toBeVisible();
  await page.getByRole('group', { name: 'Bytes shown as' }).first().getByRole('button', { name: 'decimal' }).click();
  await expect(request.locator('[data-at="3"]')).toHaveText('130');
});

test('every function has its form: a mask write by fields', async ({ bench, page }) => {
  await bench.stage('Frames');
  await page.getByLabel('What to ask').click();
  await page.getByRole('option', { name: '22 (16h) Mask write register' }).click();
  await page.getByLabel('AND mask', { exact: true }).fill('0xF2');
  await page.getByLabel('OR mask', { exact: true }).fill('0x25');
  const request = page.getByRole('group', { name: 'Request' });
  await expect(request.locator('[data-at]').nth(5)).toHaveText('F2');
  await expect(request.locator('[data-at]').nth(7)).toHaveText('25');
  await expect(page.getByText('the same bytes back')).toBeVisible();
});

test('USS: a parameter is read, a write beyond its limits is refused with its text', async ({ bench, page }) => {
  await at(bench, 'vent hoist');
  await bench.press(/^Open line/);
  await bench.press(/^Send to 4/);
  await expect(page.getByTestId('reply-sentence')).toContainText('word, parameter 12 type code: 4471');
  await page.getByLabel('What to do').selectOption('working');
  await page.getByRole('combobox', { name: 'Parameter' }).fill('120');
  await page.getByLabel('Value, s').fill('600.1');
  await expect(page.getByText('a refusal: the value is outside its limits')).toBeVisible();
  await bench.press(/^Send to 4/);
  await expect(page.getByTestId('reply-sentence')).toContainText(
    'parameter 120 ramp-up time refused: the value is outside its limits',
  );
  await expect(bench.trace()).toContainText('parameter 120 ramp-up time refused');
});

test('ASCII: the fence axis is moved by its own commands and stopped', async ({ bench, page }) => {
  await at(bench, 'fence axis');
  await bench.press(/^Open line/);
  const line = page.getByLabel('Or the line itself');
  for (const [text, answer] of [
    ['05.mod=4', 'confirmed'],
    ['05.tgt=57344000', 'confirmed'],
    ['05.goa!', 'confirmed'],
    ['05.mot?', 'motion word 33'],
    ['05.spd=1', 'refused, error 3: the value is outside its limits'],
  ] as const) {
    await line.fill(text);
    await bench.press(/^Send to 5/);
    await expect(page.getByTestId('reply-sentence')).toContainText(answer);
  }
  await page.keyboard.press('Control+.');
  await expect(bench.stopReport()).toContainText('5 · fence axis: ✓ stopped');
});

test('a dialect made from nothing is used: a sample says where it stops, the drive answers by it', async ({
  bench,
  page,
}) => {
  await at(bench, 'fence axis');
  await page.getByRole('tab', { name: 'Dialect' }).click();
  await page.getByLabel('Begin anew from').selectOption('pipit');
  await page.getByLabel('Begin anew from').selectOption('');
  await page.getByLabel('Name', { exact: true }).fill('Sawmill words');
  await page.getByLabel('Closing').fill('<CR><LF>');
  await page.getByLabel('Verb', { exact: true }).fill('RATE');
  await page.getByLabel('Least', { exact: true }).pressSequentially('-1');
  await expect(page.getByLabel('Least', { exact: true })).toHaveValue('-1');
  await page.getByLabel('Least', { exact: true }).fill('1');
  await page.getByLabel('Most', { exact: true }).fill('500');
  const samples = page.getByLabel('Sample lines, one a row');
  await samples.fill('RATE=250\nRATE=900\nRITE?');
  const read = page.getByRole('list', { name: 'How the samples are read' });
  await expect(read).toContainText('request: write speed ← 250');
  await expect(read).toContainText('stops at character 6: speed 900: 1 to 500 are allowed');
  await expect(read).toContainText('stops at character 1: “RITE” is no verb of this dialect');
  await bench.press('Keep and use it here');
  await expect(page.getByText('station 5 of S1 saw speaks it now')).toBeVisible();
  await page.getByRole('tab', { name: 'Compose' }).click();
  await bench.press(/^Open line/);
  const line = page.getByLabel('Or the line itself');
  await line.fill('RATE=250');
  await bench.press(/^Send to 5/);
  await expect(page.getByTestId('reply-sentence')).toContainText('confirmed');
  await line.fill('RATE?');
  await bench.press(/^Send to 5/);
  await expect(page.getByTestId('reply-sentence')).toContainText('speed 250');
});

test('a dialect’s numbers get names, a read names an index, and every step goes back', async ({ bench, page }) => {
  await at(bench, 'fence axis');
  await page.getByRole('tab', { name: 'Dialect' }).click();
  await page.getByLabel('Begin anew from').selectOption('');
  await page.getByLabel('Closing').fill('<CR>');
  await bench.press('Name a number of speed');
  await page.getByLabel('Means', { exact: true }).fill('creep');
  await bench.press('Add what a read of SPD names');
  const samples = page.getByLabel('Sample lines, one a row');
  await samples.fill('SPD=0\nSPD?3\nSPD?');
  const read = page.getByRole('list', { name: 'How the samples are read' });
  await expect(read).toContainText('request: write speed ← 0 = creep');
  await expect(read).toContainText('request: read speed 3');
  await expect(read).toContainText('stops at character 5: index: a number is missing');
  const width = page.getByLabel('Digits', { exact: true }).last();
  await width.fill('2');
  await expect(read).toContainText('stops at character 5: index: 2 digits are wanted, 1 are there');
  // The letters of one field are one step back; a removed command comes back with all that it had.
  await page.keyboard.press('Control+z');
  await expect(read).toContainText('request: read speed 3');
  await bench.press('Remove SPD');
  await expect(page.getByLabel('Means', { exact: true })).toHaveCount(0);
  await bench.press('Undo');
  await expect(page.getByLabel('Means', { exact: true })).toHaveValue('creep');
  await bench.press('Redo');
  await expect(page.getByText(/^commands: /)).toBeVisible();
});

test('a capture is opened, filtered, exported and opened again', async ({ bench, page }) => {
  const random = seededRandom(12);
  const frames = Array.from({ length: 3000 }, () => concatBytes(...exchangeOf(random)));
  await bench.stage('Frames');
  await page.getByRole('tab', { name: 'Capture' }).click();
  const file = page.getByLabel('Capture file');
  await file.setInputFiles({
    name: 'night.bin',
    mimeType: 'application/octet-stream',
    buffer: Buffer.from(concatBytes(...frames)),
  });
  const found = page.getByTestId('capture-found');
  await expect(found).toHaveText('6000 entries of 6000');
  const list = page.getByRole('list', { name: 'Frames of the capture' });
  expect(await list.getByRole('listitem').count()).toBeLessThanOrEqual(80);
  await page.getByLabel('Function', { exact: true }).fill('6');
  await expect(found).not.toHaveText('6000 entries of 6000');
  const count = parseInt((await found.textContent()) ?? '', 10);
  expect(count).toBeGreaterThan(400);
  await page.getByLabel('Words or bytes').fill('register 1');
  await expect(found).not.toContainText(`${count} entries`);
  await page.getByLabel('Words or bytes').fill('');
  await expect(found).toHaveText(`${count} entries of 6000`);
  await list.getByRole('button').first().click();
  await expect(page.getByRole('group', { name: /^Entry / })).toContainText('write one register');
  // It stays open, filtered, while other parts are looked at.
  await page.getByRole('tab', { name: 'Unknown bytes' }).click();
  await bench.stage('Words');
  await bench.stage('Frames');
  await page.getByRole('tab', { name: 'Capture' }).click();
  await expect(found).toHaveText(`${count} entries of 6000`);
  await expect(page.getByLabel('Function', { exact: true })).toHaveValue('6');
  const saving = page.waitForEvent('download');
  await bench.press('Export pcapng');
  const saved = await (await saving).path();
  await file.setInputFiles({
    name: 'again.pcapng',
    mimeType: 'application/octet-stream',
    buffer: await readFile(saved),
  });
  await expect(found).toHaveText(`${count} entries of ${count}`);
  await expect(list.getByRole('button').first()).toContainText('write register');
});

test('unknown bytes are ranked, with what speaks against each', async ({ bench, page }) => {
  await bench.stage('Frames');
  await page.getByRole('tab', { name: 'Unknown bytes' }).click();
  await page.getByLabel('Bytes of unknown origin').fill('03 06 02C3 0F45 BDAF');
  await expect(page.getByText('the CRC agrees; by chance 1 in 65,536 does')).toBeVisible();
  await bench.press('Read in Compose');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('write 11.03 speed reference');
});

test('frames are kept, moved by the keyboard, sent as a list, exported and imported', async ({ bench, page }) => {
  await bench.openK1();
  await bench.stage('Frames');
  const name = page.getByLabel('Name to keep it under');
  for (const one of ['status', 'status again']) {
    await name.fill(one);
    await bench.press('Keep in the job');
  }
  await page.getByRole('tab', { name: 'Kept frames' }).click();
  const kept = page.getByRole('list', { name: 'Kept frames' });
  await expect(kept.getByLabel('Name', { exact: true })).toHaveCount(2);
  await page.getByRole('button', { name: 'Move status again', exact: true }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText(/^Draggable item/)).toBeAttached();
  // The list is measured after the frame was picked up; a key before that moves nothing. The first makes room when it does.
  await expect(async () => {
    await page.keyboard.press('ArrowUp');
    await expect(kept.getByRole('listitem').first()).toHaveAttribute('style', /translate3d\(0(px)?, [1-9]/, {
      timeout: 1000,
    });
  }).toPass();
  await page.keyboard.press('Space');
  await expect(kept.getByRole('listitem').first()).toHaveAccessibleName('status again');
  await bench.press(/^Send 2 frames/);
  await expect(page.getByText('2 frames: 2 sent, 2 answered, ended')).toBeVisible();
  const saving = page.waitForEvent('download');
  await bench.press('Export');
  const saved = await (await saving).path();
  await page
    .getByLabel('File of frames')
    .setInputFiles({ name: 'f.json', mimeType: 'application/json', buffer: await readFile(saved) });
  // What is here already is asked about; a removed one comes back.
  await bench.press('Keep both');
  await expect(kept.getByLabel('Name', { exact: true })).toHaveCount(4);
  await bench.press('Undo');
  await expect(kept.getByLabel('Name', { exact: true })).toHaveCount(2);
  await page.getByRole('button', { name: 'Remove status again' }).click();
  await expect(kept.getByLabel('Name', { exact: true })).toHaveCount(1);
  await bench.press('Undo');
  await expect(kept.getByRole('listitem').first()).toHaveAccessibleName('status again');
  await page
    .getByLabel('File of frames')
    .setInputFiles({ name: 'bad.json', mimeType: 'application/json', buffer: Buffer.from('{"format":1}') });
  await expect(page.getByText(/bad.json was not taken: kind/)).toBeVisible();
});

test('a sweep by mirror telegrams finds the hoist among stations 0 to 31', async ({ bench, page }) => {
  await page.getByRole('button', { name: /vent hoist/ }).click();
  await bench.hurry();
  await bench.stage('Line');
  await bench.press('Open K2 vents');
  await page.getByRole('tab', { name: 'Sweeps' }).click();
  await expect(page.getByText(/a mirror telegram to each/)).toBeVisible();
  await bench.press('Try 32 stations');
  await expect(page.getByTestId('stations-found')).toContainText('✓ 4 vent hoist');
});
