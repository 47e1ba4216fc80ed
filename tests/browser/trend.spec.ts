import { expect, test } from './bench';

test('the trend follows the present until somebody zooms or pans, and goes back by a press', async ({
  bench,
  page,
}) => {
  await bench.watchFan();
  await page.getByRole('tab', { name: 'Trend' }).click();
  const chart = page.getByRole('img', { name: /^Reference, actual/ });
  await expect(chart).toBeVisible();
  const follow = page.getByRole('button', { name: /^Follow/ });
  await expect(follow).toHaveText('Following the present');
  const box = (await chart.boundingBox())!;
  const [x, y] = [box.x + box.width * 0.7, box.y + box.height * 0.3];
  await page.mouse.move(x, y);
  await page.mouse.wheel(0, -400);
  await expect(follow).toHaveText('Follow the present again');
  await follow.click();
  await expect(follow).toHaveText('Following the present');
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - 120, y, { steps: 8 });
  await page.mouse.up();
  await expect(follow).toHaveText('Follow the present again');
});

test('the trend of an earlier start can be looked at after a reload', async ({ bench, page }) => {
  await bench.openK1();
  await bench.stage('Words');
  await bench.press('Watch');
  await expect(page.getByTestId('status-sentence')).toContainText('standing');
  await bench.press('End the watch');
  await expect(page.getByTestId('trace-kept')).toHaveText(/ · kept$/);
  await page.reload();
  await page.getByRole('tab', { name: 'Trend' }).click();
  await expect(page.getByText('Nothing has been read from this drive in that time.')).toBeVisible();
  await page.getByLabel('Start of the page').selectOption({ index: 1 });
  await expect(page.getByRole('img', { name: /^Reference, actual/ })).toBeVisible();
});
