import { expect, test } from './bench';

test('the trace is filtered by station, bytes and meaning while it grows, and holds still where it is read', async ({
  bench,
  page,
}) => {
  await bench.openK1();
  await bench.stage('Words');
  await bench.press('Watch');
  await bench.press('enlarge');
  const rows = bench.trace().getByRole('listitem');
  const found = page.getByTestId('trace-found');
  const filter = page.getByLabel('Filter the trace');

  await filter.fill('station 3, actual speed');
  await expect(found).toHaveText(/^[1-9]\d* found$/);
  await expect(rows.last()).toContainText('actual speed');
  const first = parseInt((await found.textContent()) ?? '', 10);
  // The search goes on through what comes.
  await expect.poll(async () => parseInt((await found.textContent()) ?? '', 10)).toBeGreaterThan(first);
  await filter.fill('03 03, sent');
  await expect(rows.last().getByLabel('sent')).toBeVisible();
  await expect(rows.last()).toContainText('03 03');
  await filter.fill('faults');
  await expect(found).toHaveText('0 found');
  await expect(bench.trace()).toContainText('No entry has this in it.');

  // Read from the beginning: the rows stay while more come in, and the end is followed again from there.
  await filter.fill('');
  await bench.trace().evaluate((list) => list.scrollTo(0, 0));
  await expect(rows.first()).toContainText('line opened');
  const kept = page.getByTestId('trace-kept');
  const before = await kept.textContent();
  await expect(kept).not.toHaveText(before ?? '');
  await expect(rows.first()).toContainText('line opened');
  await bench.trace().evaluate((list) => list.scrollTo(0, list.scrollHeight));
  await expect(rows.filter({ hasText: 'line opened' })).toHaveCount(0);

  // All of it is there after a reload, and found.
  await bench.press('End the watch');
  // The exchange that was under way then is recorded too.
  let all = '';
  await expect
    .poll(
      async () => {
        const earlier = all;
        all = (await kept.textContent()) ?? '';
        return all === earlier && all.endsWith(' · kept');
      },
      { intervals: [500] },
    )
    .toBe(true);
  await page.reload();
  await expect(kept).toHaveText(all);
  await bench.press('enlarge');
  await filter.fill('line opened');
  await expect(rows.first()).toContainText('line opened');
});
