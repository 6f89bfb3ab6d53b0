import { expect, test } from '@playwright/test';
import { openBatch } from './helpers';

test('gulls lying anywhere, from the bench view: marks, a photograph, the first piece, then the rest', async ({
  page,
}) => {
  test.setTimeout(240_000);
  await openBatch(page, 'Gulls, lying anywhere', 'Hold');
  await expect(page.getByText('Lay the blanks between them')).toBeVisible();
  const batch = page.url().replace(/\/hold$/, '');
  await page.getByRole('button', { name: 'use the simulated camera' }).click();
  await page.goto(`${batch}/bench`);
  const title = page.getByRole('heading', { level: 2 });
  const next = page.getByRole('button', { name: 'Done, next →' });
  for (const words of [/Home the machine/, /camera’s marks on paper/, /Lay the blanks on the bed/]) {
    await expect(title).toHaveText(words);
    await next.click();
  }
  await expect(title).toHaveText('Take a photograph of the whole bed');
  await page.getByRole('button', { name: 'Take it with the simulated camera' }).click();
  await expect(title).toHaveText('The bed is photographed', { timeout: 60_000 });
  await expect(page.getByText('12 blanks are found, 12 of them without a burn')).toBeVisible();
  await page.getByRole('button', { name: 'Next →' }).click();
  for (const words of [/safe to burn/, /Recipe Driftwood/, /Walk the outlines/]) {
    await expect(title).toHaveText(words);
    await next.click();
  }
  await expect(title).toHaveText('Take the first blank of the photograph');
  await page.getByRole('button', { name: 'It is loaded' }).click();
  await page.getByRole('button', { name: 'Burn it on the simulated machine' }).click();
  const burned = page.getByText(/Burned: 1 piece, worst corner off by/);
  await expect(burned).toBeVisible();
  // The tolerance is 0.8 mm; what a camera sees is placed well within it.
  expect(Number(/off by ([\d.]+)/.exec((await burned.textContent())!)![1])).toBeLessThan(0.5);
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(title).toHaveText('Look at the first piece, then approve it');
  await page.getByRole('button', { name: 'Approve the first piece' }).click();
  await expect(title).toHaveText('Take 11 blanks of the photograph');
  await page.getByRole('button', { name: 'It is loaded' }).click();
  await page.getByRole('button', { name: 'Burn it on the simulated machine' }).click();
  await expect(page.getByText(/Burned: 11 pieces, worst corner off by 0\.\d/)).toBeVisible();
  // The bed's picture is gone after a reload, what it showed is not.
  await page.goto(`${batch}/hold`);
  await expect(page.getByText('with the blanks of the last photograph')).toBeVisible();
});

test('lane pegs from offcuts: laid round knots, the first cut and approved, then the rest', async ({ page }) => {
  test.setTimeout(240_000);
  await openBatch(page, 'Lane pegs, from offcuts', 'Hold');
  await page.getByRole('button', { name: 'use the simulated camera' }).click();
  await page.getByRole('button', { name: 'Take it with the simulated camera' }).click();
  await expect(page.getByText('6 offcuts,')).toBeVisible({ timeout: 90_000 });
  await expect(page.getByText('36 blanks without a burn').or(page.getByText('36 parts without a burn'))).toBeVisible({
    timeout: 60_000,
  });
  // Trying longer can be stopped; what was laid stays.
  await page.getByRole('button', { name: /Lay them anew/ }).click();
  await page.getByRole('button', { name: 'stop', exact: true }).click();
  await expect(page.getByText(/36 (blanks|parts) without a burn/)).toBeVisible();
  const batch = page.url().replace(/\/hold$/, '');
  await page.goto(`${batch}/run`);
  await page.getByRole('button', { name: 'Take the first part of the photograph' }).click();
  await page.getByRole('button', { name: 'Run the file on the simulated machine' }).click();
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await page.getByRole('button', { name: 'Approve the first piece' }).click();
  await expect(page.getByRole('button', { name: 'Take 35 parts of the photograph' })).toBeVisible();
});
