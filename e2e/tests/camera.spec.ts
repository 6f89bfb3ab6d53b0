import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { findRound } from '../../core/src/photo';
import { choose, openBatch, placeBoard } from './helpers';

test('gulls on a printed sheet of marks: printed, photographed, aimed at, the first burned', async ({ page }) => {
  await openBatch(page, 'Gulls, lying anywhere', 'Hold');
  // A file is made from what is saved.
  const saved = page.waitForResponse((r) => r.url().endsWith('/setup') && r.ok());
  await choose(page.getByLabel('Marks', { exact: true }), 'printed sheet');
  await saved;
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Sheet of marks, PDF' }).click();
  expect(
    readFileSync(await (await download).path())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');
  await page.getByRole('button', { name: 'use the simulated camera' }).click();
  await page.getByRole('button', { name: 'Take it with the simulated camera' }).click();
  await expect(page.getByText(/[1-9]\d* blanks without a burn/)).toBeVisible({ timeout: 60_000 });
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Place/ }).click();
  // The camera's stand-in is in use already, and with it the machine's.
  await page.getByRole('button', { name: 'type readings' }).click();
  await placeBoard(page);
  await page.getByLabel(/Walk the outlines/).check();
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Run/ }).click();
  await page.getByRole('button', { name: 'Take the first blank of the photograph' }).click();
  await page.getByRole('button', { name: 'Run the file on the simulated machine' }).click();
  const corner = page.getByText(/^worst corner/);
  await expect(corner).toBeVisible();
  expect(Number(/([\d.]+) mm/.exec((await corner.textContent())!)![1])).toBeLessThan(0.8);
  // Given back, so that the next job begins where this one did.
  await page.getByRole('button', { name: 'Again', exact: true }).click();
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Hold/ }).click();
  const back = page.waitForResponse((r) => r.url().endsWith('/setup') && r.ok());
  await choose(page.getByLabel('Marks', { exact: true }), 'burned on paper');
  await back;
  await expect(page.getByText('Lay the blanks between them')).toBeVisible();
});

test('gulls lying anywhere, from the bench view: marks, a photograph, the first piece, then the rest', async ({
  page,
}) => {
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
  for (const words of [/safe to burn/, /Recipe Driftwood/, /Focus on a blank/, /Walk the outlines/]) {
    await expect(title).toHaveText(words);
    await next.click();
  }
  await expect(title).toHaveText('Take the first blank of the photograph');
  await page.getByRole('button', { name: 'It lies there' }).click();
  await page.getByRole('button', { name: 'Burn it on the simulated machine' }).click();
  const burned = page.getByText(/Burned: 1 piece, worst corner off by/);
  await expect(burned).toBeVisible();
  // The tolerance is 0.8 mm; what a camera sees is placed well within it.
  expect(Number(/off by ([\d.]+)/.exec((await burned.textContent())!)![1])).toBeLessThan(0.5);
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(title).toHaveText('Look at the first piece, then approve it');
  await page.getByRole('button', { name: 'Approve the first piece' }).click();
  await expect(title).toHaveText('Take 11 blanks of the photograph');
  await page.getByRole('button', { name: 'It lies there' }).click();
  await page.getByRole('button', { name: 'Burn it on the simulated machine' }).click();
  await expect(page.getByText(/Burned: 11 pieces, worst corner off by 0\.\d/)).toBeVisible();
  // The bed's picture is gone after a reload, what it showed is not.
  await page.goto(`${batch}/hold`);
  await expect(page.getByText('with the blanks of the last photograph')).toBeVisible();
});

test('lane pegs from offcuts: laid round knots, the first cut and approved, then the rest', async ({ page }) => {
  await openBatch(page, 'Lane pegs, from offcuts', 'Hold');
  // The list of batches with the same stock comes last and moves what is below it.
  await expect(page.getByRole('checkbox', { name: /Buoy labels/ })).toBeVisible();
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
  // What is left goes to the Shelf with its outline.
  await page.goto(`${batch}/hold`);
  await page.getByRole('button', { name: 'Keep what is left on the Shelf' }).click();
  await expect(page.getByText(/offcuts are on the Shelf/)).toBeVisible();
  await page.getByRole('link', { name: 'Shelf' }).click();
  await page.getByRole('navigation', { name: 'Shelf' }).getByRole('link', { name: 'Offcuts' }).click();
  await expect(page.getByRole('img', { name: /^larch .* mm$/ })).not.toHaveCount(0);
});

