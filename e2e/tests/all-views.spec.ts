import { expect, test, type Page } from '@playwright/test';

/** What of a page is cut off, runs into something else, or does not fit its width: in words, for whoever mends it. */
const amiss = (): string[] => {
  const out: string[] = [];
  const page = document.documentElement;
  const seen = (e: Element): boolean => {
    const style = getComputedStyle(e);
    const box = e.getBoundingClientRect();
    return style.visibility !== 'hidden' && style.display !== 'none' && box.width > 1 && box.height > 1 && !e.closest('.sr-only, [hidden], [data-scrolls], details:not([open]) > :not(summary)'); // prettier-ignore
  };
  if (page.scrollWidth > page.clientWidth + 1) out.push(`sideways by ${page.scrollWidth - page.clientWidth}`);
  const words = (e: Element): string => (e.textContent ?? '').trim().slice(0, 40);
  const own = [...document.querySelectorAll('body *')].filter((e) => !e.closest('svg, script, style, title') && [...e.childNodes].some((n) => n.nodeType === Node.TEXT_NODE && n.textContent!.trim() !== '') && seen(e)); // prettier-ignore
  for (const e of own)
    if (getComputedStyle(e).overflowX !== 'visible' && e.clientWidth > 0 && e.scrollWidth > e.clientWidth + 1)
      out.push(`cut: ${words(e)}`);
  for (const field of document.querySelectorAll<HTMLInputElement>('input.field'))
    if (seen(field) && field.scrollWidth > field.clientWidth + 1) out.push(`field: ${field.value}`);
  /** What of a line of text is in sight: what scrolls away is not. */
  const inSight = (e: Element, r: DOMRect): DOMRect | null => {
    let { left, top, right, bottom } = r;
    for (let p = e.parentElement; p; p = p.parentElement) {
      const { overflowX, overflowY } = getComputedStyle(p);
      if (overflowX === 'visible' && overflowY === 'visible') continue;
      const box = p.getBoundingClientRect();
      [left, top, right, bottom] = [Math.max(left, box.left), Math.max(top, box.top), Math.min(right, box.right), Math.min(bottom, box.bottom)]; // prettier-ignore
    }
    return right > left && bottom > top ? new DOMRect(left, top, right - left, bottom - top) : null;
  };
  const pinned = (e: Element): Element | null => {
    for (let p: Element | null = e; p; p = p.parentElement)
      if (['fixed', 'sticky'].includes(getComputedStyle(p).position)) return p;
    return null;
  };
  const lines = own.flatMap((e) =>
    [...e.childNodes]
      .filter((n) => n.nodeType === Node.TEXT_NODE && n.textContent!.trim() !== '')
      .flatMap((n) => {
        const range = document.createRange();
        range.selectNodeContents(n);
        return [...range.getClientRects()].flatMap((r) => {
          const box = inSight(e, r);
          return box ? [{ e, text: n.textContent!.trim().slice(0, 30), box, pin: pinned(e) }] : [];
        });
      }),
  );
  lines.forEach((a, i) => {
    for (const b of lines.slice(i + 1)) {
      if (a.e === b.e || a.e.contains(b.e) || b.e.contains(a.e) || a.pin !== b.pin) continue;
      const w = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left);
      const h = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top);
      // Lines of text stand closer than their letters are tall.
      if (w > 2 && h > 6) out.push(`collide: ${a.text} | ${b.text}`);
    }
  });
  return out;
};

/** What can be pressed and is smaller than a finger wants it, pixels; words within a text may be as high as their line. */
const small = (): string[] =>
  [...document.querySelectorAll<HTMLElement>('a[href], button, input, select, textarea, summary')].flatMap((e) => {
    const own = e.getBoundingClientRect();
    const hidden = getComputedStyle(e).visibility === 'hidden' || own.width < 2 || e.closest('.sr-only, .skip, [hidden], [aria-hidden="true"]'); // prettier-ignore
    if (hidden || (e as HTMLButtonElement).disabled) return [];
    // A box with its words beside it is as large as both.
    const label = (e as HTMLInputElement).labels?.[0];
    const beside = label && (e.getAttribute('role') === 'checkbox' || /checkbox|radio|file/.test((e as HTMLInputElement).type)) ? label.getBoundingClientRect() : own; // prettier-ignore
    const width = Math.max(own.right, beside.right) - Math.min(own.left, beside.left);
    const height = Math.max(own.bottom, beside.bottom) - Math.min(own.top, beside.top);
    const least = e.matches('.link, .figure, p a, li a') ? 24 : 44;
    return Math.min(width, height) < least - 0.5 ? [`small: ${(e.getAttribute('aria-label') ?? e.textContent ?? e.id).trim().slice(0, 30)} ${width.toFixed(0)} × ${height.toFixed(0)}`] : []; // prettier-ignore
  });

/** Four ways that have little in common; this runs before anything is changed in the demo, by its name. */
const FOUR = ['pockets', 'drive', 'sheet', 'feed'];
const ALL = [...FOUR, 'fence', 'pegs', 'locator', 'panel', 'long', 'marked', 'photo', 'cradle'];

const walk = async (page: Page, ways: readonly string[], touched = false): Promise<readonly string[]> => {
  const found: string[] = [];
  const look = async (path: string, name: string): Promise<void> => {
    await page.goto(path);
    await page.waitForLoadState('networkidle');
    for (const words of [...(await page.evaluate(amiss)), ...(touched ? await page.evaluate(small) : [])]) found.push(`${name}: ${words}`); // prettier-ignore
  };
  for (const path of ['/', '/new', '/log', '/shelf/blanks', '/shelf/machines', '/shelf/recipes', '/shelf/steps', '/shelf/steps/new', '/shelf/artworks', '/shelf/artworks/new', '/read-in']) await look(path, path); // prettier-ignore
  const trials = (await (await page.request.get('/api/trials')).json()) as { id: string; photo: object | null }[];
  const seen = trials.find((t) => t.photo)!;
  for (const [path, name] of [['/shelf/trials', 'trials'], ['/shelf/trials/new', 'new trial'], [`/shelf/trials/${seen.id}`, 'a trial']] as const) await look(path, name); // prettier-ignore
  const all = (await (await page.request.get('/api/batches')).json()) as { id: string; way: string }[];
  for (const way of ways) {
    const { id } = all.find((b) => b.way === way)!;
    await page.goto(`/batches/${id}/blank`);
    const links = page.getByRole('navigation', { name: 'Stations' }).getByRole('link');
    await links.first().waitFor();
    const paths = await links.evaluateAll((of) => of.map((a) => a.getAttribute('href')!));
    for (const path of [...paths, `/batches/${id}/bench`, `/batches/${id}/again`])
      await look(path, `${way} ${path.split('/').at(-1)!}`);
  }
  return found;
};

for (const [width, height, ways] of [
  [1280, 800, FOUR.slice(0, 2)],
  // As narrow as both columns stand side by side: here all of them.
  [1024, 768, ALL],
  [768, 1024, FOUR],
  // 1280 × 800 at 200 %: what the page then has to lay its words in.
  [640, 400, FOUR.slice(0, 2)],
] as const)
  test(`nothing is cut or runs into something else at ${width} × ${height}`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    // A tablet held upright is touched; what is pressed there is as large as a finger.
    expect(await walk(page, ways, width === 768)).toEqual([]);
  });

test('no page scrolls sideways on a phone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  expect((await walk(page, FOUR)).filter((words) => words.includes(': sideways'))).toEqual([]);
});
