import { expect, type Locator, type Page } from '@playwright/test';

/** Chooses from a list that opens: by its words. */
export const choose = async (list: Locator, words: string): Promise<void> => {
  await list.click();
  await list.page().getByRole('option', { name: words, exact: true }).click();
};

/** Opens a batch of the Board by name. */
export const openBatch = async (page: Page, name: string, station: string): Promise<void> => {
  await page.goto('/');
  await page
    .getByRole('link', { name: new RegExp(name) })
    .first()
    .click();
  await page
    .getByRole('navigation', { name: 'Stations' })
    .getByRole('link', { name: new RegExp(station) })
    .click();
  await expect(page.getByRole('region', { name: 'Measure' })).toBeVisible();
};

interface Seen {
  x: number;
  y: number;
}

/** Middle of what the loupe shows, by eye: the mean of the lines’ crossings is read off the picture. */
export const loupeTarget = (page: Page, kind: 'mark' | 'burn'): Promise<Seen | null> =>
  page.getByRole('img', { name: /Loupe/ }).evaluate((svg, what) => {
    const size = svg.getBoundingClientRect().width;
    const k = size / 2 / 2.5;
    if (what === 'burn') {
      const dot = [...svg.querySelectorAll('circle')].find((c) => c.getAttribute('fill') === '#160d07');
      return dot
        ? { x: (Number(dot.getAttribute('cx')) - size / 2) / k, y: (size / 2 - Number(dot.getAttribute('cy'))) / k }
        : null;
    }
    // The two straight lines of the cross: their crossing is the mark's middle.
    const lines = [...svg.querySelectorAll('polyline')]
      .map((l) => (l.getAttribute('points') ?? '').split(' ').map((p) => p.split(',').map(Number) as [number, number]))
      .filter((p) => p.length === 2 && Math.hypot(p[1]![0] - p[0]![0], p[1]![1] - p[0]![1]) > size * 0.3);
    for (const a of lines) {
      for (const b of lines) {
        const [p, q] = a as [[number, number], [number, number]];
        const [r, s] = b as [[number, number], [number, number]];
        const d1 = [q[0] - p[0], q[1] - p[1]] as const;
        const d2 = [s[0] - r[0], s[1] - r[1]] as const;
        const det = d1[0] * d2[1] - d1[1] * d2[0];
        if (Math.abs(det) < 0.5 * Math.hypot(...d1) * Math.hypot(...d2)) continue;
        const t = ((r[0] - p[0]) * d2[1] - (r[1] - p[1]) * d2[0]) / det;
        return { x: (p[0] + t * d1[0] - size / 2) / k, y: (size / 2 - (p[1] + t * d1[1])) / k };
      }
    }
    // A hole: the circle through what is seen of its rim, by least squares (x² + y² = 2ax + 2by + c).
    const rim = [...svg.querySelectorAll('polyline')].flatMap((l) =>
      (l.getAttribute('points') ?? '').split(' ').map((p) => p.split(',').map(Number) as [number, number]),
    );
    if (rim.length < 6) return null;
    const [mx, my] = [0, 1].map((i) => rim.reduce((s, p) => s + p[i]!, 0) / rim.length) as [number, number];
    let [xx, xy, yy, xz, yz] = [0, 0, 0, 0, 0];
    for (const [px, py] of rim) {
      const [u, v] = [px - mx, py - my];
      xx += u * u;
      xy += u * v;
      yy += v * v;
      xz += (u * (u * u + v * v)) / 2;
      yz += (v * (u * u + v * v)) / 2;
    }
    const det = xx * yy - xy * xy;
    const cx = mx + (xz * yy - yz * xy) / det;
    const cy = my + (yz * xx - xz * xy) / det;
    return { x: (cx - size / 2) / k, y: (size / 2 - cy) / k };
  }, kind);

/** Does something to the simulated machine and waits until its panel, loupe and all, shows what came of it. */
export const moved = async (page: Page, act: () => Promise<void>): Promise<void> => {
  const answer = page.waitForResponse((r) => r.url().endsWith('/sim') && r.request().method() === 'POST');
  await act();
  const { display } = (await (await answer).json()) as { display: Seen };
  const panel = page.getByRole('group', { name: 'Simulated machine' });
  await expect(panel.getByText(`${display.x.toFixed(2)}, ${display.y.toFixed(2)}`, { exact: true })).toBeVisible();
};

/** Presses a jog key by the keyboard, again and again: the focus stays on it. */
const press = async (page: Page, way: string, times: number): Promise<void> => {
  if (times === 0) return;
  const key = page.getByRole('button', { name: `jog ${way}`, exact: true });
  await key.focus();
  for (let i = 0; i < times; i += 1) await moved(page, () => key.page().keyboard.press('Enter'));
  await expect(key).toBeFocused();
};

