import { readFile } from 'node:fs/promises';
import type { Download } from '@playwright/test';
import { BenchPage, expect, test } from './bench';
import { test as plain } from './told-again';

const textOf = async (download: Download): Promise<string> => readFile(await download.path(), 'utf8');

async function taken(bench: BenchPage, press: () => Promise<void>): Promise<Download> {
  const [download] = await Promise.all([bench.page.waitForEvent('download'), press()]);
  return download;
}

const give = (bench: BenchPage, name: string, text: string) =>
  bench.page.getByLabel('Job file').setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });

test('jobs are made, renamed, copied, opened and deleted, and a deletion can be taken back', async ({
  bench,
  page,
}) => {
  const row = (name: string) => page.getByRole('listitem', { name, exact: true });
  await bench.press('New job …');
  await page.getByLabel('Name of a new job').fill('Zinc Lane');
  await bench.press('Make it');
  await row('Zinc Lane').getByRole('button', { name: 'Rename' }).click();
  await page.getByLabel('New name').fill('Tin Lane');
  await page.getByLabel('New name').press('Enter');
  await row('Alder Ford').getByRole('button', { name: 'Copy' }).click();
  await expect(row('Alder Ford, copy')).toContainText('8 lines');
  await row('Tin Lane').getByRole('button', { name: 'Delete' }).click();
  await expect(row('Tin Lane')).toHaveCount(0);
  await bench.press('Undo');
  await expect(row('Tin Lane')).toBeVisible();
  await row('Tin Lane').getByRole('button', { name: 'Open' }).click();
  await expect(page.getByRole('heading', { name: 'Tin Lane' })).toBeVisible();
  await expect(page.getByText('This job has no lines yet.')).toBeVisible();
  await row('Alder Ford, copy').getByRole('button', { name: 'Open' }).click();
  await expect(page.getByRole('heading', { name: 'Alder Ford, copy' })).toBeVisible();
  await bench.openK1();
});

test('a job goes out as a file and comes in again: a known one asks', async ({ bench, page }) => {
  const file = await taken(bench, () =>
    page.getByRole('listitem', { name: 'Alder Ford' }).getByRole('button', { name: 'Export' }).click(),
  );
  expect(file.suggestedFilename()).toBe('alder-ford.job.json');
  const text = await textOf(file);
  await give(bench, 'alder-ford.job.json', text);
  await expect(page.getByTestId('shelf-news')).toContainText('Alder Ford is here already.');
  await bench.press('Keep both');
  await expect(page.getByRole('listitem', { name: 'Alder Ford, imported' })).toContainText('8 lines');
  await give(bench, 'alder-ford.job.json', text.replace('"name": "Alder Ford"', '"name": "Elder Ford"'));
  await bench.press('Replace it with the file');
  // The open job is replaced: the page begins anew with it, and the next change is one of the file’s job.
  await expect(page.getByRole('heading', { name: 'Elder Ford' })).toBeVisible();
  await bench.press('Add a line');
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Elder Ford' })).toBeVisible();
  await expect(page.getByRole('listitem', { name: 'Elder Ford' })).toBeVisible();
  await expect(page.getByRole('listitem', { name: 'Alder Ford', exact: true })).toHaveCount(0);
});

test('two tabs of one job: nobody’s change is lost, and a deletion in one is taken back', async ({
  bench,
  page,
  context,
}) => {
  const other = await context.newPage();
  await other.goto('/');
  const second = new BenchPage(other);
  await expect(other.getByRole('group', { name: 'Line K1 kiln' })).toBeVisible();
  // Both change the same job, one after the other, and each shows both changes.
  await bench.press('Add a line');
  await expect(other.getByRole('group', { name: 'Line line 9' })).toBeVisible();
  await expect(other.getByTestId('job-changed')).toContainText('Another tab of this browser changed this job');
  await second.press('Add a line');
  await expect(page.getByRole('group', { name: 'Line line 10' })).toBeVisible();
  await page.getByRole('group', { name: 'Line line 10' }).getByRole('button', { name: 'Choose line 10' }).click();
  await bench.stage('Line');
  await bench.press('Set up the line');
  await bench.press('Delete line 10');
  await expect(other.getByRole('group', { name: 'Line line 10' })).toHaveCount(0);
  await expect(page.getByTestId('job-changed')).toContainText('Deleted line 10.');
  await page.getByTestId('job-changed').getByRole('button', { name: 'Undo' }).click();
  await expect(other.getByRole('group', { name: 'Line line 10' })).toBeVisible();
  await page.reload();
  await bench.stage('Job');
  await expect(page.getByRole('group', { name: 'Line line 9' })).toBeVisible();
  await expect(page.getByRole('group', { name: 'Line line 10' })).toBeVisible();
});

