import { expect, test } from '@playwright/test';
import { aimAtMarks, homeIt, openBatch } from './helpers';

test('somebody else’s sheet: found in its file, shapes told apart, counted, aimed at, cut', async ({ page }) => {
  await openBatch(page, 'Crew badges', 'Hold');
  await page.getByText('is laid out here').click();
  await page.getByText('came from somebody else, as a file').click();

  // A file that is no picture is named, and nothing is lost.
  await page.setInputFiles('input[type=file]', {
    name: 'badges.png',
    mimeType: 'image/png',
    buffer: Buffer.from('this is no picture, whatever it is called, and it is long enough'),
  });
  await expect(page.getByText('badges.png is no PNG, JPEG or WebP. Save the picture as one of them.')).toBeVisible();

  await page.getByRole('button', { name: 'take the sample sheet' }).click();
  await expect(page.getByText('297.1 × 210.1 mm, A4, 200 dots to the inch')).toBeVisible();
  await expect(page.getByText('15 pieces, 4 marks.')).toBeVisible();
  // One badge is left alone, then taken back.
  const drawing = page.getByRole('group', { name: 'Sheet as found in its file' });
  await drawing.getByRole('button', { name: /^piece 3,/ }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await expect(page.getByText('14 pieces, 4 marks.')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText('15 pieces, 4 marks.')).toBeVisible();
  await expect(page.getByText(/^saved/)).toBeVisible();

  await page.goto(`${page.url().replace(/\/hold$/, '')}/bench`);
  const title = page.getByRole('heading', { level: 2 });
  const next = page.getByRole('button', { name: 'Done, next →' });
  await expect(title).toHaveText('Save the sheet to the Shelf');
  await page.getByRole('button', { name: 'Save it' }).click();
  await expect(page.getByText('Saved as BADGES r1.')).toBeVisible();
  await page.getByRole('button', { name: 'Next →' }).click();
  await expect(title).toHaveText('Count the pieces on the print');
  await expect(page.getByText('15', { exact: true })).toBeVisible();
  await next.click();
  for (const words of [/safe to burn/, /Home the machine/, /Lay sheet BADGES/, /Focus on the sheet/]) {
    await expect(title).toHaveText(words);
    await next.click();
  }
  await page.getByRole('button', { name: 'use the simulated machine' }).click();
  await homeIt(page);
  await aimAtMarks(page, [1, 2, 3, 4]);
  await expect(title).toHaveText(/Walk the true outline/);
  await next.click();
  await expect(title).toHaveText(/Recipe Printed card, cut/);
  await next.click();
  await expect(title).toHaveText('Take the next sheet: 15 pieces');
  await page.goto(`${page.url().replace(/\/bench.*$/, '')}/run`);
  await page.getByRole('button', { name: 'Lay in the next 15' }).click();
  await page.getByRole('button', { name: 'Run the file on the simulated machine' }).click();
  // Print and cut together, with the margin left round every piece.
  await expect(page.getByText(/^\d+: [\d.]+ mm(, over)?$/)).toHaveCount(15);
  await expect(page.getByText(/^(margin|paper shows,) [\d.]+$/)).toHaveCount(15);
});
