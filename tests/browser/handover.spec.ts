import { execFileSync, spawnSync } from 'node:child_process';
import { readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import type { Page } from '@playwright/test';
import { axeFaults } from '../harness/axe';
import { expect, test } from './bench';

/** Poppler's tools from Debian: `.ci/run` installs and demands them; elsewhere the printed text is not looked at where they are missing. */
const READS_PDF = spawnSync('pdftotext', ['-v']).status === 0 || process.env.BUJO_NEED_READER === '1';

/** A picture as a file, drawn by the browser. */
async function pictureOf(page: Page, width: number, height: number): Promise<Buffer> {
  const address = await page.evaluate(
    ([w, h]) => {
      const canvas = Object.assign(document.createElement('canvas'), { width: w, height: h });
      const pen = canvas.getContext('2d');
      pen?.fillText('1.5 kW  1385 rpm', 40, 40);
      return canvas.toDataURL('image/png');
    },
    [width, height] as const,
  );
  return Buffer.from(address.slice(address.indexOf(',') + 1), 'base64');
}

test('the record of a visit: written by itself, closed, saved as a page that needs nothing, printed, and opened again', async ({
  bench,
  page,
  browser,
}, info) => {
  await bench.openK1();
  await bench.stage('Words');
  await bench.press('Read once');
  await page.keyboard.press('Control+.');
  await expect(bench.stopReport()).toContainText('✓ stopped');
  await bench.stage('Handover');
  await page.getByLabel('By', { exact: true }).fill('E. Moss');
  await page.getByRole('button', { name: 'Before leaving', exact: true }).click();
  await page.getByRole('checkbox', { name: /covers are closed/ }).click();
  await expect(page.getByRole('row', { name: /covers are closed, nothing is bridged E\. Moss, / })).toBeVisible();
  await expect(page.getByRole('row', { name: /it found out that the shaft stands stopped, / })).toContainText('✓ seen');
  // A photograph from a camera: larger than what is kept, and of a drive.
  await page.getByRole('button', { name: 'Photographs', exact: true }).click();
  await page.getByLabel('Of what').selectOption({ label: 'K1 kiln, 3 · kiln fan' });
  const chooser = page.getByLabel('photograph of K1 kiln, 3 · kiln fan');
  await chooser.setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('no picture') });
  await expect(page.getByText('notes.txt is no picture that this browser reads')).toBeVisible();
  await chooser.setInputFiles({ name: 'plate.png', mimeType: 'image/png', buffer: await pictureOf(page, 3200, 2400) });
  const shows = page.getByLabel('What photograph 1 shows');
  await shows.fill('its plate');
  const inRecord = page.getByRole('img', { name: 'photograph: K1 kiln, 3 · kiln fan: its plate' });
  await expect(inRecord).toHaveJSProperty('naturalWidth', 1600);
  await expect(inRecord).toHaveJSProperty('naturalHeight', 1200);
  await bench.press('Take photograph 1 away');
  await expect(inRecord).toBeHidden();
  await bench.press('Put it back');
  await expect(inRecord).toBeVisible();
  await page.reload();
  await bench.stage('Handover');
  await page.getByRole('button', { name: 'Photographs', exact: true }).click();
  await expect(inRecord).toBeVisible();
  // What is not wanted in it is left out; so is what would only make it long here.
  for (const name of ['Words and places', 'Scaling', 'At the drives’ keys'])
    await page.getByRole('checkbox', { name: `${name}: in the record` }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'Scaling' }).getByText('left out')).toBeVisible();
  await bench.press('Close the record');
  await expect(page.getByRole('heading', { name: /^The record, closed/ })).toBeVisible();

  const saving = page.waitForEvent('download');
  await bench.press('Save as one page');
  const download = await saving;
  expect(download.suggestedFilename()).toMatch(/^alder-ford-\d{4}-\d\d-\d\d-[0-9a-f]{12}\.html$/);
  const file = info.outputPath('record.html');
  await writeFile(file, await readFile(await download.path()));

  // Somebody else's computer: no network, no scripts.
  const elsewhere = await browser.newContext({ offline: true, javaScriptEnabled: false });
  const reader = await elsewhere.newPage();
  const asked: string[] = [];
  reader.on('request', (request) => asked.push(request.url()));
  const address = pathToFileURL(file).href;
  await reader.goto(address);
  await expect(reader.getByRole('heading', { name: 'Alder Ford', level: 1 })).toBeVisible();
  await expect(reader.getByRole('row', { name: /covers are closed, nothing is bridged E\. Moss/ })).toBeVisible();
  await expect(reader.getByRole('img', { name: /its plate$/ })).toHaveJSProperty('naturalWidth', 1600);
  expect(asked.filter((url) => url !== address && !url.startsWith('data:'))).toEqual([]);
  await elsewhere.close();

  const looked = await browser.newContext();
  const paper = await looked.newPage();
  await paper.goto(address);
  expect(await axeFaults(paper)).toEqual([]);
  // Both fonts came with it.
  expect(
    await paper.evaluate(async () => (await document.fonts.ready, [...document.fonts].map(({ status }) => status))),
  ).toEqual(expect.arrayContaining(['loaded']));
  const pdf = info.outputPath('record.pdf');
  await writeFile(pdf, await paper.pdf({ preferCSSPageSize: true }));
  await looked.close();
  if (READS_PDF) {
    const text = execFileSync('pdftotext', ['-layout', pdf, '-']).toString();
    expect(text).toContain('What is not proved, and what is left open');
    expect(text).toContain('covers are closed, nothing is bridged');
    const pages = Number(/Pages:\s+(\d+)/.exec(execFileSync('pdfinfo', [pdf]).toString())?.[1]);
    expect(pages).toBeGreaterThan(3);
    expect(text).toMatch(new RegExp(`\\b2 ?/ ?${pages}\\b`));
    expect(execFileSync('pdfinfo', [pdf]).toString()).toMatch(/Page size:\s+59[45]\.\d+ x 84[12]/);
  }

  // The bench opens the page again: it is the record that is closed already.
  await page.getByLabel('A record: page, JSON or archive').setInputFiles(file);
  await expect(page.getByText(`${path.basename(file)}: the record of Alder Ford`)).toBeVisible();
  await page.reload();
  await expect(page.getByRole('button', { name: /^Look at the record of/ })).toHaveCount(2);
});
