import { expect, test, type Page } from '@playwright/test';
import { aimAtMarks, measurePointer, openBatch } from './helpers';

/** Ticks steps of the bench view one after the other, each by its title. */
const tickOff = async (page: Page, titles: readonly RegExp[]): Promise<void> => {
  for (const words of titles) {
    await expect(page.getByRole('heading', { level: 2 })).toHaveText(words);
    await page.getByRole('button', { name: 'Done, next →' }).click();
  }
};

const worst = async (page: Page, pieces: string): Promise<number> => {
  await page.getByRole('button', { name: 'Burn it on the simulated machine' }).click();
  const burned = page.getByText(new RegExp(`Burned: ${pieces}, worst corner off by`));
  await expect(burned).toBeVisible({ timeout: 60_000 });
  return Number(/off by ([\d.]+)/.exec((await burned.textContent())!)![1]);
};

test('boat plaques, from the bench view: card, pegs and lines, pins, marks, looks, the first piece', async ({
  page,
}) => {
  await openBatch(page, 'Boat plaques', 'Place');
  const batch = page.url().replace(/\/place$/, '');
  // The simulated machine is homed and its pointer measured where marks are aimed at.
  await measurePointer(page);
  await page.goto(`${batch}/bench`);
  const title = page.getByRole('heading', { level: 2 });
  await tickOff(page, [/outline in card first/]);
  await expect(title).toHaveText(/where is the widest gap/);
  await page.getByRole('button', { name: 'Read the simulated bench' }).click();
  await expect(page.getByText(/widest gap 0\.\d+ mm/)).toBeVisible();
  await page.getByRole('button', { name: 'Next →' }).click();
  await expect(title).toHaveText('Save the board to the Shelf');
  await page.getByRole('button', { name: 'Save it' }).click();
  await expect(page.getByText('Saved as PLAQUE-9 r1.')).toBeVisible();
  await page.getByRole('button', { name: 'Next →' }).click();
  await tickOff(page, [/Cut the board PLAQUE-9/, /against its pegs and lines/]);
  await expect(title).toHaveText(/shank of the pin gauge/);
  await page.getByRole('button', { name: 'Read the simulated bench' }).click();
  // Tried and typed: the step is gone, pins of that shank come next.
  await tickOff(page, [
    /Cut 12 pins on scrap/,
    /Push the first pin in/,
    /Push the pins in/,
    /Home the machine/,
    /on the bed/,
    /Focus on a blank/,
  ]);
  await aimAtMarks(page, [1, 2, 3]);
  await tickOff(page, [/Walk the true outline/, /Recipe Sycamore/]);
  await expect(title).toHaveText(/which face, any defects/);
  await page.getByText('side two').click();
  const picture = page.getByRole('img', { name: /touch where a defect lies/ });
  await picture.click({ position: { x: 60, y: 90 } });
  await expect(page.getByText(/2 of the 9 that are laid next/)).toBeVisible();
  await page.getByRole('button', { name: 'Done, next →' }).click();
  await expect(title).toHaveText('Lay the first piece in slot 1');
  await page.getByRole('button', { name: 'It lies there' }).click();
  expect(await worst(page, '1 piece')).toBeLessThan(0.8);
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await page.getByRole('button', { name: 'Approve the first piece' }).click();
  // The face that was seen is kept with the piece.
  await page.goto(`${batch}/run`);
  await page.getByRole('button', { name: /look at the pieces/ }).click();
  await expect(page.getByText('PUFFIN').first()).toBeVisible();
});

test('a locator board for an open frame, from the bench view: built, grid burned, dot repeated, first cards', async ({
  page,
}) => {
  await openBatch(page, 'Berth cards', 'Hold');
  await expect(page.getByText(/^Locator board 610 × 610 mm/)).toBeVisible();
  const batch = page.url().replace(/\/hold$/, '');
  await page.goto(`${batch}/bench`);
  const title = page.getByRole('heading', { level: 2 });
  await expect(title).toHaveText('Save the locator board to the Shelf');
  await page.getByRole('button', { name: 'Save it' }).click();
  await expect(page.getByText('Saved as LOCATOR-B r1.')).toBeVisible();
  await page.getByRole('button', { name: 'Next →' }).click();
  await expect(title).toHaveText('Saw the board and three stops');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Cut list' }).click();
  expect((await download).suggestedFilename()).toMatch(/locator-\d{8}-\d{4}\.csv$/);
  await tickOff(page, [
    /Saw the board/,
    /two front stops/,
    /glue the third/,
    /Recipe Cherry/,
    /burn its grid/,
    /Focus on a blank/,
    /Set zero over/,
  ]);
  await expect(title).toHaveText(/lift the frame off and on/);
  await page.getByRole('button', { name: 'use the simulated bench' }).click();
  for (const n of [1, 2, 3]) {
    await page.getByRole('button', { name: 'Read the simulated bench' }).click();
    await expect(page.getByText(/Dot and repeat apart:/)).toContainText(new RegExp(`(\\d\\.\\d\\d[, ]*){${n}} mm`));
  }
  // Done by its three tries.
  await expect(page.getByRole('button', { name: 'Done, next →' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Next →' }).click();
  await tickOff(page, [/Walk the true outline/]);
  await expect(title).toHaveText('Lay the first piece in slot 1');
  await page.getByRole('button', { name: 'It lies there' }).click();
  expect(await worst(page, '1 piece')).toBeLessThan(1.2);
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await page.getByRole('button', { name: 'Approve the first piece' }).click();
  await expect(title).toHaveText('Lay in 24 pieces');
});
