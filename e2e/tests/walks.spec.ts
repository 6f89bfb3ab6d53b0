import { expect, test, type Page } from '@playwright/test';
import { choose, loupeTarget, moved, readRing, typeIntoMachine } from './helpers';

/** What was typed or touched, one entry a field, key or touch; the stand-in's own keys count as well. */
let inputs: string[] = [];
const did = async (what: string, act: Promise<unknown>): Promise<void> => {
  inputs.push(what);
  await act;
};
const title = (page: Page): Promise<string> => page.getByRole('heading', { level: 2 }).first().innerText();
const there = (page: Page, name: string | RegExp): Promise<boolean> => page.getByRole('button', { name }).first().isVisible(); // prettier-ignore
const touch = (page: Page, name: string | RegExp): Promise<void> => did(`touch ${String(name)}`, page.getByRole('button', { name }).first().click()); // prettier-ignore

/** Brings the dot onto what the loupe shows: a touch there, and one more where the first was coarse. */
const touchLoupe = async (page: Page): Promise<void> => {
  const loupe = page.getByRole('img', { name: /Loupe/ });
  for (let i = 0; i < 3; i += 1) {
    const at = await loupeTarget(page, 'mark');
    if (!at) throw new Error('nothing is under the loupe');
    if (Math.hypot(at.x, at.y) < 0.12) return;
    const box = (await loupe.boundingBox())!;
    const k = box.width / 5;
    inputs.push('touch the loupe');
    await moved(page, () => page.mouse.click(box.x + box.width / 2 + at.x * k, box.y + box.height / 2 - at.y * k));
  }
};

const aimAt = async (page: Page): Promise<void> => {
  await page.getByRole('button', { name: /^(Home it|Push the head near)/ }).first().waitFor(); // prettier-ignore
  if (await there(page, 'Home it')) {
    const homed = page.waitForResponse((r) => r.url().endsWith('/sim') && r.request().method() === 'POST');
    await touch(page, 'Home it');
    await homed;
  }
  const push = page.getByRole('button', { name: /^Push the head near/ });
  await push.waitFor();
  inputs.push('push the head near');
  await moved(page, () => push.click());
  await touchLoupe(page);
  await touch(page, /^Take reading of|under the dot again$/);
};

/** A load at the desk of the bench view, until something else is asked. */
const run = async (page: Page, quantity: number): Promise<void> => {
  const desk = page.getByRole('region', { name: 'Next at the desk' });
  for (let i = 0; i < 12 * quantity + 20; i += 1) {
    if (await desk.getByText(new RegExp(`^(Good:)?\\s*All ${quantity} pieces are done`)).isVisible()) return;
    if (await desk.getByRole('button', { name: 'Approve the first piece' }).isVisible()) {
      await touch(page, 'Approve the first piece');
      await expect(desk.getByRole('button', { name: 'Approve the first piece' })).toBeHidden();
    } else if (await desk.getByRole('button', { name: 'Done', exact: true }).isVisible()) {
      const burn = page.getByRole('button', { name: /^(Run the file|Burn it) on the simulated/ }).first();
      const slot = await desk.getByText(/^(Slot|Piece) \d+/).first().innerText(); // prettier-ignore
      if (await burn.isVisible()) {
        await touch(page, /^(Run the file|Burn it) on the simulated/);
        await expect(page.getByText(/worst corner|Burned: off by|: [\d.]+ mm/).first()).toBeVisible({
          timeout: 60_000,
        });
      }
      await page.waitForTimeout(260);
      await did('d', page.keyboard.press('d'));
      await expect(desk.getByText(slot, { exact: true })).toBeHidden();
    } else if (await desk.getByRole('button').first().isVisible()) {
      const take = desk.getByRole('button').first();
      inputs.push('take the load');
      await take.click();
      await expect(desk.getByRole('button', { name: 'Done', exact: true })).toBeVisible();
    }
    if (!(await desk.isVisible())) return;
  }
};