test('buoy labels share the stock of the lane pegs: both lists are laid, a defect is marked by hand', async ({
  page,
}) => {
  await openBatch(page, 'Buoy labels', 'Hold');
  await page.getByText(/^Lane pegs, from offcuts, \d+ to come/).click();
  await page.getByRole('button', { name: 'use the simulated camera' }).click();
  await page.getByRole('button', { name: 'Take it with the simulated camera' }).click();
  await expect(page.getByText('16 parts without a burn')).toBeVisible({ timeout: 90_000 });
  const count = async (): Promise<number> =>
    Number(/(\d+) knots/.exec((await page.getByText(/knots and holes kept clear/).textContent())!)![1]);
  const before = await count();
  await page.getByRole('button', { name: 'mark a defect' }).click();
  const drawing = page.getByRole('img', { name: /^Bed of Bench A/ });
  const box = (await drawing.boundingBox())!;
  // The middle of the drawing's first piece of stock, upper left.
  const touch = (): Promise<void> => page.mouse.click(box.x + box.width * 0.25, box.y + box.height * 0.3);
  await touch();
  // Sound stock gets a defect, a knot that happens to lie there is taken out; touched again, it is as it was.
  await expect.poll(count).not.toBe(before);
  expect(Math.abs((await count()) - before)).toBe(1);
  await touch();
  await expect.poll(count).toBe(before);
  await page.getByRole('button', { name: 'done with defects' }).click();
  // The other list was laid in the same go.
  await openBatch(page, 'Lane pegs', 'Hold');
  await expect(page.getByText(/parts without a burn/)).toBeVisible();
});

test('marks of a photograph aimed at by hand, and a fixed camera kept and looked at again', async ({
  page,
  request,
}) => {
  await openBatch(page, 'Buoy labels', 'Hold');
  const id = /batches\/([0-9a-f-]+)/.exec(page.url())![1]!;
  const shot = await request.get(`/api/batches/${id}/photo.png?shot=7`);
  const png = await shot.body();
  const { data, info } = await sharp(png).greyscale().raw().toBuffer({ resolveWithObject: true });
  const round = findRound({ width: info.width, height: info.height, data: new Uint8Array(data) });
  const file = { name: 'bed.png', mimeType: 'image/png', buffer: png };
  await page.getByLabel(/^(Photograph of the bed|Another photograph)$/).setInputFiles(file);
  await expect(page.getByText(/^Camera: 10 marks found/)).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'aim at the marks by hand' }).click();
  const picture = page.getByAltText('The photograph as it was taken');
  await expect(picture).toBeVisible();
  const box = (await picture.boundingBox())!;
  const { width, height } = info;
  // The bed seen from above: its marks lie in the picture about where they are.
  const bed = { width: 900, height: 600 };
  for (const [mark, x, y] of [
    [1, 20, 20],
    [4, 880, 20],
    [6, 880, 580],
    [9, 20, 580],
  ] as const) {
    const near = round
      .map((r) => ({ r, d: Math.hypot(r.x / width - x / bed.width, r.y / height - 1 + y / bed.height) }))
      .sort((a, b) => a.d - b.d)[0]!.r;
    await page.getByRole('button', { name: new RegExp(`^mark ${mark}\\b`) }).click();
    await picture.click({ position: { x: (near.x / width) * box.width, y: (near.y / height) * box.height } });
  }
  await page.getByRole('button', { name: 'Measure by these 4' }).click();
  await expect(page.getByText('Camera: 4 marks aimed at by hand.')).toBeVisible({ timeout: 60_000 });
  // Found by the marks again, then kept; the next picture of the same place only needs a look.
  await page.getByLabel(/^(Photograph of the bed|Another photograph)$/).setInputFiles(file);
  await expect(page.getByText(/^Camera: 10 marks found/)).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'keep it as the machine’s fixed camera' }).click();
  await expect(page.getByText(/Fixed camera of Bench A, measured/)).toBeVisible();
  await page.getByLabel(/^(Photograph of the bed|Another photograph)$/).setInputFiles(file);
  await expect(page.getByText(/^Camera: the fixed camera stands as on .*: 10 marks within 0\.\d+ mm/)).toBeVisible({
    timeout: 60_000,
  });
  await page.getByRole('button', { name: 'it is not fixed any more' }).click();
});
