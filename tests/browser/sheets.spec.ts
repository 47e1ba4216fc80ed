import { readFileSync } from 'node:fs';
import { expect, test } from './bench';
import { MANUAL_ENTRIES, printManual, scanManual } from './printed-manual';

/** The demo's flap drive: the bench has no sheet of it, only its manual's pages. */
const MANUAL = readFileSync('demo/redshank-manual.txt', 'utf8');

test('a drive with a manual and no sheet: from a pasted table to a proved sheet, a running shaft, a scaled reference, Stop', async ({
  bench,
  page,
}) => {
  await bench.stage('Sheets');
  await page.getByLabel('Name of a new sheet').fill('Air flap');
  await bench.press('Start it');
  await page.getByRole('tab', { name: 'From a table' }).click();
  await page.getByLabel('rows of the manual’s table, with their headings').fill(MANUAL);
  const found = page.getByRole('table', { name: 'Entries as they would be taken' });
  await expect(found.getByRole('row')).toHaveCount(18);
  await expect(found.getByRole('row', { name: /^216 Flap home/ })).toContainText('int32 CDAB');
  await expect(page.getByText(/from the text around it:.*low word first/)).toBeVisible();
  await bench.press('Take 17 entries into Air flap');
  await expect(page.getByRole('listbox', { name: 'Entries' }).getByRole('option')).toHaveCount(17);

  // Its name did not say what this is.
  await page.getByRole('option', { name: /^22 Speed seen/ }).click();
  await page.getByLabel('Role', { exact: true }).selectOption('actual-speed');

  // The bits of both words, and how it is stopped.
  await page.getByRole('tab', { name: 'Words and Stop' }).click();
  await bench.press('Take the 4 bits that the entry of the control word names');
  await bench.press('Take the 6 bits that the entry of the status word names');
  await bench.press(/^Take 0x0100, by the roles of the bits/);
  await bench.press('Keep as revision 1');
  await expect(page.getByText('revision 1, as it is kept')).toBeVisible();

  await bench.stage('Job');
  await page.getByRole('button', { name: 'Open G1 flap' }).click();
  await page.getByRole('button', { name: /^21 · air flap/ }).click();
  await bench.hurry();
  await bench.stage('Sheets');
  await bench.press('Use it at 21 · air flap');
  await expect(page.getByText('21 · air flap uses it')).toBeVisible();
  // The new plan closed the line.
  await bench.stage('Job');
  await page.getByRole('button', { name: 'Open G1 flap' }).click();
  await bench.stage('Sheets');

  // Proved: off by one would show a neighbour of the rated voltage.
  await page.getByRole('tab', { name: 'Entries' }).click();
  await page.getByRole('option', { name: /^30 Rated voltage/ }).click();
  await bench.press('Read it from 21 · air flap');
  await expect(page.getByTestId('read-value')).toContainText('400 V');
  await page.getByLabel('What the display shows').fill('400');
  await bench.press('They agree: proved');
  await expect(page.getByRole('option', { name: /^30 Rated voltage ✓ proved/ })).toBeVisible();
  await page.getByRole('option', { name: /^216 Flap home/ }).click();
  await bench.press('Read it from 21 · air flap');
  await expect(page.getByTestId('read-value')).toContainText('−18.5 mm');
  await bench.press('Keep as revision 2');

  await bench.stage('Words');
  await page.getByLabel('wanted, Hz').fill('12.5');
  await expect(page.getByTestId('working')).toContainText('0x41480000');
  await page.getByLabel('wanted, Hz').press('Enter');
  await page.getByLabel('type a word, any base').fill('0x0102');
  await bench.press('Watch');
  await page.keyboard.press('Control+Enter');
  await expect(bench.drive()).toContainText('running');
  await expect(bench.drive()).toContainText('12.5 Hz');
  await page.keyboard.press('Control+.');
  await expect(bench.stopReport()).toContainText('stands');
});

