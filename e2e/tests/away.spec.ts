import { expect, test, type Page } from '@playwright/test';
import { placeBoard } from './helpers';

interface Bistre {
  readonly address: string;
  readonly stop: () => Promise<void>;
  readonly kill: () => Promise<void>;
  readonly again: () => Promise<void>;
}

// A server of its own: it is killed, as a power cut would.
let bistre: Bistre;
test.beforeAll(async () => {
  const { throwAway } = (await import('../../scripts/test-servers.mjs' as string)) as {
    throwAway: (name: string) => Promise<Bistre>;
  };
  bistre = await throwAway('away');
});
test.afterAll(() => bistre?.stop());

interface Stored {
  readonly id: string;
  readonly name: string;
  readonly readings: readonly { readonly mark: number; readonly x: number }[];
  readonly ticks: readonly { readonly step: string }[];
  readonly pieces: readonly { readonly state: string; readonly slot: number }[];
  readonly setup: { readonly close: { readonly notes: string } };
}
const stored = async (page: Page): Promise<Stored> => {
  const id = /batches\/([^/]+)/.exec(page.url())![1]!;
  return (await (await fetch(`${bistre.address}/api/batches/${id}`)).json()) as Stored;
};
const at = async (page: Page, station: string): Promise<void> => {
  await page
    .getByRole('navigation', { name: 'Stations' })
    .getByRole('link', { name: new RegExp(station) })
    .click();
};
const read = async (page: Page, mark: number, x: string, y: string): Promise<void> => {
  await page.getByLabel(`mark ${mark}, x on the machine`).fill(x);
  await page.getByLabel(`mark ${mark}, y on the machine`).fill(y);
  await page.getByLabel(`mark ${mark}, y on the machine`).press('Enter');
};
const waits = (page: Page) => page.getByRole('status').filter({ hasText: /wait/ });

test.use({ baseURL: undefined });
test('the server is killed while marks are read, steps ticked, notes typed and pieces judged: nothing is lost, nothing twice', async ({
  page,
  context,
}) => {
  await page.goto(bistre.address);
  await page
    .getByRole('link', { name: /Boat tags/ })
    .first()
    .click();
  await at(page, 'Place');
  // The first reading is answered before the server goes.
  const kept = page.waitForResponse((r) => r.request().method() === 'POST' && /\/readings$/.test(r.url()));
  await read(page, 1, '120', '80');
  await (await kept).finished();
  await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();

  await bistre.kill();
  await read(page, 2, '505', '80');
  await expect(waits(page)).toHaveText(/1 change waits: reading of mark 2/);
  // It shows all the same, and the next one too.
  await expect(page.getByText('needs two marks')).toHaveCount(0);
  await read(page, 3, '505', '410');
  await page.getByLabel(/Lay board/).check();
  await at(page, 'Close');
  await page.getByLabel('Notes for the log').fill('typed while the power was out');
  await expect(waits(page)).toHaveText(/4 changes wait/);

  // A crash of the page: it comes back with all of it, once there is a server to come from.
  await bistre.again();
  await page.reload();
  await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
  await expect(page.getByLabel('Notes for the log')).toHaveValue('typed while the power was out');
  const now = await stored(page);
  expect(now.readings.map((r) => [r.mark, r.x])).toEqual([
    [1, 120],
    [2, 505],
    [3, 505],
  ]);
  expect(now.setup.close.notes).toBe('typed while the power was out');
  expect(now.ticks.filter((t) => /lay/.test(t.step))).toHaveLength(1);

  // Killed in the very moment of a write: it is sent again under its key, and happens once.
  await at(page, 'Place');
  await page.route(
    '**/readings',
    async (route) => {
      await route.fetch();
      await bistre.kill();
      await route.abort();
    },
    { times: 1 },
  );
  await read(page, 2, '505.3', '80.2');
  await expect(waits(page)).toHaveText(/reading of mark 2/);
  await bistre.again();
  await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
  expect((await stored(page)).readings.filter((r) => r.mark === 2).map((r) => r.x)).toEqual([505, 505.3]);

  // Two tabs of one browser share what waits: closing the one that typed loses nothing.
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByText(/saved \d\d:\d\d/)).toBeVisible();
  await bistre.kill();
  await page.getByLabel(/Focus on a blank/).check();
  await expect(waits(page)).toHaveText(/1 change waits: tick/);
  await expect(waits(other)).toHaveText(/1 change waits: tick/);
  await page.close();
  await bistre.again();
  await expect(other.getByText(/saved \d\d:\d\d/)).toBeVisible();
  expect((await stored(other)).ticks.filter((t) => /focus/.test(t.step))).toHaveLength(1);
});

test('judging goes on while the server is away', async ({ page }) => {
  await page.goto(bistre.address);
  await page
    .getByRole('link', { name: /Bow-number decals/ })
    .first()
    .click();
  await at(page, 'Hold');
  await page.getByRole('button', { name: 'Save the sheet to the Shelf' }).click();
  await expect(page.getByText(/r1 on the Shelf/)).toBeVisible();
  await at(page, 'Place');
  await placeBoard(page, [1, 2, 3, 4]);
  await at(page, 'Run');
  const load = page.getByRole('button', { name: /^Lay in the next/ });
  await load.click();
  const done = page.getByRole('button', { name: 'Done', exact: true });
  await expect(done).toBeVisible();
  await page.waitForLoadState('networkidle');
  const slots = (await stored(page)).pieces.filter((p) => p.state === 'loaded').map((p) => p.slot);
  await bistre.kill();
  for (let i = 0; i < 3; i += 1) {
    await expect(page.getByText(`Slot ${slots[i]}`, { exact: false }).first()).toBeVisible();
    // Two presses at once are one.
    await page.waitForTimeout(260);
    await done.click();
  }
  await expect(waits(page)).toHaveText(/3 changes wait: 3 × verdict/);
  await bistre.again();
  await expect(page.getByText(/saved \d\d:\d\d/)).toBeVisible();
  const judged = (await stored(page)).pieces.filter((p) => p.state === 'done').map((p) => p.slot);
  expect(judged.sort((a, b) => a - b)).toEqual(slots.slice(0, 3));
});
