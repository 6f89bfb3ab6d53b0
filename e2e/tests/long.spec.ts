import { expect, test } from '@playwright/test';
import { aimAtMarks, homeIt, openBatch } from './helpers';

test('a course board of 2.2 m in three segments, from the bench view: marks carried over each time', async ({
  page,
}) => {
  test.setTimeout(300_000);
  await openBatch(page, 'Course board', 'Hold');
  await expect(page.getByText('seam 1 at')).toBeVisible();
  const batch = page.url().replace(/\/hold$/, '');
  await page.goto(`${batch}/bench`);
  const title = page.getByRole('heading', { level: 2 });
  const next = page.getByRole('button', { name: 'Done, next →' });
  for (const words of [/Look at the seams/, /room for what stands out/, /safe to burn/, /Recipe Birch/]) {
    await expect(title).toHaveText(words);
    await next.click();
  }
  await expect(title).toHaveText('Take the next work');
  await page.getByRole('button', { name: 'It is loaded' }).click();
  for (const words of [/Home the machine/, /Lay the work in/, /Focus on the work/, /Walk segment 1/]) {
    await expect(title).toHaveText(words);
    await next.click();
  }
  const burn = page.getByRole('button', { name: 'Burn it on the simulated machine' });
  await expect(title).toHaveText('Burn segment 1 of 3');
  await page.getByRole('button', { name: 'use the simulated machine' }).click();
  await burn.click();
  await expect(page.getByText(/Burned: segment 1/)).toBeVisible();
  await next.click();
  for (const segment of [2, 3]) {
    await expect(title).toHaveText(/Push the work on by/);
    await next.click();
    if (segment === 2) await homeIt(page);
    await aimAtMarks(page, [2 * segment - 3, 2 * segment - 2]);
    await expect(title).toHaveText(`Walk segment ${segment} with the beam off`);
    await next.click();
    await expect(title).toHaveText(`Burn segment ${segment} of 3`);
    await burn.click();
    await expect(page.getByText(new RegExp(`Burned: segment ${segment}`))).toBeVisible();
    await next.click();
  }
  await expect(title).toHaveText('Look at the whole work');
  await page.goto(`${batch}/run`);
  await page.getByRole('button', { name: 'Look at the work on the simulated machine' }).click();
  await expect(page.getByText('as its segments landed')).toBeVisible();
  // Both seams closed to well within the millimetre that the board may be off.
  const steps = await page.getByText(/seam \d: step [\d.]+ mm/).allTextContents();
  expect(steps).toHaveLength(2);
  for (const step of steps) expect(Number(/step ([\d.]+)/.exec(step)![1])).toBeLessThan(1);
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(
    page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Run\s*proved/ }),
  ).toBeVisible();
});