test('a shipped sheet is copied, a description file is taken into it and taken back, and what differs is shown', async ({
  bench,
  page,
}) => {
  await bench.stage('Sheets');
  await bench.press('Copy Tern to change it');
  await page.getByRole('tab', { name: 'About' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Bare fan');
  await page.getByRole('tab', { name: 'From a file' }).click();
  await page.getByLabel('Description file').setInputFiles('sheets/descriptions/rook.eds');
  await expect(page.getByText('Rook conveyor drive')).toBeVisible();
  await bench.press('Take 12 entries into Bare fan');
  await expect(page.getByRole('listbox', { name: 'Entries' })).toBeVisible();
  await bench.press('Undo');
  await page.getByRole('tab', { name: 'Revisions' }).click();
  await expect(page.getByRole('table', { name: 'Differences' })).toContainText('Bare fan');
});

test('a drive of which two addresses are known is commanded at once, and its other registers are found at it', async ({
  bench,
  page,
}) => {
  await page.getByRole('button', { name: 'Open G1 flap' }).click();
  await page.getByRole('button', { name: /^21 · air flap/ }).click();
  await bench.stage('Words');
  await page.getByLabel('Control word at').fill('200');
  await page.getByLabel('Status word at').fill('3:21');
  await bench.press('Begin the sheet and use it at 21 · air flap');
  await bench.press('Open line G1 flap');
  // Any word but 0 may turn it while no bit is known as the one that runs it, and nothing stops it.
  await page.getByLabel('type a word, any base').fill('0x0100');
  const send = page.getByRole('button', { name: /^Send 0x0100/ });
  await expect(send).toBeDisabled();
  await bench.press('I can stop it another way');
  await send.click();
  await expect(page.getByTestId('word-outcome')).toContainText('answered');

  await bench.stage('Sheets');
  await bench.press('Open 21 · air flap, begun here');
  await page.getByRole('tab', { name: 'From the drive' }).click();
  await page.getByLabel('From', { exact: true }).fill('198');
  await page.getByLabel('To', { exact: true }).fill('205');
  await page.getByRole('button', { name: 'Look', exact: true }).click();
  await expect(page.getByText('8 of 8 known, 5 there')).toBeVisible();
  const found = page.getByRole('table', { name: 'Registers that were found' });
  await expect(found.getByRole('row', { name: /^200/ })).toContainText('256 = 0x0100');
  await found.getByRole('row', { name: /^202/ }).getByRole('button').click();
  await expect(page.getByRole('option', { name: /^202 register 202/ })).toBeVisible();

  // Stop finds out that it cannot; what a person saw lets the sheet be changed again.
  await bench.press('Keep as revision 2');
  await expect(page.getByText('a drive of this line is in motion')).toBeVisible();
  await page.keyboard.press('Control+.');
  await expect(bench.stopReport()).toContainText('no sheet says how');
  await bench.press('I see the shaft of 21 · air flap stand');
  await bench.press('Use it at 21 · air flap');
  await expect(page.getByText('21 · air flap uses it')).toBeVisible();
});

test('a manual as PDF: found by a word, a table framed over its pages, and each entry shows the piece of the page that it is from', async ({
  bench,
  page,
  browser,
}) => {
  await bench.stage('Sheets');
  await page.getByLabel('Name of a new sheet').fill('Sump pump');
  await bench.press('Start it');
  await page.getByRole('tab', { name: 'From the manual' }).click();
  const open = (name: string, buffer: Buffer) =>
    page.getByLabel('Manual file').setInputFiles({ name, mimeType: 'application/pdf', buffer });
  await open('torn.pdf', Buffer.from('%PDF-1.7 and nothing behind it'));
  await expect(page.getByText(/^torn\.pdf is no PDF that can be read/)).toBeVisible();
  await open('scanned.pdf', await scanManual(browser));
  await expect(page.getByText(/no text, only a picture: it was scanned/)).toBeVisible();

  await open('pump.pdf', await printManual(browser));
  await expect(page.getByText('4 pages')).toBeVisible();
  await page.getByLabel('Find in the manual').fill('source of command');
  await bench.press('Next page with it');
  await expect(page.getByLabel('Page, of 4')).toHaveValue('2');
  const paper = page.getByTestId('page-overlay');
  const { x, y, width, height } = (await paper.boundingBox()) ?? { x: 0, y: 0, width: 0, height: 0 };
  // The frame begins under the page's title; the pages behind it are taken from their top.
  await page.mouse.move(x + 0.05 * width, y + 0.1 * height);
  await page.mouse.down();
  await page.mouse.move(x + 0.95 * width, y + 0.94 * height, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByText('as framed')).toBeVisible();
  await page.getByLabel('It goes on to page').fill('4');
  await bench.press(`Take ${MANUAL_ENTRIES} entries into Sump pump`);

  const entries = page.getByRole('listbox', { name: 'Entries' });
  await expect(entries.getByRole('option')).not.toHaveCount(0);
  await page.getByRole('option', { name: /^300 Level limit 0/ }).click();
  await expect(page.getByText('from the manual: pump.pdf, page 2')).toBeVisible();
  await page.getByLabel('Find by number, name or role').fill('channel 68');
  await page.getByRole('option', { name: /Seconds that the pump may stand before it is turned, channel 68/ }).click();
  await expect(page.getByText('from the manual: pump.pdf, page 4')).toBeVisible();
  await bench.press('Keep as revision 1');
  await expect(page.getByText('revision 1, as it is kept')).toBeVisible();

  // The manual is kept with the sheet: after a reload the piece is still there.
  await page.reload();
  await bench.press('Open Sump pump');
  await page.getByRole('tab', { name: 'Entries' }).click();
  await bench.press('Show it on the page');
  await expect(
    page.getByRole('img', { name: 'The piece of page 2 of pump.pdf that this entry is from' }),
  ).toBeVisible();
});
