import { expect, test, type Page } from '@playwright/test';

/** What an eye that knows which brown is wanted says of every cell, from the picture alone. */
const lookedAt = (page: Page): Promise<{ cell: number; grade: number; tell: 'strong' | 'right' | 'weak' }[]> =>
  page.evaluate(async () => {
    const svg = document.querySelector<SVGSVGElement>('svg[aria-label^="Grid of"]')!;
    const picture = new Image();
    picture.src = svg.querySelector('image')!.getAttribute('href')!;
    await picture.decode();
    const canvas = Object.assign(document.createElement('canvas'), { width: picture.width, height: picture.height });
    const context = canvas.getContext('2d')!;
    context.drawImage(picture, 0, 0);
    const [, , wide, high] = svg.getAttribute('viewBox')!.split(' ').map(Number) as [number, number, number, number];
    const k = [picture.width / wide, picture.height / high] as const;
    const mean = (x: number, y: number, w: number, h: number): number[] => {
      const { data } = context.getImageData(x * k[0], y * k[1], w * k[0], h * k[1]);
      return [0, 1, 2].map((c) => {
        let s = 0;
        for (let i = c; i < data.length; i += 4) s += data[i]!;
        return s / (data.length / 4);
      });
    };
    const bare = mean(wide / 2 - 2, high - 1.2, 4, 1);
    // The brown that the customer was shown.
    const wanted = [112, 70, 38];
    const far = (a: number[], b: number[]): number => Math.hypot(...a.map((v, i) => v - b[i]!));
    return [...svg.querySelectorAll('[data-cell]')].map((g) => {
      const box = g.querySelector('rect')!;
      const [x, y, w, h] = ['x', 'y', 'width', 'height'].map((n) => Number(box.getAttribute(n))) as [number, number, number, number]; // prettier-ignore
      const seen = mean(x + w * 0.3, y + h * 0.3, w * 0.4, h * 0.4);
      const grade = Math.max(0, Math.min(10, Math.round(10 * (1 - far(seen, wanted) / far(bare, wanted)))));
      const dark = seen[0]! < wanted[0]!;
      return { cell: Number((g as SVGGElement).dataset['cell']), grade, tell: grade >= 7 ? 'right' : dark ? 'strong' : 'weak' } as const; // prettier-ignore
    });
  });

/** Burns the trial that is open on the simulated bench and scores every cell of it by a touch each. */
const burnAndScore = async (page: Page): Promise<number> => {
  await page.getByRole('button', { name: 'Burn it on the simulated machine' }).click();
  await expect(page.getByRole('region', { name: 'Look at it' })).toBeVisible();
  const looks = await lookedAt(page);
  for (const { cell, grade, tell } of looks) {
    await expect(page.getByText(new RegExp(`^Cell ${cell + 1}: `))).toBeVisible();
    const words = tell === 'right' ? `${grade} of 10, right` : `${Math.min(6, grade)} of 10, too ${tell}`;
    await page.getByRole('button', { name: words }).click();
  }
  await expect(page.getByText('Every cell was looked at.')).toBeVisible();
  return looks.length;
};

test('from an unknown material to a proved recipe in at most two small grids, one touch a cell', async ({ page }) => {
  await page.setViewportSize({ width: 1024, height: 768 });
  await page.goto('/shelf/trials');
  await page.getByRole('button', { name: 'New trial' }).click();
  await page.getByLabel('Name').fill('Pearwood');
  await page.getByLabel('Material', { exact: true }).fill('pearwood, oiled');
  await page.getByLabel('Piece', { exact: true }).fill('Pearwood offcut 1');
  for (const [label, value] of [['Width', '130'], ['Height', '70']] as const) await page.getByLabel(label).fill(value); // prettier-ignore
  const stretch = async (name: string, from: string, to: string): Promise<void> => {
    const group = page.locator('section', { has: page.getByRole('heading', { name, exact: true }) });
    await group.getByLabel('from').fill(from);
    await group.getByLabel('to').fill(to);
    await group.getByLabel('to').press('Tab');
  };
  await stretch('Columns', '60', '420');
  await stretch('Rows', '20', '90');
  await expect(page.getByText(/5 × 5 cells of 8 × 8 mm/)).toBeVisible();
  await page.getByRole('button', { name: 'Keep this plan' }).click();
  await expect(page.getByRole('heading', { name: 'Pearwood', exact: true })).toBeVisible();

  let cells = await burnAndScore(page);
  const more = page.getByRole('button', { name: 'Plan the next grid' });
  await expect(page.getByRole('region', { name: 'What it says' })).toBeVisible();
  if (await more.isVisible()) {
    await more.click();
    await expect(page.getByRole('heading', { name: 'Pearwood 2' })).toBeVisible();
    await expect(page.getByText(/after/)).toBeVisible();
    cells += await burnAndScore(page);
  }
  expect(cells).toBeLessThanOrEqual(50);
  const said = page.getByRole('region', { name: 'What it says' });
  await expect(said).toContainText('Best:');
  // The best cell may be of the first grid.
  const first = said.getByRole('link', { name: 'Pearwood', exact: true });
  if (await first.isVisible()) await first.click();
  await page.getByRole('region', { name: 'Take it' }).getByLabel('Name').fill('Pearwood, brown');
  await page.getByRole('button', { name: 'Make the recipe of this cell' }).click();

  // The recipe tells by what it is proved, and the trial by what it proves.
  await expect(page.getByRole('heading', { name: 'Pearwood, brown' })).toBeVisible();
  const proof = page.getByRole('region', { name: 'Proof' });
  await expect(proof).toContainText(/Pearwood( 2)?, cell \d+, taken .* of 10\./);
  await proof.getByRole('link').click();
  await expect(page.getByText(/proves Pearwood, brown by cell \d+/)).toBeVisible();
  test.info().annotations.push({ type: 'counted', description: `${cells} cells` });
});
