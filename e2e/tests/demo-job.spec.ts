import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { openBatch, placeBoard } from './helpers';

test('the demo batch goes from the marks to the Log on the simulated machine', async ({ page }) => {
  await openBatch(page, 'Boat tags', 'Place');
  await placeBoard(page);
  await expect(page.getByText('All marks agree with each other')).toBeVisible();
  await page.getByLabel(/Walk the true outline/).check();
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Run/ }).click();
  await page.getByRole('button', { name: 'Lay in the first piece' }).click();
  await page.getByRole('button', { name: 'Run the file on the simulated machine' }).click();
  await expect(page.getByRole('img', { name: 'Pieces after the simulated run' })).toBeVisible();
  await expect(page.getByText(/worst corner/)).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'G-code' }).click();
  const text = readFileSync(await (await download).path(), 'utf8');
  expect(text).toMatch(/^\(Boat tags\)/);
  expect(text.trimEnd()).toMatch(/M5\nG0X0Y0\nM2$/);
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await page.getByRole('button', { name: 'Approve the first piece' }).click();
  await page.getByRole('button', { name: 'Lay in the next 48' }).click();
  await page.getByRole('button', { name: 'Run the file on the simulated machine' }).click();
  await expect(page.getByText(/48: [\d.]+ mm/)).toBeVisible({ timeout: 60_000 });
  // One piece is scrapped; its name goes back to the roster. A lost tab changes nothing.
  await page.keyboard.press('s');
  await page.getByRole('button', { name: 'blank flawed' }).click();
  await expect(page.getByText('Slot 2', { exact: false }).first()).toBeVisible();
  await page.reload();
  await expect(page.getByText(/^Slot 2/)).toBeVisible();
  await page.getByRole('button', { name: 'all 47 are done', exact: true }).click();
  await page.getByRole('button', { name: 'All 47 are done', exact: true }).click();
  await page.getByRole('button', { name: 'Lay in the next 48' }).click();
  // The rest one by one: a key each.
  for (let slot = 1; slot <= 48; slot += 1) {
    await expect(page.getByText(new RegExp(`^Slot ${slot} `))).toBeVisible();
    await page.waitForTimeout(260);
    await page.keyboard.press('d');
  }
  await expect(page.getByText('All 96 pieces are done.')).toBeVisible();
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Close/ }).click();
  await page.getByLabel('Notes for the log').fill('Snug pockets held well.');
  await page.getByRole('button', { name: 'Close the batch' }).click();
  await expect(page.getByText(/Closed on/)).toBeVisible();
  await page.getByRole('link', { name: 'See it in the Log.' }).click();
  await expect(page.getByText(/Batch closed: 96 of 96 done, 1 scrapped/)).toBeVisible();
});