/** Goes through the bench view of a fresh batch step by step, by what each step asks for, to the Log. */
const walk = async (
  page: Page,
  quantity: number,
  recipe: RegExp,
  until?: (step: string) => boolean,
): Promise<string[]> => {
  const seen: string[] = [];
  for (let i = 0; i < 80; i += 1) {
    const step = await title(page);
    seen.push(step);
    if (until?.(step)) return seen;
    if (/^(Aim at|Check with|Read) mark/.test(step)) await aimAt(page);
    else if (step === 'Choose the recipe') {
      inputs.push('open the recipes', 'choose one');
      await page.getByRole('combobox', { name: /^Recipe for/ }).click();
      await page.getByRole('option', { name: recipe }).click();
      await expect(page.getByRole('heading', { level: 2 })).toHaveText(/^Recipe /);
    } else if (/^Save the (board|sheet)/.test(step) && (await there(page, 'Save it'))) {
      await touch(page, 'Save it');
      await expect(page.getByText(/^Saved as/)).toBeVisible();
      await touch(page, /^Next/);
    } else if (/^Type (it|the corrected)/.test(step)) {
      inputs.push('type the number', 'it stands there');
      await typeIntoMachine(page);
      await touch(page, /^Next/);
    } else if (/^Lower the turning/.test(step)) {
      const set = page.getByRole('button', { name: /is set$/ }).first();
      const value = /^([\d.]+)/.exec(await set.innerText())![1]!;
      const answer = page.waitForResponse((r) => r.url().endsWith('/cup') && r.request().method() === 'POST');
      await did('set the acceleration', page.getByLabel('panel: axis acceleration').fill(value));
      await answer;
      await did('it is set', set.click());
      await touch(page, /^Next/);
    } else if (/^Burn .*ring on masking tape/.test(step)) {
      inputs.push('burn a ring');
      const ring = await readRing(page);
      if (ring) {
        const field = page.getByLabel(ring.gap ? /or a gap is left/ : /overlaps/);
        await did('type the ring', field.fill(ring.mm));
        await field.press('Enter');
        // What the stand-in hides may be more than is believed at once: then it is asked about.
        const typed = page.getByRole('button', { name: 'it is as I typed it' });
        const closes = page.getByText(/the next ring on that piece closes to/);
        await expect(closes.or(typed).first()).toBeVisible();
        if (await typed.isVisible()) await did('it is as typed', typed.click());
        await expect(closes).toBeVisible();
      }
      await touch(page, /^Next/);
    } else if (/^Burn the F on tape/.test(step)) {
      // This drive’s motor turns the other way than its entry says: the first F comes out mirrored, the next is upright.
      for (const picture of ['F mirrored, upright', 'F upright']) {
        await touch(page, 'Burn the F on tape');
        await expect(page.getByRole('img', { name: 'The F on the tape, rim up' })).toBeVisible();
        await did(picture, page.getByRole('button', { name: picture, exact: true }).click());
      }
      await expect(page.getByText(/Right the first time/)).toBeVisible();
      await touch(page, /^Next/);
    } else if (step === 'Everything put back') {
      for (const box of await page.getByRole('checkbox', { name: / back to / }).all())
        if (!(await box.isChecked())) {
          await did('put back', box.click());
          await expect(box).toBeChecked();
        }
      await touch(page, /^Done, next/);
    } else if (step === 'Close the batch') {
      await touch(page, 'Close the batch');
      await did('See it in the Log', page.getByRole('link', { name: 'See it in the Log.' }).click());
      return seen;
    } else if (await page.getByRole('region', { name: 'Next at the desk' }).isVisible()) {
      await run(page, quantity);
      if ((await title(page)) === step) await touch(page, /^Next/);
    } else await touch(page, /^(Done, next|Next)/);
    await expect.poll(() => title(page), { message: `after “${step}”` }).not.toBe(step);
  }
  throw new Error(`no end: ${seen.slice(-8).join(' | ')}`);
};

