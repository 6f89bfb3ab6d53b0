import { api, photoPath } from '@bistre/contract';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

withDatabase('the simulated bench, moved by several at once', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('sim');
  });
  afterAll(() => shop.stop());

  it('takes its photographs while the head is moved, and loses no move', async () => {
    const { id, setup, version } = await shop.batch('Gulls');
    const { held } = setup;
    if (held.way !== 'photo') throw new Error(held.way);
    await shop.call(api.saveSection, {
      params: { id },
      body: { section: 'held', value: { ...held, choice: { ...held.choice, marksOn: 'sheet' } }, version },
    });
    const act = (body: object): Promise<Response> => shop.send(api.simDo, { params: { id }, body });
    expect((await act({ act: 'home' })).status).toBe(200);
    const at = async (): Promise<number> => (await shop.call(api.simView, { params: { id } })).head.x;
    const from = await at();
    const [shot, ...moves] = await Promise.all([
      fetch(shop.base + photoPath(id)),
      ...[1, 2, 3].map((dx) => act({ act: 'jog', dx, dy: 0 })),
    ]);
    expect([shot.status, shot.headers.get('content-type')]).toEqual([200, 'image/png']);
    const taken = moves.filter((m) => m.status === 200).length;
    // One that others were quicker than too often is told, and nothing of it stays.
    for (const move of moves) expect([200, 409]).toContain(move.status);
    const steps = [1, 2, 3].filter((_, i) => moves[i]!.status === 200).reduce((sum, dx) => sum + dx, 0);
    expect(taken).toBeGreaterThan(0);
    expect((await at()) - from).toBeCloseTo(steps, 6);
  });

  it('reads the guide at both ends of the window, each time a little elsewhere, never how it really stands', async () => {
    const { id } = await shop.batch('Oar-rack plates');
    const read = async () => (await shop.call(api.simDo, { params: { id }, body: { act: 'guide' } })).feeder!.guide!;
    const [one, two] = [await read(), await read()];
    const lean = ({ a, b }: typeof one): number => (1000 * (b.y - a.y)) / (b.x - a.x);
    // Stood by eye within a millimetre a metre; aimed at within a tenth over some 600 mm.
    for (const ends of [one, two]) expect(Math.abs(lean(ends))).toBeLessThan(1.5);
    expect(one.b.x - one.a.x).toBeGreaterThan(400);
    expect(two).not.toEqual(one);
    expect(Math.abs(lean(two) - lean(one))).toBeLessThan(1.5);
  });

  it('keeps what it hides: neither view nor run tells where the board truly lies', async () => {
    const { id } = await shop.batch('Boat tags');
    const text = await (await shop.send(api.simView, { params: { id } })).text();
    expect(text).not.toMatch(/hidden|pose|seed|lean/);
  });
});
