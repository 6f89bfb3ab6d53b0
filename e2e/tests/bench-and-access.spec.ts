import { createRequire } from 'node:module';
import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { openBatch } from './helpers';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface Axe {
  run(
    context: Document,
    options: { runOnly?: string[]; resultTypes: string[] },
  ): Promise<{ violations: { id: string; impact: string; nodes: { target: string[]; failureSummary: string }[] }[] }>;
}

/** What is serious on the page as it stands; of some rules only, where they are named. */
const serious = (page: Page, runOnly?: string[]): Promise<string[]> =>
  page.evaluate(async (rules) => {
    const { axe: tool } = globalThis as unknown as { axe: Axe };
    const { violations } = await tool.run(document, {
      ...(rules ? { runOnly: rules } : {}),
      resultTypes: ['violations'],
    });
    return violations
      .filter((v) => v.impact === 'serious' || v.impact === 'critical')
      .map(
        (v) =>
          `${v.id}: ${v.nodes
            .slice(0, 3)
            .map((n) => `${n.target.join(' ')} ${n.failureSummary}`)
            .join(' | ')}`,
      );
  }, runOnly);

/** Turns the lamp on or off as it stands, without another start of the page. */
const lamp = (page: Page, theme: 'on' | 'off'): Promise<void> =>
  page.evaluate((t) => {
    document.documentElement.dataset.theme = t;
  }, theme);

test('axe finds nothing serious on any view, lamp on or off', async ({ page }) => {
  await page.goto('/');
  const hrefOf = (name: RegExp): Promise<string | null> =>
    page.getByRole('link', { name }).first().getAttribute('href');
  const flat = await hrefOf(/Lane medals/);
  const round = await hrefOf(/Trophy glasses/);
  const views = [
    '/',
    '/new',
    '/read-in',
    '/log',
    '/shelf/blanks',
    '/shelf/machines',
    '/shelf/fixtures',
    '/shelf/recipes',
    '/shelf/alphabets',
    '/shelf/machines/new',
    '/shelf/drives',
    '/shelf/drives/new',
    '/shelf/steps',
    '/shelf/steps/new',
    ...['blank', 'drive', 'burn', 'run', 'close', 'bench'].map((s) => `${round}/${s}`),
    ...['blank', 'hold', 'place', 'burn', 'run', 'close', 'bench'].map((s) => `${flat}/${s}`),
  ];
  for (const view of views) {
    await page.goto(view);
    await expect(page.getByText(/^Opening/)).toHaveCount(0);
    await expect(page.getByRole('heading').first()).toBeVisible();
    await page.evaluate(axe);
    expect(await serious(page), view).toEqual([]);
    // Nothing but the colours differs with the lamp off.
    await lamp(page, 'off');
    expect(await serious(page, ['color-contrast']), `${view}, lamp off`).toEqual([]);
    await lamp(page, 'on');
  }
});

test('the bench view goes step by step by keys and comes back after a reload', async ({ page }) => {
  await openBatch(page, 'Lane medals', 'Blank');
  await page.keyboard.press('b');
  await expect(page.getByRole('heading', { name: 'Measure at least ten pieces' })).toBeVisible();
  await page.getByRole('button', { name: 'Done, next →' }).click();
  const second = page.getByRole('heading', { level: 2 });
  await expect(second).toHaveText(/gauge strip/);
  await page.keyboard.press('ArrowRight');
  await expect(second).toHaveText(/narrowest slot/);
  await page.reload();
  await expect(second).toHaveText(/narrowest slot/);
});

test('readings, wrong entries and drafts: nothing typed is lost', async ({ page }) => {
  await openBatch(page, 'Lane medals', 'Blank');
  const length = page.getByLabel(/length, reading/);
  await length.fill('50 mmm');
  await expect(page.getByText('“mmm” is not a unit of length')).toBeVisible();
  await length.press('Enter');
  await expect(length).toHaveValue('50 mmm');
  await page.reload();
  await expect(length).toHaveValue('50 mmm');
  for (const value of ['50.02', '1 31/32 in', '50,05']) {
    await length.fill(value);
    await length.press('Enter');
    await expect(length).toHaveValue('');
  }
  // The newest stands first.
  await expect(page.locator('.calipers tbody tr:not(:first-child) td:nth-child(2)')).toHaveText([
    '50.05',
    '50.01',
    '50.02',
  ]);
  await expect(page.getByText(/mean\s50\.03/)).toBeVisible();
  await page.getByRole('button', { name: /working of diameter/ }).click();
  await expect(page.getByText('k₁(3, 0.95, 0.95)')).toBeVisible();
});

test('a new batch from first measurement to a cut file', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'New batch' }).click();
  await page.getByLabel('What is it called?').fill('Locker plates');
  await page.getByLabel('Quantity').fill('0');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText('Quantity must be a whole number between 1 and 20000.')).toBeVisible();
  await expect(page.getByLabel('What is it called?')).toHaveValue('Locker plates');
  await page.getByLabel('Quantity').fill('12');
  await page.getByLabel('Name of the blank').fill('Locker plate');
  await page.getByLabel('Made of').fill('beech');
  await page.getByLabel('Length').fill('3 in');
  await page.getByLabel('Width').fill('25');
  await page.getByLabel('Thickness').fill('1.5');
  await page.getByRole('radio', { name: /^pockets/ }).check();
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { name: 'Locker plates' })).toBeVisible();
  // The first field takes the focus in a moment, and keys with it.
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /^Hold/ }).click();
  await expect(page.getByText('pieces a load')).toBeVisible();
  await page.getByText('snug 0.5').click();
  await expect(page.getByRole('status')).toHaveText(/saved/);
  await page.getByRole('button', { name: 'Save the board to the Shelf' }).click();
  await expect(page.getByText(/Board LOCKER-PLATES r1 on the Shelf/)).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'SVG', exact: true }).click();
  expect(readFileSync(await (await download).path(), 'utf8')).toContain('<title>LOCKER-PLATES r1</title>');
  await page.goto('/shelf/fixtures');
  await expect(page.getByText('LOCKER-PLATES')).toBeVisible();
});

test('a roster with a broken quote is refused by row, and a good one is kept', async ({ page }) => {
  await openBatch(page, 'Locker plates', 'Run');
  await page.getByRole('button', { name: 'Bring in the roster' }).click();
  const box = page.getByLabel('or paste the rows here');
  await box.fill('name,no\n"ANNA,1');
  await expect(page.getByText(/a quoted field is not closed/)).toBeVisible();
  await expect(box).toHaveValue('name,no\n"ANNA,1');
  await box.fill(`name,no\n${Array.from({ length: 12 }, (_, i) => `BERTH ${i + 1},${i + 1}`).join('\n')}`);
  await page.getByRole('button', { name: /Use these 12 rows/ }).click();
  await expect(page.getByLabel('Column', { exact: true })).toHaveText(/name/);

  // One of them is put right where it stands, and is so after a reload.
  await page.getByRole('button', { name: 'put names right' }).click();
  await page.getByLabel('name of piece 3').fill('BERTH THREE');
  await page.getByRole('button', { name: 'Keep it so' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  await page.reload();
  await page.getByRole('button', { name: 'put names right' }).click();
  await expect(page.getByLabel('name of piece 3')).toHaveValue('BERTH THREE');
  await expect(page.getByLabel('name of piece 4')).toHaveValue('BERTH 4');
});