test('broken, foreign, truncated and oversized files: a sentence, and nothing is changed', async ({ bench, page }) => {
  const news = page.getByTestId('shelf-news');
  const cases: readonly (readonly [string, string, string])[] = [
    ['broken.json', '{"format": 1, ', 'this is no JSON file, or it is cut short'],
    ['foreign.json', '{"hello": "world"}', 'this is JSON, but no job file'],
    ['newer.json', '{"format": 7}', 'At format: format 7 is newer than this program'],
    [
      'station.json',
      '{"format":1,"id":"x","name":"n","lines":[{"id":"l","name":"L","medium":"m","protocol":"uss","far":"yard","stations":[{"id":"s","station":300,"name":"d"}]}]}',
      'At lines.0.stations.0.station',
    ],
    ['huge.json', `{"pad":"${'x'.repeat(33 * 1024 * 1024)}"}`, 'the file has 33 MB; such a file has 32 MB at most'],
  ];
  for (const [name, text, sentence] of cases) {
    await give(bench, name, text);
    await expect(news).toContainText(`${name} was not taken, and nothing was changed.`);
    await expect(news).toContainText(sentence);
  }
  await expect(page.getByRole('list', { name: 'Jobs' }).getByRole('listitem')).toHaveCount(1);
});

test('the trace goes out as CSV and as JSON Lines', async ({ bench, page }) => {
  await bench.openK1();
  await bench.stage('Frames');
  await bench.press(/^Send to 3/);
  await expect(page.getByTestId('reply-outcome')).toHaveText('✓ answered');
  await expect(page.getByTestId('trace-kept')).toHaveText('3 entries · kept');
  await bench.stage('Job');
  const csv = await textOf(await taken(bench, () => bench.press('Export the trace as CSV')));
  expect(csv.split('\r\n')[0]).toBe(
    'time,session,sequence,atUs,line,station,direction,hex,meaning,outcome,lineFaults,exchange,cause',
  );
  expect(csv).toContain('03 03 01 82 00 04 e4 3f');
  const rows = (await textOf(await taken(bench, () => bench.press('as JSON Lines')))).trim().split('\n');
  expect(rows).toHaveLength(3);
  expect(JSON.parse(rows[2] ?? '')).toMatchObject({
    line: 'K1 kiln',
    station: 3,
    direction: 'received',
    outcome: 'answered',
    cause: 'Frames',
  });
  await expect(page.getByTestId('shelf-news')).toContainText('Exported 3 entries of the trace.');
});

plain('storage that is full from the start is said, and work goes on', async ({ page, context, baseURL }) => {
  const devtools = await context.newCDPSession(page);
  // The browser asks for the quota once in a while only, so it must be small before the page is there.
  await devtools.send('Storage.overrideQuotaForOrigin', { origin: baseURL ?? '', quotaSize: 1 });
  await page.goto('/');
  const bench = new BenchPage(page);
  await bench.openK1();
  await bench.stage('Words');
  await bench.press('Watch');
  await expect(page.getByText('The trace cannot be kept just now')).toBeVisible();
  await expect(page.getByTestId('status-sentence')).toContainText('standing');
  await expect(page.getByTestId('trace-kept')).toContainText('not kept yet');
});

plain('storage that is refused is said, and the demo job is there all the same', async ({ page }) => {
  // Init scripts do not reach workers, so this is the page's own share of the storage.
  await page.addInitScript(() => Object.defineProperty(window, 'indexedDB', { get: () => undefined }));
  const bench = new BenchPage(page);
  await bench.start();
  await expect(page.getByRole('alert').filter({ hasText: 'storage could not be read' })).toBeVisible();
  await bench.openK1();
  await bench.press('New job …');
  await page.getByLabel('Name of a new job').fill('Zinc Lane');
  await bench.press('Make it');
  await expect(page.getByTestId('shelf-news')).toContainText('That could not be done, and nothing was changed');
});
