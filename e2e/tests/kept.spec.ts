import { expect, test, type Page } from '@playwright/test';
import { openBatch } from './helpers';

const as = (page: Page, name: string): Promise<void> =>
  page.evaluate((n) => localStorage.setItem('bistre.operator', n), name);

test('a form with a refused field does not save: the field is shown, and what was typed stays', async ({ page }) => {
  await page.goto('/shelf/machines');
  await page.getByRole('link', { name: /Bench C/ }).click();
  const kerf = page.getByLabel(/^Kerf/);
  const before = await kerf.inputValue();
  await kerf.fill('5');
  await page.getByLabel('nozzle gap').fill('7');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(/Nothing was saved\. Kerf must be a number between 0 and 2 mm/)).toBeVisible();
  await expect(kerf).toBeFocused();
  await expect(kerf).toHaveValue('5');
  await expect(page.getByRole('heading', { name: 'Bench C' })).toBeVisible();
  // Emptied is refused as well: the old value would be saved unseen.
  await kerf.fill('');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(/Nothing was saved/)).toBeVisible();
  await expect(kerf).toBeFocused();
  await kerf.fill('0.12');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.getByRole('link', { name: /Bench C/ }).click();
  await expect(page.getByLabel(/^Kerf/)).toHaveValue('0.12');
  await expect(page.getByLabel('nozzle gap')).toHaveValue('7');
  expect(before).not.toBe('0.12');
  // A blank's dialog does the same.
  await page.goto('/shelf/blanks');
  await page.getByRole('link', { name: /Lane medal/ }).click();
  const thickness = page.getByLabel('thickness').first();
  await thickness.fill('nine');
  await page.getByRole('button', { name: 'Save' }).last().click();
  await expect(thickness).toBeFocused();
  await expect(page.getByText(/Nothing was saved\. thickness/i)).toBeVisible();
});

test('undo says whose change it takes back, and asks', async ({ page }) => {
  await openBatch(page, 'Oar grips', 'Close');
  await as(page, 'Odile');
  await page.getByLabel('Notes for the log').fill('Odile’s words');
  await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
  const undo = page.getByRole('button', { name: 'undo' });
  await undo.hover();
  await expect(page.getByRole('tooltip')).toHaveText('Take back: Closing notes changed (Odile)');
  await as(page, 'Imre');
  await undo.click();
  const asked = page.getByRole('alertdialog');
  await expect(asked).toContainText(/done by Odile/);
  await asked.getByRole('button', { name: 'Leave it as it is' }).click();
  await expect(page.getByLabel('Notes for the log')).toHaveValue('Odile’s words');
  await undo.click();
  await asked.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByLabel('Notes for the log')).toHaveValue('');
});

test('a batch is put away and brought back, closed, only read, and opened again with a reason', async ({ page }) => {
  await openBatch(page, 'Lane medals', 'Close');
  await page.getByRole('button', { name: 'put the batch away' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Put it away' }).click();
  await expect(page.getByRole('heading', { name: 'Board' })).toBeVisible();
  const away = page.getByRole('region', { name: 'Put away' });
  await expect(away).toContainText('Lane medals');
  await expect(page.getByRole('link', { name: /^Lane medals/ })).toHaveCount(0);
  await away.getByRole('button', { name: 'bring back' }).click();
  await expect(page.getByText('Lane medals is back.')).toBeVisible();
  await openBatch(page, 'Lane medals', 'Close');
  await page.getByRole('button', { name: 'Close the batch' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Close it' }).click();
  await expect(page.getByText(/it is only read/)).toBeVisible();
  await page.getByLabel('Notes for the log').fill('too late');
  await expect(page.getByText(/not saved: This batch was closed by/)).toBeVisible();
  await page.getByRole('button', { name: /open it again/ }).click();
  // A reading that left before the reopening comes back after it: what it brings is out of date.
  const address = page.url().replace(/\/batches\/([^/]+).*/, '/api/batches/$1');
  const before = await page.request.get(address).then((r) => r.text());
  await page.route(address, async (route) => {
    await new Promise((late) => setTimeout(late, 1_500));
    await route.fulfill({ contentType: 'application/json', body: before });
  });
  await page.getByLabel('why').fill('one came back');
  await page.getByRole('button', { name: 'Open it again' }).click();
  await expect(page.getByText(/it is only read/)).toHaveCount(0);
  await page.waitForTimeout(2_000);
  expect(await page.getByText(/it is only read/).count()).toBe(0);
  await page.unroute(address);
  await page.goto('/log');
  await expect(page.getByText('Batch opened again: one came back')).toBeVisible();
});

test('what is used cannot be put away, and says by what; a spare one goes and comes back', async ({ page }) => {
  await page.goto('/shelf/machines');
  await page.getByRole('link', { name: /Bench A/ }).click();
  await page.getByRole('button', { name: 'Put it away' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Put it away' }).click();
  await expect(page.getByText(/Bench A is used by .*Close or change/)).toBeVisible();
  await page.goto('/shelf/machines');
  await page.getByRole('link', { name: /Bench C/ }).click();
  await page.getByRole('button', { name: 'Put it away' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Put it away' }).click();
  const away = page.getByRole('region', { name: 'Put away' });
  await expect(away).toContainText('Bench C');
  await away.getByRole('button', { name: 'bring back' }).click();
  await expect(page.getByRole('link', { name: /Bench C/ })).toBeVisible();
});

test('two who type into the same part: the second is asked, and neither is overwritten unseen', async ({
  page,
  browser,
}) => {
  await openBatch(page, 'Trophy glasses', 'Close');
  const other = await (await browser.newContext()).newPage();
  await other.goto(page.url());
  await as(other, 'Odile');
  await other.getByLabel('Notes for the log').fill('theirs');
  await expect(other.getByText(/saved \d\d:\d\d/)).toBeVisible();
  await page.getByLabel('Notes for the log').fill('mine');
  await expect(page.getByText('Odile changed this too')).toBeVisible();
  await expect(page.getByLabel('Notes for the log')).toHaveValue('mine');
  // Another write does not send it after all.
  const ticked = page.waitForResponse((r) => r.url().includes('/ticks/') && r.ok());
  await page.getByLabel(/Drive back on its shelf/).check();
  await ticked;
  await other.reload();
  await expect(other.getByLabel(/Drive back on its shelf/)).toBeChecked();
  await expect(other.getByLabel('Notes for the log')).toHaveValue('theirs');
  await page.getByRole('button', { name: 'take theirs' }).click();
  await expect(page.getByLabel('Notes for the log')).toHaveValue('theirs');
  await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
  await page.getByLabel('Notes for the log').fill('both agreed');
  await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
  await other.reload();
  await expect(other.getByLabel('Notes for the log')).toHaveValue('both agreed');
});
