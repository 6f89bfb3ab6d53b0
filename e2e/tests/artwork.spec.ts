import { expect, test } from '@playwright/test';
import { choose, openBatch } from './helpers';

// A pennant of 50 × 30 mm on a page, with a line to be scored and the designer's frame.
const PENNANT = `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="60mm" viewBox="0 0 80 60">
  <rect width="80" height="60" fill="none" stroke="#00a0ff"/>
  <path d="M10 10L60 25 10 40Z" fill="#102030"/><path d="M16 25H44" fill="none" stroke="red"/></svg>`;

test('a customer’s file goes on the Shelf, says what its colours are burned as, and lies in a zone by rule', async ({
  page,
}) => {
  await page.goto('/shelf/artworks/new');
  await page
    .getByLabel(/^SVG, DXF, PDF/)
    .setInputFiles({ name: 'pennant.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(PENNANT) });
  await expect(page.getByLabel('Name')).toHaveValue('pennant');
  await page.getByLabel('Name').fill('Club pennant');
  await page.getByRole('button', { name: 'Put it on the Shelf' }).click();
  await expect(page.getByRole('heading', { name: 'Club pennant' })).toBeVisible();
  await expect(page.getByText('80.0 × 60.0 mm in its file; not used yet')).toBeVisible();
  await choose(page.getByLabel('stroke #00a0ff, burned as'), 'guide, never burned');
  const drawing = page.getByRole('img', { name: 'The art, to scale' });
  await expect(drawing.locator('[data-role="guide"]')).toHaveCount(1);
  await expect(drawing.locator('[data-role="area"]')).toHaveCount(1);

  await openBatch(page, 'Berth tiles, slate', 'Run');
  const zones = page.getByRole('region', { name: 'In the zones beside lettering' });
  // Each boat has the picture that the list names; it leaves the zone to the pennant here.
  await expect(zones.getByRole('group', { name: 'art by the list' })).toContainText('80.0 × 24.0 mm');
  await zones.getByRole('button', { name: 'Take art by the list out' }).click();
  const art = zones.getByRole('group');
  await choose(art.getByLabel('Artwork'), 'Club pennant');
  // Its height stays what was chosen: the frame is a guide, so 38 of its 30 mm are 63.3 wide.
  await expect(art.getByText(/63\.3 × 38\.0 mm/)).toBeVisible();
  await art.getByLabel('Height').fill('64');
  await expect(page.getByText(/Wrong: ?Club pennant, 106\.7 × 64\.00 mm, leaves crest by/)).toBeVisible();
  await choose(art.getByLabel('Down'), 'middle');
  await choose(art.getByLabel('Size'), 'so wide');
  await art.getByLabel('Width', { exact: true }).fill('3 in');
  await art.getByLabel('Width', { exact: true }).press('Enter');
  // 76.2 × 3 / 5, in the middle of 84 × 68.
  await expect(art.getByText(/76\.2 × 45\.7 mm, 1\.524 times its file; room to the zone: 3\.9 left, 3\.9 right, 11\.1 front, 11\.1 back;/)).toBeVisible(); // prettier-ignore
  await expect(page.getByText(/leaves crest by/)).toHaveCount(0);
  await choose(art.getByLabel('Down'), 'bottom');
  await expect(art.getByText(/0\.0 front, 22\.3 back/)).toBeVisible();
  // A load as dots is of the work itself, wherever that lies.
  const [dots] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'PNG' }).first().click()]); // prettier-ignore
  expect(dots.suggestedFilename()).toMatch(/\.png$/);

  // A new file is a new revision; the batch keeps the one that it has until it is given the other.
  await page.goto('/shelf/artworks');
  await page.getByRole('link', { name: /Club pennant/ }).click();
  await expect(page.getByText(/used by Berth tiles, slate/)).toBeVisible();
  await page
    .getByLabel(/^A new file for it/)
    .setInputFiles({ name: 'pennant 2.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(PENNANT.replace('L60 25', 'L70 25')) }); // prettier-ignore
  await expect(page.getByText('was 80.0 × 60.0 mm')).toHaveCount(0);
  await page.getByRole('button', { name: 'Take it as r2' }).click();
  await expect(page.getByRole('list', { name: 'Files' }).getByRole('listitem')).toHaveCount(2);
  await openBatch(page, 'Berth tiles, slate', 'Run');
  await expect(art.getByText(/1\.524 times its file/)).toBeVisible();
  await art.getByRole('button', { name: 'Take r2' }).click();
  await expect(art.getByText(/76\.2 × 38\.1 mm, 1\.270 times its file/)).toBeVisible();
  await page.getByRole('button', { name: 'undo' }).click();
  await expect(art.getByText(/1\.524 times its file/)).toBeVisible();
});
