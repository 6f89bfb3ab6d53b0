import { expect, test, type Page } from '@playwright/test';
import { choose, openBatch, typeIntoMachine, readRing } from './helpers';

const heading = (page: Page): Promise<string> => page.getByRole('heading', { level: 2 }).first().innerText();

test('the flasks are set up from the bench view alone: one ring, one F, first piece', async ({ page }) => {
  await page.addInitScript(() => sessionStorage.setItem('bistre.sim', 'yes'));
  await openBatch(page, 'Umpire flasks', 'Drive');
  await expect(page.getByRole('img', { name: /end view and side view/ })).toBeVisible();
  await page.keyboard.press('b');
  await expect(page.getByRole('heading', { name: /^Type it into the machine/ })).toBeVisible();
  for (let i = 0; i < 12 && !(await heading(page)).startsWith('Burn one ring'); i += 1) {
    const before = await heading(page);
    if (before.startsWith('Type it into the machine')) await typeIntoMachine(page);
    await page.getByRole('button', { name: /^(Next|Done, next)/ }).click();
    await expect(page.getByRole('heading', { level: 2 })).not.toHaveText(before);
  }
  const ring = (await readRing(page))!;
  expect(ring).not.toBeNull();
  const field = page.getByLabel(ring.gap ? /or a gap is left/ : /overlaps/);
  await field.fill(ring.mm);
  await field.press('Enter');
  await expect(page.getByText(/the next ring on that piece closes to/)).toBeVisible();
  await page.getByRole('button', { name: /^Next/ }).click();
  await expect(page.getByRole('heading', { level: 2 })).toContainText('Type the corrected number');
  await typeIntoMachine(page);
  // The ring is proved, and then it is what was promised.
  const again = await readRing(page);
  expect(Number(again?.mm ?? 0)).toBeLessThanOrEqual(0.5);
  await page.getByRole('button', { name: /^(Next|Done, next)/ }).click();
  await expect(page.getByRole('heading', { level: 2 })).toContainText('Burn the F');
  await page.getByRole('button', { name: 'Burn the F on tape' }).click();
  await expect(page.getByRole('img', { name: 'The F on the tape, rim up' })).toBeVisible();
  // This drive’s motor turns the other way than its entry says: the F comes out mirrored.
  await page.getByRole('button', { name: 'F mirrored, upright' }).click();
  await expect(page.getByText(/runs the other way/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Burn the F on tape' }).click();
  await page.getByRole('button', { name: 'F upright', exact: true }).click();
  await expect(page.getByText(/Right the first time/)).toBeVisible();
  await page.getByRole('button', { name: /^Next/ }).click();
  await expect(page.getByRole('heading', { level: 2 })).toContainText('Walk the true outline');
  await page.getByRole('button', { name: /^Done, next/ }).click();
  await expect(page.getByRole('heading', { level: 2 })).toContainText('Lay the first piece on');
  await page.getByRole('button', { name: 'It lies there' }).click();
  await page.getByRole('button', { name: 'Burn it on the simulated drive' }).click();
  const landed = await page.getByText(/^Burned: off by/).innerText();
  const [around, along] = [...landed.matchAll(/-?[\d.]+(?= mm)/g)].map((m) => Math.abs(Number(m[0])));
  expect(Math.hypot(around!, along!)).toBeLessThan(1);
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await page.getByRole('button', { name: 'Approve the first piece' }).click();
  await expect(page.getByText(/1 \/ 48/)).toBeVisible();
  // The settings changed for this job wait on the putback list.
  await page.getByRole('link', { name: 'Leave the bench view' }).click();
  await expect(page.getByText('2 settings to put back')).toBeVisible();
  // Until then the machine's own axis counts other steps: nothing else is burned on it.
  const flasks = page.url();
  await openBatch(page, 'Bow-number decals', 'Run');
  const held = page.getByRole('list', { name: 'Held back' });
  await expect(held.getByText(/Umpire flasks left y axis, steps\/mm at [\d.]+ on Bench A/)).toBeVisible();
  await page.goto(flasks.replace(/\/\w+$/, '/close'));
  for (const setting of [/^y axis, steps\/mm/, /^y axis, acceleration/]) {
    const put = page.getByRole('checkbox', { name: setting });
    await put.click();
    await expect(put).toBeChecked();
  }
  await openBatch(page, 'Bow-number decals', 'Run');
  await expect(page.getByText(/Umpire flasks left/)).toHaveCount(0);
});

test('a batch is found with the stations of its own route', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('link', { name: /Umpire flasks/ }).first()).toBeVisible();
  await page.keyboard.press('/');
  const words = page.getByPlaceholder(/Find a batch/);
  await words.fill('Umpire flasks');
  await expect(page.getByRole('option', { name: 'Umpire flasks: Drive' })).toBeVisible();
  await expect(page.getByRole('option', { name: /Umpire flasks: (Hold|Place|Feed)/ })).toHaveCount(0);
  await words.fill('Lane medals');
  await expect(page.getByRole('option', { name: 'Lane medals: Hold' })).toBeVisible();
  await expect(page.getByRole('option', { name: 'Lane medals: Drive' })).toHaveCount(0);
  await page.getByRole('option', { name: 'Lane medals: Hold' }).click();
  await expect(page).toHaveURL(/\/hold$/);
});