/** Jogs, coarse then fine, until the pointer's dot lies on what the loupe shows. */
export const aim = async (page: Page, kind: 'mark' | 'burn' = 'mark'): Promise<void> => {
  const panel = page.getByRole('group', { name: 'Simulated machine' });
  for (const step of ['1', '0.1']) {
    await panel.getByText(step, { exact: true }).click();
    for (let round = 0; round < 3; round += 1) {
      const seen = await loupeTarget(page, kind);
      if (!seen) throw new Error('nothing is under the loupe');
      const size = Number(step);
      const [nx, ny] = [Math.round(seen.x / size), Math.round(seen.y / size)];
      if (nx === 0 && ny === 0) break;
      await press(page, nx > 0 ? 'right' : 'left', Math.abs(nx));
      await press(page, ny > 0 ? 'away' : 'towards you', Math.abs(ny));
    }
  }
};

/** Moves the simulated head to where the eye sees a mark. */
export const push = async (page: Page, mark: number): Promise<void> => {
  await moved(page, () => page.getByRole('button', { name: `Push the head near mark ${mark}` }).click());
};

/** At the bench: brings the head over each mark and takes its reading, the first once more at the end. */
export const aimAtMarks = async (page: Page, marks: readonly number[]): Promise<void> => {
  const title = page.getByRole('heading', { level: 2 });
  await expect(page.getByRole('button', { name: /Push the head near/ })).toBeVisible();
  for (const mark of marks) {
    await expect(title).toHaveText(new RegExp(`mark ${mark}$`));
    await push(page, mark);
    await aim(page);
    await page.getByRole('button', { name: `Take reading of mark ${mark}` }).click();
  }
  await expect(title).toHaveText(`Read mark ${marks[0]} again`);
  await push(page, marks[0]!);
  await aim(page);
  await page.getByRole('button', { name: `Mark ${marks[0]} is under the dot again` }).click();
};

/** Homes the simulated machine; its answer is not to be taken for that of the next move. */
export const homeIt = async (page: Page): Promise<void> => {
  const homed = page.waitForResponse((r) => r.url().endsWith('/sim') && r.request().method() === 'POST');
  await page.getByRole('button', { name: 'Home it' }).click();
  await homed;
};

/** Homes the simulated machine and measures its pointer offset by a test dot. */
export const measurePointer = async (page: Page): Promise<void> => {
  await page.getByRole('button', { name: 'use the simulated machine' }).click();
  await homeIt(page);
  await push(page, 1);
  const burned = page.waitForResponse((r) => r.url().endsWith('/sim') && r.request().method() === 'POST');
  await page.getByRole('button', { name: 'burn a test dot here' }).click();
  await burned;
  await expect.poll(() => loupeTarget(page, 'burn')).not.toBeNull();
  await aim(page, 'burn');
  await page.getByRole('button', { name: /take the pointer offset/ }).click();
  await expect(page.getByText(/The pointer’s dot falls .* that is taken off/)).toBeVisible();
};

/** Homes the simulated machine, measures its pointer offset, and reads every mark. */
export const placeBoard = async (page: Page, marks: readonly number[] = [1, 2, 3]): Promise<void> => {
  await measurePointer(page);
  for (const mark of marks) {
    await push(page, mark);
    await expect(page.getByRole('img', { name: /Loupe/ })).toBeVisible();
    await aim(page);
    await page.getByRole('button', { name: `Take reading of mark ${mark}` }).click();
    await expect(page.getByText(`${mark} read`)).toBeVisible();
  }
  await push(page, 1);
  await aim(page);
  await page.getByRole('button', { name: 'Mark 1 is under the dot again' }).click();
  await expect(page.getByText(/Mark 1 came back within/)).toBeVisible();
};

/** Types into the simulated machine what stands in large figures. */
export const typeIntoMachine = async (page: Page): Promise<void> => {
  const button = page.getByRole('button', { name: /stands in the machine/ });
  const value = /^([\d.]+)/.exec(await button.innerText())![1]!;
  const set = page.waitForResponse((r) => r.url().endsWith('/cup') && r.request().method() === 'POST');
  await page.getByLabel(/^panel: steps/).fill(value);
  await set;
  await button.click();
  await expect(page.getByText(/typed in; back to/)).toBeVisible();
};

/** Burns on tape and reads the ring off the rule, as the eye would. */
export const readRing = async (page: Page): Promise<{ gap: boolean; mm: string } | null> => {
  const rule = page.getByText(/^By the rule/);
  const before = (await rule.count()) > 0 ? await rule.innerText() : '';
  const burned = page.waitForResponse((r) => r.url().endsWith('/cup/burn'));
  await page.getByRole('button', { name: 'Burn a ring on tape' }).click();
  await burned;
  // The answer is there before the page shows it: what the last ring said is no reading of this one.
  await expect(rule).not.toHaveText(before);
  const said = await rule.innerText();
  const read = /(gap|overlaps).*?([\d.]+) mm/.exec(said);
  return read ? { gap: read[1] === 'gap', mm: read[2]! } : null;
};
