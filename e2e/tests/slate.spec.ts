import { expect, test, type Page } from '@playwright/test';
import { aim, homeIt, push } from './helpers';

/** What the operator did, one entry a key, a field or a touch; what the stand-in's jog keys take is not an input to Bistre. */
const inputs: string[] = [];
const did = async (what: string, act: Promise<unknown>): Promise<void> => {
  inputs.push(what);
  await act;
};
const boat = (name: string, d: string) => ({ name: `${name}.svg`, mimeType: 'image/svg+xml', buffer: Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="30mm" viewBox="0 0 60 30"><path d="${d}"/></svg>`) }); // prettier-ignore
const BOATS = [boat('Gull', 'M5 15L55 15 45 25 15 25Z'), boat('Tern', 'M5 10L55 15 5 20Z'), boat('Knot', 'M10 5H50V25H10Z'), boat('Puffin', 'M30 3L57 27H3Z')]; // prettier-ignore
const SIZES = { length: [99.8, 100.3, 100.1, 100.4], width: [100.2, 99.9, 100.1, 100.0], thickness: [7.1, 6.9, 7.0, 7.2] } as const; // prettier-ignore

const to = (page: Page, station: string): Promise<void> =>
  did(`go to ${station}`, page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: new RegExp(station) }).click()); // prettier-ignore
const pick = async (page: Page, label: string | RegExp, words: string): Promise<void> => {
  inputs.push(`open ${String(label)}`, `choose ${words}`);
  await page.getByLabel(label).first().click();
  await page.getByRole('option', { name: new RegExp(`^${words}`) }).click();
};

test('four slate tiles of measured sizes, a design each, from nothing to the Log in at most sixty inputs', async ({
  page,
}) => {
  await page.goto('/shelf/artworks/new');
  await did('choose the four files', page.getByLabel(/^SVG, DXF, PDF/).setInputFiles(BOATS));
  await did('put them on the Shelf', page.getByRole('button', { name: 'Put 4 on the Shelf' }).click());
  await expect(page.getByRole('link', { name: /Puffin/ })).toBeVisible();

  await did('Board', page.getByRole('link', { name: 'Board', exact: true }).click());
  await did('New batch', page.getByRole('link', { name: 'New batch' }).click());
  for (const [label, value] of [
    ['What is it called?', 'Slate, a boat each'],
    ['Tolerance', '2'],
    ['Names or numbers, a line a piece: pasted here, or as a CSV file', 'boat\nGull\nTern\nKnot\nPuffin'],
    ['Name of the blank', 'Slate tile, sawn'],
    ['Made of', 'slate'],
    ['Length', '100'],
    ['Width', '100'],
    ['Thickness', '7'],
  ] as const)
    // prettier-ignore
    await did(`${label} ${value}`, page.getByLabel(label).fill(value));
  await did('pockets', page.getByRole('radio', { name: /^pockets/ }).check());
  await did('Begin', page.getByRole('button', { name: 'Begin' }).click());
  for (const [what, values] of Object.entries(SIZES))
    for (const [i, value] of values.entries()) {
      const field = page.getByLabel(`${what}, reading ${i + 1}`);
      await field.fill(String(value));
      await did(`${what} ${value}`, field.press('Enter'));
    }
  await expect(page.getByLabel('thickness, reading 5')).toBeVisible();

  await to(page, 'Hold');
  await did('snug', page.getByText('snug 0.5').click());
  await expect(page.getByRole('status')).toHaveText(/saved/);
  await did('Save the board', page.getByRole('button', { name: 'Save the board to the Shelf' }).click());
  await to(page, 'Burn');
  await pick(page, /^Recipe for Bench A/, 'Slate, light grey');

  await to(page, 'Run');
  // A design each, and no name under it.
  await did('no lettering', page.getByRole('button', { name: /Take out line 1|Take line 1 out/ }).click());
  const zones = page.getByRole('region', { name: 'In the zones beside lettering' });
  await did('art by the list', zones.getByRole('button', { name: 'art by the list' }).click());
  await pick(page, 'Size', 'so wide');
  await did('85 wide', zones.getByLabel('Width', { exact: true }).fill('85'));
  await expect(zones.getByText(/85\.0 × \d+\.\d mm, .* On 4 pieces; the first of them is Gull\./)).toBeVisible();
  await expect(page.getByText(/^Wrong/)).toHaveCount(0);

  await to(page, 'Place');
  await did('use the simulated machine', page.getByRole('button', { name: 'use the simulated machine' }).click());
  inputs.push('Home it');
  await homeIt(page);
  for (const mark of [1, 2]) {
    inputs.push(`push near mark ${mark}`);
    await push(page, mark);
    await aim(page);
    await did(`take mark ${mark}`, page.getByRole('button', { name: `Take reading of mark ${mark}` }).click());
    await expect(page.getByText(`${mark} read`)).toBeVisible();
  }

  await to(page, 'Run');
  await did('Lay in the first piece', page.getByRole('button', { name: 'Lay in the first piece' }).click());
  await did('run it', page.getByRole('button', { name: 'Run the file on the simulated machine' }).click());
  await expect(page.getByText(/worst corner/)).toBeVisible();
  await did('Done', page.getByRole('button', { name: 'Done', exact: true }).click());
  await did('approve', page.getByRole('button', { name: 'Approve the first piece' }).click());
  await did('Lay in the next', page.getByRole('button', { name: 'Lay in the next 3' }).click());
  await did('run it', page.getByRole('button', { name: 'Run the file on the simulated machine' }).click());
  await expect(page.getByText(/3: [\d.]+ mm/)).toBeVisible({ timeout: 60_000 });
  for (const slot of [1, 2, 3]) {
    await expect(page.getByText(new RegExp(`^Slot ${slot} `))).toBeVisible();
    await page.waitForTimeout(260);
    await did(`d, slot ${slot}`, page.keyboard.press('d'));
  }
  await expect(page.getByText('All 4 pieces are done.')).toBeVisible();
  await to(page, 'Close');
  await did('Close the batch', page.getByRole('button', { name: 'Close the batch' }).click());
  await did('See it in the Log', page.getByRole('link', { name: 'See it in the Log.' }).click());
  await expect(page.getByText(/Batch closed: 4 of 4 done/)).toBeVisible();
  expect(inputs.length, inputs.join('; ')).toBeLessThanOrEqual(60);
});