test('a cup never seen before: described, laid on the rollers, told its number', async ({ page }) => {
  await page.goto('/shelf/blanks');
  await page.getByRole('button', { name: 'New blank' }).click();
  await page.getByLabel('Name').fill('Coxswain mug');
  await page.getByText('round', { exact: true }).click();
  await page.getByLabel('Diameter 1', { exact: true }).fill('82');
  await page.getByLabel('place 2 from the rim').fill('0');
  await expect(page.getByText(/not beyond line 1/)).toBeVisible();
  await page.getByLabel('place 2 from the rim').fill('95');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Coxswain mug')).toBeVisible();
  await page.goto('/');
  await page.getByRole('link', { name: 'New batch' }).click();
  await page.getByLabel('What is it called?').fill('Mugs');
  await choose(page.getByRole('combobox', { name: /^Blank/ }), 'Coxswain mug');
  await page.getByLabel('Quantity').fill('12');
  await expect(page.getByText(/^Proposed: /)).toBeVisible();
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('region', { name: 'Measure' })).toBeVisible();
  const reading = page.getByLabel('diameter, reading 1');
  await reading.fill('82.1');
  await reading.press('Enter');
  const tape = page.getByLabel('tape, reading 1');
  await tape.fill('270');
  await tape.press('Enter');
  // 270 mm round is 85.9 mm across: more than 1 % from the caliper.
  await expect(page.getByText(/Measure both again/)).toBeVisible();
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Drive/ }).click();
  await choose(page.getByLabel('Drive', { exact: true }), 'Rollers');
  await expect(page.getByRole('button', { name: /51\.81 stands in the machine/ })).toBeVisible();
  await expect(page.getByRole('img', { name: /end view and side view/ })).toBeVisible();
});

test('a new batch begins with a cup described on the spot, and a handle in the way is said', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'New batch' }).click();
  await page.getByLabel('What is it called?').fill('Cox cups');
  await choose(page.getByRole('combobox', { name: /^Blank/ }), 'a new cup, glass or bar …');
  await page.getByLabel('Name of the blank').fill('Enamel cup');
  await choose(page.getByRole('combobox', { name: 'Material' }), 'steel');
  await page.getByLabel('Quantity').fill('12');
  await page.getByLabel('Length').fill('95');
  await page.getByLabel('Diameter at the rim').fill('3.2 in');
  await page.getByLabel('Diameter at the base').fill('0');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText(/Diameter at the base must be a number between 1 and 1000 mm/)).toBeVisible();
  await page.getByLabel('Diameter at the base').fill('78');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('region', { name: 'Measure' })).toBeVisible();
  await page.getByRole('button', { name: 'shape, zones, holes' }).click();
  await choose(page.getByLabel('angles from'), 'handle');
  await page.getByRole('button', { name: 'Save' }).click();
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Drive/ }).click();
  await choose(page.getByLabel('Drive', { exact: true }), 'Rollers');
  await expect(page.getByText(/The handle cannot pass the rollers/).first()).toBeVisible();
  // A ring is a whole turn: its file is held back for the same reason, until the handle passes.
  const held = page.getByRole('list', { name: 'Held back' });
  await expect(held.getByText(/The handle cannot pass the rollers/)).toBeVisible();
  // Hung over the end of the rollers, with the handle outside, it passes.
  await page.getByLabel(/hangs over the rollers/).fill('100');
  await expect(page.getByText(/The handle cannot pass the rollers/)).toHaveCount(0);
});
