import { api } from '@bistre/contract';
import { connectToRead } from '../db/connect';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

const dxf = (entities: string): string => `0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`;
const svg = (body: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60">${body}</svg>`;
/** A line to and fro over the drawing that crosses itself everywhere. */
const scribble = (points: number, by: number): string =>
  `M${Array.from({ length: points }, (_, i) => `${(i * 37 * by) % 59} ${(i * 23 + by) % 58}.${i % 97}`).join('L')}Z`;
/** Files as a hostile or careless program would write them; small all of them, but the last two. */
const HOSTILE: readonly (readonly [string, string, string])[] = [
  ['an arc to 1e300 degrees', 'a.dxf', dxf('0\nARC\n8\n0\n10\n0\n20\n0\n40\n10\n50\n0\n51\n1e300\n')],
  ['a circle beyond all measure', 'c.dxf', dxf('0\nCIRCLE\n8\n0\n10\n0\n20\n0\n40\n1e300\n')],
  [
    'ten thousand loose lines',
    'l.dxf',
    dxf(
      Array.from(
        { length: 10_000 },
        (_, i) => `0\nLINE\n8\n0\n10\n${i % 100}\n20\n${i}\n11\n${i % 100}.5\n21\n${i}\n`,
      ).join(''),
    ),
  ],
  ['curves on each other', 'o.svg', svg(`<path d="M30 5${'c20 0 20 50 0 50c-20 0-20-50 0-50'.repeat(350)}Z"/>`)],
  ['a million curves', 'm.svg', svg(`<path d="M0 0${'c9 0 0 9 1 1'.repeat(380_000)}"/>`)],
  [
    'shapes that use shapes that use shapes, a hundred thousand in all',
    'u.svg',
    svg(
      `<defs><rect id="g0" width="1" height="1"/>${Array.from({ length: 5 }, (_, i) => `<g id="g${i + 1}">${`<use href="#g${i}"/>`.repeat(10)}</g>`).join('')}</defs><use href="#g5"/>`,
    ),
  ],
  [
    'transforms nested and long',
    't.svg',
    svg(
      `${`<g transform="${'scale(1) '.repeat(7_000)}">`.repeat(60)}${'<rect width="9" height="9"/>'.repeat(1_900)}${'</g>'.repeat(60)}`,
    ),
  ],
  [
    'a scribble cut by a scribble',
    's.svg',
    svg(
      `<clipPath id="c"><path d="${scribble(4_000, 1)}"/></clipPath><g clip-path="url(#c)"><path d="${scribble(4_000, 2)}"/></g>`,
    ),
  ],
];

withDatabase('threads', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('threads');
  });
  afterAll(() => shop.stop());

  const health = async (): Promise<void> => expect((await shop.send(api.health)).status).toBe(200);
  const until = async (there: () => boolean | Promise<boolean>): Promise<void> => {
    for (let i = 0; i < 400 && !(await there()); i += 1) await new Promise((done) => setTimeout(done, 25));
    expect(await there()).toBe(true);
  };

  it.each(HOSTILE)('%s: answered in words, and the server answers others meanwhile', async (_what, name, text) => {
    const began = performance.now();
    const answer = shop.send(api.readOutline, { body: { name, text, wanted: 'outline' } });
    let others = 0;
    let over = false;
    void answer.finally(() => (over = true));
    while (!over) {
      await health();
      others += 1;
    }
    const response = await answer;
    const value = (await response.json()) as { code?: string; message?: string; contours?: unknown[] };
    expect([200, 422]).toContain(response.status);
    if (response.status === 422) expect(value.message).toMatch(/^[A-Z].*\.$/);
    // Read on the server's only thread, it would keep all others waiting until it is done: one or two are answered then. What
    // is answered at once tells nothing.
    if (performance.now() - began > 1_500) expect(others).toBeGreaterThan(2);
  });

  it('a file that uses up its processor time is given up in words, and the next one is read', async () => {
    const text = HOSTILE.at(-1)![2];
    const spent = await shop.send(api.readOutline, { body: { name: 't.svg', text } });
    const { code, message } = (await spent.json()) as { code: string; message: string };
    expect([spent.status, code]).toEqual([422, 'too-costly']);
    expect(message).toMatch(/takes more than 3 seconds to read.*Nothing was changed/);
    const next = await shop.send(api.readOutline, {
      body: { name: 'r.svg', text: svg('<rect width="9" height="9"/>') },
    });
    expect(next.status).toBe(200);
  });

  it('nothing is computed for somebody who has gone: the thread is free again', async () => {
    const { id, version } = await shop.batch('Lane medals');
    const rows = Array.from({ length: 20_000 }, (_, i) => ({ name: `CREW ${i}` }));
    await shop.call(api.updateBatch, {
      params: { id },
      body: { name: 'Lane medals', customer: '', quantity: 20_000, spares: 0, tolerance: 0.6, dueAt: null, version },
    });
    await shop.call(api.saveRoster, { params: { id }, body: { columns: ['name'], rows, version: version + 1 } });
    const gone = new AbortController();
    const asked = fetch(`${shop.base}/api/batches/${id}/files/proof.pdf`, { signal: gone.signal });
    await until(() => shop.workers.busy().writing > 0);
    gone.abort();
    await expect(asked).rejects.toThrow(/abort/);
    await until(() => shop.workers.busy().writing === 0);
    expect((await shop.call(api.listLog)).rows[0]!.summary).not.toMatch(/proof\.pdf/);
  });

  it('a long file comes in pieces, whole, and says its length by what it holds', async () => {
    const { id } = await shop.batch('Boat tags');
    const response = await fetch(`${shop.base}/api/batches/${id}/files/board.gcode`);
    const text = await response.text();
    expect(text.length).toBeGreaterThan(20_000);
    expect(text.trimEnd().split('\n').at(-1)).toMatch(/^(M2|M30|%)/);
  });

  it('what is refused in a thread comes with its own status and words', async () => {
    const { id } = await shop.batch('Boat tags');
    const missing = await fetch(`${shop.base}/api/batches/${id}/files/print.pdf`);
    expect([missing.status, ((await missing.json()) as { code: string }).code]).toEqual([422, 'no-such-file']);
    const nobody = await fetch(`${shop.base}/api/batches/00000000-0000-4000-8000-000000000000/files/setup.pdf`);
    expect(nobody.status).toBe(404);
  });

  it('threads only read: PostgreSQL refuses them everything else', async () => {
    const db = connectToRead(shop.url);
    await expect(db.deleteFrom('events').execute()).rejects.toThrow(/read-only/);
    await db.destroy();
  });
});
