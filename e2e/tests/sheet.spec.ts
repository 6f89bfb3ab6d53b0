import { expect, test } from '@playwright/test';
import { openBatch, placeBoard } from './helpers';

test('a printed sheet: saved, printed, aimed at, its stretch told, and cut on the simulated machine', async ({
  page,
}) => {
  await openBatch(page, 'Bow-number decals', 'Hold');
  // Too little bleed is said before anything is printed.
  const bleed = page.getByLabel('Print beyond the outline');
  await bleed.fill('0.1');
  await expect(page.getByText(/The cut may miss the print by/).first()).toBeVisible();
  await bleed.fill('1');
  await expect(page.getByText(/The cut may miss the print by/)).toHaveCount(0);
  await page.getByRole('button', { name: 'Save the sheet to the Shelf' }).click();
  await expect(page.getByText(/on the Shelf since/)).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Sheet, PDF' }).click();
  expect((await download).suggestedFilename()).toMatch(/^bow-number-decals-print-\d{8}-\d{4}\.pdf$/);
  await page.getByLabel(/Print the sheet at 100 %/).check();
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Place/ }).click();
  await placeBoard(page, [1, 2, 3, 4]);
  await expect(page.getByText(/\+0\.3\d % along and [+−]0\.0\d % across/).first()).toBeVisible();
  await expect(page.getByLabel('The print is fitted to its marks')).toHaveText(/as proposed/);
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Run/ }).click();
  await page.getByRole('button', { name: /^Lay in the next/ }).click();
  await page.getByRole('button', { name: 'Run the file on the simulated machine' }).click();
  await expect(page.getByRole('img', { name: 'Pieces after the simulated run' })).toBeVisible({ timeout: 60_000 });
  // Every piece of the sheet is cut within the tolerance, stretch and all.
  await expect(page.getByText(/^\d+: [\d.]+ mm$/)).toHaveCount(19);
  await page.getByRole('button', { name: /^all \d+ are done/ }).click();
  await page
    .getByRole('alertdialog')
    .getByRole('button', { name: /^All \d+ are done/ })
    .click();
  // The next sheet was printed anew and lies elsewhere: the marks are asked for again.
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Place/ }).click();
  await expect(page.getByText('aim, then Enter').first()).toBeVisible();
});
