import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { aimAtMarks, homeIt, openBatch } from './helpers';

/** The picture of a batch so far from its anchor, and so wide, mm. */
const moveTo = (page: Page, batch: string, offset: { x: number; y: number }, width: number): Promise<void> =>
  page.evaluate(
    async ([at, to, wide]) => {
      const id = at.split('/').at(-1)!;
      const { setup, version } = (await (await fetch(`/api/batches/${id}`)).json()) as { setup: { contents: { kind: string }[] }; version: number }; // prettier-ignore
      const value = setup.contents.map((c) => (c.kind === 'picture' ? { ...c, offset: to, size: { kind: 'width', width: wide } } : c)); // prettier-ignore
      const answer = await fetch(`/api/batches/${id}/setup`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ section: 'contents', value, version }) }); // prettier-ignore
      if (!answer.ok) throw new Error(await answer.text());
    },
    [batch, offset, width] as const,
  );

/** The file of the segment that is on. */
const fileOf = (page: Page, batch: string): Promise<string> =>
  page.evaluate(async (at) => (await fetch(`/api/batches/${at.split('/').at(-1)!}/files/load.gcode`)).text(), batch);

test('a course board of 2.2 m in three segments, from the bench view: marks carried over each time', async ({
  page,
}) => {
  await openBatch(page, 'Course board', 'Hold');
  await expect(page.getByText('seam 1 at')).toBeVisible();
  const batch = page.url().replace(/\/hold$/, '');
  // A picture beside the course: seams go round it, and its dots are burned with the first segment.
  await page.goto(`${batch}/run`);
  const png = await sharp({ create: { width: 90, height: 60, channels: 3, background: '#777' } })
    .png()
    .toBuffer();
  await page.getByLabel('Picture in a zone').setInputFiles({ name: 'gull.png', mimeType: 'image/png', buffer: png });
  await expect(page.getByRole('group', { name: 'gull' })).toBeVisible();
  await expect(page.getByRole('status')).toHaveText(/saved/);
  await moveTo(page, batch, { x: -950, y: 105 }, 60);
  await page.goto(`${batch}/bench`);
  const title = page.getByRole('heading', { level: 2 });
  const next = page.getByRole('button', { name: 'Done, next →' });
  for (const words of [/Look at the seams/, /room for what stands out/, /safe to burn/, /Recipe Birch/]) {
    await expect(title).toHaveText(words);
    await next.click();
  }
  await expect(title).toHaveText('Take the next work');
  await page.getByRole('button', { name: 'It lies there' }).click();
  for (const words of [/Home the machine/, /Lay the work in/, /Focus on the work/, /Walk segment 1/]) {
    await expect(title).toHaveText(words);
    await next.click();
  }
  const burn = page.getByRole('button', { name: 'Burn it on the simulated machine' });
  await expect(title).toHaveText('Burn segment 1 of 3');
  const rows = (text: string): number => (text.match(/\n(X|G1X)[^\n]*/g) ?? []).length;
  const first = rows(await fileOf(page, batch));
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
    // 400 lines of dots more, each switched on and off some hundred times.
    expect(first - rows(await fileOf(page, batch))).toBeGreaterThan(20_000);
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
