import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { choose, openBatch } from './helpers';

test('a picture round a glass: taken in, seen close up, written with progress, stopped and written again', async ({
  page,
}) => {
  await page.addInitScript(() => sessionStorage.setItem('bistre.sim', 'yes'));
  await openBatch(page, 'Trophy glasses', 'Drive');
  await page.getByRole('button', { name: 'what goes where' }).click();
  // What is no picture is refused by name, and the face keeps what it had.
  const file = page.locator('input[type=file]').nth(1);
  await file.setInputFiles({ name: 'torn.png', mimeType: 'image/png', buffer: Buffer.from('not a picture') });
  await expect(page.getByText(/torn\.png is no PNG, JPEG or WebP/)).toBeVisible();
  await expect(page.getByRole('img', { name: 'The middle of the picture as it will look' })).toBeVisible();
  await choose(page.getByLabel('shades as dots'), 'Stucki: even, crisper');
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Burn the F on tape' }).click();
  await page.getByRole('button', { name: 'F upright', exact: true }).click();
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Run/ }).click();
  await page.getByRole('button', { name: 'Lay the first piece on' }).click();
  await expect(page.getByRole('button', { name: 'Lay the first piece on' })).toHaveCount(0);
  const downloaded = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Write the G-code' }).click();
  const download = await downloaded;
  const text = readFileSync(await download.path(), 'utf8');
  expect(download.suggestedFilename()).toMatch(/^trophy-glasses-load-\d{8}-\d{4}\.gcode$/);
  expect(text.length).toBeGreaterThan(500_000);
  expect(text.trimEnd().endsWith('M2')).toBe(true);
  // The server writes the same file, line for line.
  const id = /batches\/([0-9a-f-]+)/.exec(page.url())![1]!;
  const other = await (await page.request.get(`/api/batches/${id}/files/load.gcode`)).text();
  expect(other === text).toBe(true);
  // Stopped at once, it leaves nothing behind and can be begun again. A hand is slower than this file: the page presses.
  await page.evaluate(() => {
    const press = (words: string): boolean => {
      const button = [...document.querySelectorAll('button')].find((b) => b.textContent === words);
      button?.click();
      return button !== undefined;
    };
    press('Write the G-code');
    return new Promise<void>((done) => {
      const look = (): void => {
        if (press('Stop')) done();
        else requestAnimationFrame(look);
      };
      look();
    });
  });
  await expect(page.getByRole('button', { name: 'Write the G-code' })).toBeVisible();
});
