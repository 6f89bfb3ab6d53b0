import { api, type BatchDocument, type BodyOf } from '@bistre/contract';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

type Verdict = BodyOf<typeof api.judgePieces>['pieces'][number];
const MOVE = { shift: { x: -0.3, y: 0.1 }, turn: 0, size: 0, about: { x: 195, y: 168 }, pieces: 1, chance: 0.001 };

withDatabase('the burn moved by what was measured', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('correct');
  });
  afterAll(() => shop.stop());

  const tags = (): Promise<BatchDocument> => shop.batch('Boat tags');
  const read = async (mark: number, x: number, y: number): Promise<void> =>
    void (await shop.call(api.takeReading, { params: { id: (await tags()).id }, body: { mark, x, y, source: 'typed', purpose: 'place' } })); // prettier-ignore
  const correct = async (name: string, move: object = MOVE): Promise<[number, BatchDocument & { code?: string }]> => {
    const { id, version } = await shop.batch(name);
    const response = await shop.send(api.correct, { params: { id }, body: { ...MOVE, ...move, version } as never });
    return [response.status, (await response.json()) as BatchDocument & { code?: string }];
  };

  it('is kept with who, when and what from, stands in the Log, and can be taken back', async () => {
    for (const [mark, x, y] of [[1, 120, 80], [2, 505, 410], [3, 505, 80]] as const) await read(mark, x, y); // prettier-ignore
    const { id } = await tags();
    await shop.call(api.startLoad, { params: { id } });
    // What of a load is burned already, nobody knows.
    expect((await correct('Boat tags'))[1].code).toBe('load-on');
    const verdict: Verdict = { slot: 1, state: 'done', cause: null, dx: 0.31, dy: -0.1, yaw: 0 };
    await shop.call(api.judgePieces, { params: { id }, body: { pieces: [verdict] } });
    const [status, after] = await correct('Boat tags');
    expect(status).toBe(200);
    const last = after.readings.at(-1)!.id;
    expect(after.setup.place.corrections).toEqual([
      { ...MOVE, id: expect.any(String), at: expect.any(String), by: expect.any(String), laying: last, load: 1 },
    ]);
    expect(after.canUndo!.summary).toBe('Burn moved 0.30 mm to the left and 0.10 mm away from you, by 1 measured piece'); // prettier-ignore
    await shop.call(api.undo, { params: { id }, body: { event: after.canUndo!.event } });
    expect((await tags()).setup.place.corrections ?? []).toEqual([]);
  });

  it('knows which loads were judged before the marks were read as they are now', async () => {
    expect((await tags()).laidAfter).toBe(0);
    await read(1, 120.1, 80);
    expect((await tags()).laidAfter).toBe(1);
    const { id } = await tags();
    await shop.call(api.layAnew, { params: { id } });
    expect((await tags()).laidAfter).toBe(0);
  });

  it('is refused where each piece is placed by itself, where it is past belief, and where another moved it meanwhile', async () => {
    expect((await correct('Umpire flasks'))[1].code).toBe('not-moved-as-a-whole');
    expect((await correct('Boat tags', { shift: { x: 25, y: 0 } }))[0]).toBe(400);
    const { id, version } = await tags();
    await shop.call(api.correct, { params: { id }, body: { ...MOVE, version } });
    const late = await shop.send(api.correct, { params: { id }, body: { ...MOVE, version } });
    expect(late.status).toBe(409);
  });

  it('holds for every sheet, whose marks leave with it', async () => {
    const [, decals] = await correct('Bow-number decals', { pieces: 3 });
    expect(decals.setup.place.corrections!.at(-1)).toMatchObject({ laying: null, pieces: 3 });
  });
});
