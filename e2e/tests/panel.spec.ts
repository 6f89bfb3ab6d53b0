import { expect, test } from '@playwright/test';
import { aimAtMarks, homeIt, openBatch } from './helpers';

test('medals on both faces, from the bench view: side one, the turn, the marks, side two', async ({ page }) => {
  await openBatch(page, 'Winners’ medals', 'Hold');
  await page.getByRole('button', { name: 'show side two' }).click();
  await expect(page.getByText('Side two up, as it will lie')).toBeVisible();
  await page.goto(`${page.url().replace(/\/hold$/, '')}/bench`);
  const title = page.getByRole('heading', { level: 2 });
  const next = page.getByRole('button', { name: 'Done, next →' });
  await expect(title).toHaveText('Save the sheet to the Shelf');
  await page.getByRole('button', { name: 'Save it' }).click();
  await expect(page.getByText('Saved as MEDALS r1.')).toBeVisible();
  await page.getByRole('button', { name: 'Next →' }).click();
  await expect(title).toHaveText(/safe to burn, on both faces/);
  await next.click();
  await expect(title).toHaveText(/Recipe Three-ply/);
  await next.click();
  await expect(title).toHaveText('Take the next sheet: 18 pieces');
  await page.getByRole('button', { name: 'It lies there' }).click();
  for (const words of [/Home the machine/, /side one up/, /Focus on the sheet/, /Walk side one/]) {
    await expect(title).toHaveText(words);
    await next.click();
  }
  await expect(title).toHaveText('Burn the first file: side one and the marks');
  await page.getByRole('button', { name: 'use the simulated machine' }).click();
  await page.getByRole('button', { name: 'Burn it on the simulated machine' }).click();
  await expect(page.getByText(/Burned: 18 pieces, worst corner off by 0\.0\d mm\./)).toBeVisible();
  await next.click();
  await expect(title).toHaveText('Turn the sheet over');
  await next.click();
  await expect(title).toHaveText('Aim at mark 1');
  await expect(page.getByText(/It lies front right now/)).toBeVisible();
  await homeIt(page);
  await aimAtMarks(page, [1, 2, 3]);
  await expect(title).toHaveText('Walk side two with the beam off');
  await next.click();
  await expect(title).toHaveText('Burn the second file: side two and the outlines');
  await page.getByRole('button', { name: 'Burn it on the simulated machine' }).click();
  await expect(page.getByText(/Burned: 18 pieces, worst corner off by 0\.\d\d mm/)).toBeVisible();
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(page.getByText(/^Slot 2/)).toBeVisible();
});
