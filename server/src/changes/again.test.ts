import { api, type BatchDocument, type BodyOf } from '@bistre/contract';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

type Body = BodyOf<typeof api.againBatch>;

withDatabase('the same again', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('again');
  });
  afterAll(() => shop.stop());

  const again = async (
    name: string,
    more: Partial<Body> = {},
    from?: string,
  ): Promise<[BatchDocument, readonly string[], BatchDocument]> => {
    // prettier-ignore
    const old = from ? await shop.call(api.getBatch, { params: { id: from } }) : await shop.batch(name);
    const body = { name: `${name}, again`, quantity: 12, spares: 1, dueAt: null, ...more };
    const { id, since } = await shop.call(api.againBatch, { params: { id: old.id }, body, by: 'Odile' });
    return [await shop.call(api.getBatch, { params: { id } }), since, old];
  };

  it('has the piece, the way with its board, letters, recipe and tolerance; nothing that was read, ticked or judged', async () => {
    const { id } = await shop.batch('Boat tags');
    await shop.call(api.takeReading, { params: { id }, body: { mark: 1, x: 120, y: 80, source: 'typed', purpose: 'place' } }); // prettier-ignore
    await shop.call(api.startLoad, { params: { id } });
    for (const step of ['hold.cut', 'hold.fit', 'place.home']) await shop.call(api.tick, { params: { id, step }, body: { done: true } }); // prettier-ignore
    const [batch, , old] = await again('Boat tags');
    expect(batch).toMatchObject({ quantity: 12, spares: 1, tolerance: old.tolerance, customer: old.customer });
    expect([batch.blank.id, batch.machine.id, batch.recipe?.id, batch.fixture?.id]).toEqual([old.blank.id, old.machine.id, old.recipe!.id, old.fixture!.id]); // prettier-ignore
    expect(batch.setup.lettering).toEqual(old.setup.lettering);
    expect(batch.setup.held.choice).toEqual(old.setup.held.choice);
    expect([batch.readings, batch.pieces, batch.putbacks, batch.firstApproved]).toEqual([[], [], [], false]);
    // What made the board is done, and nothing else: it lies elsewhere now.
    const made = old.ticks
      .map((t) => t.step)
      .filter((s) => s.startsWith('hold.'))
      .sort();
    expect(batch.ticks.map((t) => t.step).sort()).toEqual(made);
    expect(made).toContain('hold.cut');
    expect(old.readings).toHaveLength(1);
    expect(batch.columns).toEqual(old.columns);
    expect(batch.roster).toEqual([]);
  });

  it('takes the new names, mapped to the columns as before, and says which is missing', async () => {
    const rows = [{ name: 'AVOCET', seat: 'LANE 1' }, { name: 'LINNET', seat: 'LANE 2' }]; // prettier-ignore
    const [batch, since] = await again('Boat tags', { quantity: 2, roster: { columns: ['name', 'seat'], rows } });
    expect(batch.roster).toEqual(rows);
    expect(batch.setup.lettering.lines.map((l) => l.column)).toEqual(['name', 'seat']);
    expect(since.filter((s) => /no column/.test(s))).toEqual([]);
    const [, lacks] = await again('Boat tags', { name: 'x', roster: { columns: ['name'], rows: [{ name: 'AVOCET' }] } }); // prettier-ignore
    expect(lacks).toContain('The new list has no column seat, which is lettered: choose another at the Run station.');
  });

  it('a drive comes with what it was measured at with that blank; nothing stands in the machine for it yet', async () => {
    const [batch, , old] = await again('Umpire flasks');
    expect(batch.drive!.id).toBe(old.drive!.id);
    expect(batch.setup.faces).toEqual(old.setup.faces);
    expect(batch.rings.map((r) => r.id)).toEqual(old.rings.map((r) => r.id));
    expect(batch.setup.held).toMatchObject({ way: 'drive', found: { numberSet: null, accelerationSet: null } });
  });

  it('art by the list and serial numbers go on: numbers are given once in the shop', async () => {
    const [batch, , old] = await again('Stopwatch cases', { quantity: 3 });
    const alike = (b: BatchDocument) => b.setup.contents!.map((c) => (c.kind === 'serial' ? { ...c, first: null } : c));
    expect(alike(batch)).toEqual(alike(old));
    const numbers = (b: BatchDocument) => b.serials.flatMap((s) => s.numbers.filter((n) => n !== null));
    expect(numbers(batch).filter((n) => numbers(old).includes(n))).toEqual([]);
    expect(numbers(batch).length).toBeGreaterThan(0);
  });

  it('says what changed since, in sentences, and puts it in the Log', async () => {
    const [, quiet] = await again('Oar grips', { name: 'quiet' });
    expect(quiet).toEqual([]);
    const { id, blank, recipe } = await shop.batch('Berth tiles, slate');
    await shop.call(api.closeBatch, { params: { id }, body: { reason: 'the last of them broke' } });
    await shop.call(api.addSample, { params: { id: blank.id }, body: { dimension: 'length', value: 100.02 } as never });
    if (recipe) await shop.call(api.setAway, { params: { kind: 'recipes', id: recipe.id }, body: { away: true } });
    const [batch, since] = await again('Berth tiles, slate', { name: 'tiles again' }, id);
    expect(since).toContain(`1 size of ${blank.name} was measured since.`);
    if (recipe) {
      expect(since).toContain(`Its recipe ${recipe.name} is put away: choose another.`);
      expect(batch.recipe).toBeNull();
    }
    const log = await shop.call(api.listLog);
    expect(log.rows.map((r) => r.summary).join(' ')).toMatch(/The same again as Berth tiles, slate; \d things? changed since/); // prettier-ignore
  });
});
