import { test, type Page } from '@playwright/test';
import { choose, openBatch, placeBoard, typeIntoMachine } from '../tests/helpers';

/** A picture of the current view once it has settled. */
const take = async (page: Page, name: string): Promise<void> => {
  await page.mouse.move(0, 0);
  await page.waitForTimeout(900);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
};

const go = async (page: Page, station: string): Promise<void> => {
  await page
    .getByRole('navigation', { name: 'Stations' })
    .getByRole('link', { name: new RegExp(station) })
    .click();
};

test('pictures of the main views', async ({ page }) => {
  await page.addInitScript(() => localStorage.setItem('bistre.operator', 'Imre'));
  await page.goto('/');
  await page
    .getByRole('link', { name: /Boat tags/ })
    .first()
    .waitFor();
  await take(page, 'board');
  await openBatch(page, 'Boat tags', 'Blank');
  await take(page, 'blank');
  await go(page, 'Hold');
  await take(page, 'hold');
  await go(page, 'Place');
  await placeBoard(page);
  await page.getByRole('button', { name: 'type readings' }).scrollIntoViewIfNeeded();
  await take(page, 'place');
  await page.getByLabel(/Walk the true outline/).check();
  await go(page, 'Burn');
  await page.getByText(/beam on/).waitFor();
  await go(page, 'Run');
  await page.getByRole('button', { name: 'Lay in the first piece' }).click();
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await page.getByRole('button', { name: 'Approve the first piece' }).click();
  await page.getByRole('button', { name: 'Lay in the next 48' }).click();
  await page.getByRole('button', { name: 'Run the file on the simulated machine' }).click();
  await page.getByText(/48: [\d.]+ mm/).waitFor();
  await page.getByText(/^Slot 1/).scrollIntoViewIfNeeded();
  await take(page, 'run');
  await page.getByRole('button', { name: 'open ▴' }).click();
  await take(page, 'budget');
  await page.keyboard.press('Escape');
  await page.evaluate(() => document.documentElement.setAttribute('data-theme', 'off'));
  await go(page, 'Place');
  await take(page, 'place-lamp-off');
  await page.evaluate(() => document.documentElement.setAttribute('data-theme', 'on'));
  await page.setViewportSize({ width: 1024, height: 768 });
  await page.goto(`${new URL(page.url()).pathname.split('/').slice(0, 3).join('/')}/bench?step=place.focus`);
  await page.getByRole('heading', { level: 2 }).waitFor();
  await take(page, 'bench');
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto('/log');
  await choose(page.getByLabel('batch'), 'Bag tags, junior crews');
  await take(page, 'log');
  await page.goto('/shelf/artworks');
  await page.getByRole('link', { name: /Regatta crest/ }).click();
  await page.getByRole('img', { name: 'The art, to scale' }).waitFor();
  await take(page, 'shelf');
});

test('pictures of a flask on its drive', async ({ page }) => {
  await page.addInitScript(() => {
    localStorage.setItem('bistre.operator', 'Imre');
    sessionStorage.setItem('bistre.sim', 'yes');
  });
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openBatch(page, 'Umpire flasks', 'Drive');
  await take(page, 'drive');
  await page.evaluate(() => document.documentElement.setAttribute('data-theme', 'off'));
  await typeIntoMachine(page);
  await page.getByRole('button', { name: 'Burn a ring on tape' }).click();
  await page.getByText(/^By the rule/).scrollIntoViewIfNeeded();
  await page.getByLabel(/or a gap is left/).fill('2.25');
  await page.getByLabel(/or a gap is left/).press('Enter');
  await page.getByText(/the next ring on that piece closes to/).waitFor();
  await page.evaluate(() => document.documentElement.setAttribute('data-theme', 'on'));
  await go(page, 'Burn');
  await page.getByText(/beam on/).waitFor();
  await page.getByRole('slider', { name: 'turn the blank by hand' }).fill('290');
  await take(page, 'wrap');
});

test('pictures of a photograph round a glass, of a print’s pieces and of segments', async ({ page }) => {
  await page.addInitScript(() => localStorage.setItem('bistre.operator', 'Imre'));
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openBatch(page, 'Trophy glasses', 'Drive');
  await page.getByRole('button', { name: 'what goes where' }).click();
  await page.getByRole('img', { name: 'The middle of the picture as it will look' }).scrollIntoViewIfNeeded();
  await page.waitForTimeout(1500);
  await take(page, 'picture');
  await openBatch(page, 'Crew badges', 'Hold');
  await page.getByText('15 pieces, 4 marks.').scrollIntoViewIfNeeded();
  await take(page, 'traced');
  await openBatch(page, 'Course board', 'Hold');
  await page.getByRole('button', { name: 'next stroke' }).click();
  await take(page, 'long');
});

test('pictures of a row on the feeder and of parts in offcuts', async ({ page }) => {
  await page.addInitScript(() => localStorage.setItem('bistre.operator', 'Imre'));
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openBatch(page, 'Oar-rack plates', 'Feed');
  await page.getByRole('button', { name: 'use the simulated feeder' }).click();
  for (let i = 1; i <= 3; i += 1) {
    await page.getByRole('button', { name: 'Feed it', exact: true }).click();
    await page.getByText(new RegExp(`^${i} feeds? measured`)).waitFor();
  }
  await page.getByRole('button', { name: 'Read it' }).click();
  await page.getByText('Guide read at').waitFor();
  await page.getByRole('button', { name: 'Measure it' }).click();
  await page.getByText(/over the work, turned out/).waitFor();
  await page.getByRole('button', { name: 'next stop' }).click();
  await take(page, 'feed');
  await openBatch(page, 'Lane pegs', 'Hold');
  await page.getByRole('button', { name: 'Take it with the simulated camera' }).click();
  await page.getByText('36 parts without a burn').waitFor({ timeout: 60_000 });
  await page.waitForTimeout(1500);
  await take(page, 'offcuts');
});

test('pictures of a trial, and of a new batch', async ({ page }) => {
  await page.addInitScript(() => localStorage.setItem('bistre.operator', 'Imre'));
  await page.goto('/shelf/trials');
  await page.getByRole('link', { name: /^Compound on steel 1/ }).click();
  await page.getByRole('region', { name: 'What it says' }).waitFor();
  await page.waitForLoadState('networkidle');
  await take(page, 'trial');
  await page.goto('/new');
  await choose(page.getByRole('combobox', { name: /^Blank/ }), 'Boat tag');
  await page.getByLabel(/^Names or numbers/).fill('name\nKESTREL\nPUFFIN\nSANDLING\nTURNSTONE\nDUNLIN\nWHIMBREL');
  await page.getByLabel('What is it called?').fill('Stern tags');
  await page.getByText(/^Proposed: /).waitFor();
  await page.waitForTimeout(800);
  await take(page, 'new');
});
