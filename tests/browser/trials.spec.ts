import { readFile } from 'node:fs/promises';
import { unzipSync } from 'fflate';
import { expect, test } from './bench';

test('loss of link on the fan: expected as a band, run on the line, measured; a reload in the middle of another is told truly', async ({
  bench,
  page,
}) => {
  await bench.commandFan();
  await bench.stage('Trials');
  await bench.press('Read once');
  await bench.press('Loss of link');
  await expect(page.getByText('the band is where the speed is expected')).toBeVisible();
  await bench.press('Run “Loss of link” on 3 · kiln fan');
  // On a computer that is held up for a third of a second, what it measured cannot be told apart from the limit, and it says so.
  const came = page.getByRole('heading', { name: /^What came: (?:✓ passed|\? cannot be told)/ });
  await expect(came).toBeVisible({ timeout: 40_000 });
  const measured = page.getByRole('table', { name: 'What was measured' });
  // The sheet's watch is 3.2 s; a real clock and a loaded computer may add to what is seen, never to what is said to be known.
  await expect(
    measured.getByRole('row', { name: /^from the last word to the fault 3\.\d\d s, known to ±/ }),
  ).toBeVisible();
  await expect(page.getByText('the line stayed within the band')).toBeVisible();
  // Whatever was set in motion stands again, and says so.
  await expect(bench.drive()).toContainText('standing');

  // A page that hangs while the shaft turns: the worker stops it, and the trial says why it ended.
  await bench.press('Direction');
  await bench.press('Run “Direction” on 3 · kiln fan');
  await expect(page.getByRole('group', { name: 'What the trial asks' })).toContainText('Seen on the machine', {
    timeout: 20_000,
  });
  await page.evaluate(() => {
    const until = performance.now() + 5000;
    while (performance.now() < until);
  });
  await expect(
    page.getByRole('heading', { name: /^What came: · not done Direction on 3 · kiln fan, .*: stopped: / }),
  ).toBeVisible();
  await expect(bench.drive()).toContainText('standing');

  // The page goes away while the shaft turns: what runs in it ends with it, and the drive's own watch stops the shaft.
  await bench.press('Run “Direction” on 3 · kiln fan');
  await expect(page.getByRole('group', { name: 'What the trial asks' })).toContainText('Seen on the machine', {
    timeout: 20_000,
  });
  page.once('dialog', (dialog) => void dialog.accept());
  await page.reload();
  await bench.stage('Trials');
  const runs = page.getByRole('table', { name: 'Runs of this job' });
  await expect(
    runs.getByRole('row', { name: /Direction 3 · kiln fan · not done its page was reloaded or closed at step/ }),
  ).toBeVisible();
  await expect(
    runs.getByRole('row', { name: /Loss of link 3 · kiln fan (?:✓ passed|\? cannot be told)/ }),
  ).toBeVisible();
  await runs.getByRole('button', { name: 'Loss of link' }).click();
  await expect(came).toBeVisible();

  // Its curve goes out with the record, as a picture that any program opens.
  await bench.stage('Handover');
  const saving = page.waitForEvent('download');
  await bench.press('Save as archive');
  const files = unzipSync(await readFile(await (await saving).path()));
  const picture = Object.entries(files).find(([name]) => /^curves\/01-.*\.png$/.test(name))?.[1];
  expect(Buffer.from(picture?.subarray(0, 8) ?? []).toString('latin1')).toBe('\x89PNG\r\n\x1a\n');
});

test('the fence is sent to its home, then by millimetres to a place; a number that was meant in another unit is caught', async ({
  bench,
  page,
}) => {
  await page
    .getByRole('button', { name: /fence axis/ })
    .first()
    .click();
  await bench.hurry();
  await bench.stage('Registers');
  await page.getByRole('tab', { name: 'Position and limits' }).click();
  await expect(page.getByText('None of it was read yet')).toBeVisible();
  await expect(page.getByRole('img', { name: /^Homing method 20: It looks for a home switch/ })).toBeVisible();
  await bench.stage('Trials');
  await bench.press('Open S1 saw');
  await bench.press('A move');
  await bench.press('Watch');
  await page.getByLabel('Move', { exact: true }).selectOption('to');
  await page.getByLabel('to, mm').fill('320');
  await expect(page.getByText('from 0 mm to 320 mm: 320 mm away from the blade')).toBeVisible();
  await expect(page.getByText(/^home is not known since power came/)).toBeVisible();
  await bench.press('Home');
  await bench.press('Run “Home” on 5 · fence axis');
  await bench.press('it does');
  await expect(page.getByRole('heading', { name: /^What came: ✓ passed Home/ })).toBeVisible();
  await bench.press('A move');
  await expect(page.getByText('from 307 mm to 320 mm: 13 mm away from the blade')).toBeVisible();
  await page.getByLabel('to, mm').fill('320 cm');
  await expect(page.getByText(/Was it meant as 320 mm\?/)).toBeVisible();
  await page.getByLabel('to, mm').fill('320');
  await bench.press('Run “Move to 320 mm” on 5 · fence axis');
  await expect(page.getByRole('heading', { name: /^What came: ✓ passed Move to 320 mm/ })).toBeVisible({
    timeout: 20_000,
  });
  await expect(
    page.getByRole('row', { name: /^where it stood, less where it was sent 0 mm off should be within/ }),
  ).toBeVisible();
});

test('the old menu is asked, set and asked again by a trial of texts; a step is dragged through a trial of a hundred', async ({
  bench,
  page,
}) => {
  await page.getByRole('button', { name: /old debarker/ }).click();
  await bench.stage('Trials');
  await bench.press('Open D1 debarker');
  await bench.press('The old menu does as it is told');
  await expect(page.getByText(/Stop does not reach/)).toBeVisible();
  await bench.press(/^Run “The old menu does as it is told”/);
  await expect(page.getByRole('heading', { name: /^What came: ✓ passed/ })).toBeVisible();

  const steps = Array.from({ length: 100 }, (_, i) => ({ id: `hold-${i}`, kind: 'hold', s: 1 }));
  const trial = { format: 1, id: 'long', name: 'A long one', proves: 'Nothing.', leaves: 'All.', steps };
  await page.getByLabel('Trial file').setInputFiles({
    name: 'long.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(trial)),
  });
  const list = page.getByRole('list', { name: 'Steps to edit' });
  await expect(list.getByText('called hold-1', { exact: true })).toBeVisible();
  await list.scrollIntoViewIfNeeded();
  const [handle, box] = [
    await page.getByRole('button', { name: 'Move step 2', exact: true }).boundingBox(),
    await list.boundingBox(),
  ];
  if (!handle || !box) throw new Error('no list');
  const x = handle.x + handle.width / 2;
  await page.mouse.move(x, handle.y + 8);
  await page.mouse.down();
  await page.mouse.move(x, box.y + box.height - 10, { steps: 10 });
  // The list rolls under it, and what stands around the list stays.
  await expect(list.getByText('called hold-40', { exact: true })).toBeVisible();
  await page.mouse.move(x, box.y + box.height / 2, { steps: 5 });
  await page.mouse.up();
  const row = list.getByRole('listitem').filter({ has: page.getByText('called hold-1', { exact: true }) });
  await expect(row.getByText(/^[3-9]\d wait a while/)).toBeVisible();
  await bench.press('Undo');
  await list.evaluate((element) => (element.scrollTop = 0));
  await expect(list.getByRole('listitem').nth(1)).toContainText('called hold-1');
});
