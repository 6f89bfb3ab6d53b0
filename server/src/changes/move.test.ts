import { api, type BatchDocument, type MachineDocument } from '@bistre/contract';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

withDatabase('a batch whose rest is done on another machine', () => {
  let shop: TestShop;
  let other: MachineDocument;
  beforeAll(async () => {
    shop = await startShop('moved');
    const { machine } = await shop.batch('Boat tags');
    other = (await shop.call(api.listMachines)).find((m) => m.id !== machine.id)!;
  });
  afterAll(() => shop.stop());

  const tags = (): Promise<BatchDocument> => shop.batch('Boat tags');
  const move = async (name: string, machineId: string): Promise<[number, BatchDocument & { code: string; message: string }]> => {
    const { id, version } = await shop.batch(name);
    const response = await shop.send(api.moveBatch, { params: { id }, body: { machineId, version }, by: 'Odile' });
    return [response.status, (await response.json()) as never];
  }; // prettier-ignore

  it('forgets what was read, ticked and chosen on the first, by name; pieces, board and names stay', async () => {
    const { id } = await tags();
    for (const [mark, x, y] of [[1, 120, 80], [2, 505, 410]] as const) await shop.call(api.takeReading, { params: { id }, body: { mark, x, y, source: 'typed', purpose: 'place' } }); // prettier-ignore
    for (const step of ['place.home', 'hold.cut']) await shop.call(api.tick, { params: { id, step }, body: { done: true } }); // prettier-ignore
    const before = await tags();
    const [status, after] = await move('Boat tags', other.id);
    expect(status).toBe(200);
    expect(after.machine.id).toBe(other.id);
    expect([after.readings, after.recipe, after.firstApproved]).toEqual([[], null, false]);
    expect(after.ticks.map((t) => t.step)).not.toContain('place.home');
    expect(after.ticks.map((t) => t.step)).toContain('hold.cut');
    expect([after.fixture!.id, after.roster, after.pieces]).toEqual([before.fixture!.id, before.roster, before.pieces]);
    expect(after.canUndo!.summary).toMatch(new RegExp(`^Moved from ${before.machine.name} to ${other.name}; forgotten: 2 readings of marks, recipe ${before.recipe!.name}`)); // prettier-ignore
  });

  it('comes back whole when the move is taken back', async () => {
    const moved = await tags();
    const back = await shop.call(api.undo, { params: { id: moved.id }, body: { event: moved.canUndo!.event }, by: 'Odile' }); // prettier-ignore
    expect(back.machine.id).not.toBe(other.id);
    expect(back.readings.map((r) => r.mark)).toEqual([1, 2]);
    expect(back.ticks.map((t) => t.step)).toContain('place.home');
    expect(back.recipe).not.toBeNull();
  });

  it('is refused while a load is on, where it is already, and to a machine that is not there', async () => {
    const now = await tags();
    expect((await move('Boat tags', now.machine.id))[1].code).toBe('there-already');
    expect((await move('Boat tags', now.id))[0]).toBe(404);
    await shop.call(api.startLoad, { params: { id: now.id } });
    expect((await move('Boat tags', other.id))[1].code).toBe('load-on');
  });

  it('is refused while a setting of the first is not put back, by its name', async () => {
    const { id } = await shop.batch('Lane medals');
    await shop.call(api.addPutback, { params: { id }, body: { setting: 'air assist', was: 'on', now: 'off' } });
    const medals = await shop.batch('Lane medals');
    const to = (await shop.call(api.listMachines)).find((m) => m.id !== medals.machine.id)!;
    const [status, said] = await move('Lane medals', to.id);
    expect([status, said.code]).toEqual([422, 'put-back-first']);
    expect(said.message).toContain('air assist');
  });

  it('of round work forgets what the drive was set to there', async () => {
    const flasks = await shop.batch('Umpire flasks');
    for (const { id } of flasks.putbacks) await shop.call(api.restorePutback, { params: { id: flasks.id, putback: id }, body: { restored: true } }); // prettier-ignore
    const to = (await shop.call(api.listMachines)).find((m) => m.id !== flasks.machine.id)!;
    const [status, after] = await move('Umpire flasks', to.id);
    if (status === 422) return expect(after.code).toBe('load-on');
    const { found } = after.setup.held as unknown as { found: { numberSet: number | null } };
    expect(found.numberSet).toBeNull();
    expect(after.drive!.id).toBe(flasks.drive!.id);
  });
});