const begin = async (
  page: Page,
  piece: () => Promise<void>,
  name: string,
  names: readonly string[],
  way: RegExp,
  comes?: string,
): Promise<void> => {
  inputs = [];
  await page.goto('/');
  await page.evaluate(() => sessionStorage.setItem('bistre.sim', 'yes'));
  await did('New batch', page.getByRole('link', { name: 'New batch' }).click());
  await piece();
  await did('paste the names', page.getByLabel(/^Names or numbers/).fill(['name', ...names].join('\n')));
  if (comes) await choose(page.getByRole('combobox', { name: /It comes as/ }), comes);
  await did('name', page.getByLabel('What is it called?').fill(name));
  await did('choose the way', page.getByRole('radio', { name: way }).click());
  await did('Begin', page.getByRole('button', { name: 'Begin' }).click());
  await expect(page.getByRole('heading', { name })).toBeVisible();
  // The focus may stand in the first field that is empty, where a letter is a letter.
  await did('to the bench view', page.goto(page.url().replace(/\/blank.*$/, '/bench')));
  await page.getByRole('heading', { level: 2 }).first().waitFor();
};
/** A blank of the Shelf. */
const kept = (page: Page, blank: string) => async (): Promise<void> => {
  inputs.push('open the blanks', 'choose one');
  await choose(page.getByRole('combobox', { name: /^Blank/ }), blank);
};
/** A flask nobody measured yet. */
const flask = (page: Page) => async (): Promise<void> => {
  await kept(page, 'a new cup, glass or bar …')();
  inputs.push('open the materials', 'choose one');
  await choose(page.getByRole('combobox', { name: 'Material' }), 'steel');
  for (const [label, words] of [
    ['Name of the blank', 'Race flask'],
    ['Length', '150'],
    ['Diameter at the rim', '80'],
    ['Diameter at the base', '72'],
  ] as const)
    // prettier-ignore
    await did(`${label} ${words}`, page.getByLabel(label).fill(words));
};
const crews = (n: number): string[] => Array.from({ length: n }, (_, i) => `CREW ${i + 1}`);

test('24 tags on a board, from the bench view alone: to the first file, three marks, the Log', async ({ page }) => {
  await begin(page, kept(page, 'Boat tag'), 'Crew tags', crews(24), /^pockets/);
  await walk(page, 24, /^Slate acrylic, fine/, (step) => /^Aim at mark 1/.test(step));
  const before = inputs.length;
  // Three marks on the stand-in, homed first.
  for (let i = 0; i < 3; i += 1) {
    const step = await title(page);
    await aimAt(page);
    await expect.poll(() => title(page)).not.toBe(step);
  }
  const marks = inputs.length - before;
  await walk(page, 24, /^Slate acrylic, fine/, (step) => /^Lay the first piece/.test(step));
  const first = inputs.length;
  expect(marks, inputs.slice(before, before + marks).join('; ')).toBeLessThanOrEqual(18);
  expect(first, inputs.join('; ')).toBeLessThanOrEqual(35);
  await walk(page, 24, /./);
  await expect(page.getByText(/Batch closed: 24 of 24 done/)).toBeVisible();
  test.info().annotations.push({
    type: 'counted',
    description: `${marks} touches for three marks, ${first} inputs to the first file, ${inputs.length} to the Log`,
  });
});

test('flasks on rollers, from the bench view alone, to the Log', async ({ page }) => {
  await begin(page, flask(page), 'Race flasks', crews(2), /^a drive that turns it: Rollers/);
  await walk(page, 2, /^Coated steel/);
  await expect(page.getByText(/Batch closed: 2 of 2 done/)).toBeVisible();
  test.info().annotations.push({ type: 'counted', description: `${inputs.length} inputs to the Log` });
});

test('a printed sheet, from the bench view alone, to the Log', async ({ page }) => {
  await begin(
    page,
    kept(page, 'Bow-number decal'),
    'Stern numbers',
    crews(6),
    /^printed sheet/,
    'printed sheets, the pieces cut out of them',
  );
  await walk(page, 6, /^Decal film, cut/);
  await expect(page.getByText(/Batch closed: 6 of 6 done/)).toBeVisible();
  test.info().annotations.push({ type: 'counted', description: `${inputs.length} inputs to the Log` });
});
