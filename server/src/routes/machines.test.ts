import { api, type MachineDocument } from '@bistre/contract';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

withDatabase('what was changed on a machine, and what a thing was used by', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('machine_changes');
  });
  afterAll(() => shop.stop());

  const machine = async (): Promise<MachineDocument> => (await shop.batch('Boat tags')).machine;
  const add = async (what: 'lens' | 'belts', at: string, note = ''): Promise<MachineDocument> =>
    shop.call(api.addMachineChange, { params: { id: (await machine()).id }, body: { what, note, at }, by: 'Odile' });

  it('is kept with who and when, the latest first, and stands in every batch on it', async () => {
    await add('belts', '2026-11-01T08:00:00.000Z');
    const now = await add('lens', '2026-11-20T08:00:00.000Z', '50 mm');
    expect(now.changes.map((c) => [c.what, c.note, c.by])).toEqual([['lens', '50 mm', 'Odile'], ['belts', '', 'Odile']]); // prettier-ignore
    expect((await machine()).changes).toEqual(now.changes);
    const { rows } = await shop.call(api.listLog);
    expect(rows[0]!.summary).toBe(`${now.name}: lens changed on 2026-11-20, 50 mm`);
  });

  it('is taken out, and back in by undo', async () => {
    const { id, changes } = await machine();
    const less = await shop.call(api.dropMachineChange, { params: { id, change: changes[0]!.id }, by: 'Odile' });
    expect(less.changes.map((c) => c.what)).toEqual(['belts']);
    const { change } = await shop.call(api.shelfUndoable, { params: { id } });
    await shop.call(api.undoShelf, { params: { id }, body: { event: change!.event }, by: 'Odile' });
    expect((await machine()).changes.map((c) => c.what)).toEqual(['lens', 'belts']);
    const gone = await shop.send(api.dropMachineChange, { params: { id, change: id } });
    expect(gone.status).toBe(404);
  });

  it('is said when the same is made again after it', async () => {
    const { id } = await shop.batch('Boat tags');
    const body = { name: 'Boat tags, next year', quantity: 3, spares: 1, dueAt: null };
    await add('lens', new Date(Date.now() + 60_000).toISOString(), 'the long one');
    const { since } = await shop.call(api.againBatch, { params: { id }, body });
    expect(since.some((s) => /lens changed on .*, the long one\./.test(s))).toBe(true);
    expect(since.filter((s) => s.startsWith('Machine changed'))).toEqual([]);
    const { name, profile, version, id: machineId } = await machine();
    await shop.call(api.saveMachine, { params: { id: machineId }, body: { name, version, profile: { ...profile, rapidSpeed: profile.rapidSpeed + 1 } } }); // prettier-ignore
    const next = await shop.call(api.againBatch, {
      params: { id },
      body: { ...body, name: 'Boat tags, the year after' },
    });
    expect(next.since.filter((s) => s.startsWith('Machine changed'))).toEqual([`Machine changed: ${name}.`]);
  });

  it('lists the batches of a blank, a machine, a recipe and a fixture, with what became of them', async () => {
    const tags = await shop.batch('Boat tags');
    for (const id of [tags.blank.id, tags.machine.id, tags.recipe!.id, tags.fixture!.fixtureId]) {
      const runs = await shop.call(api.listRuns, { params: { id } });
      const run = runs.find((r) => r.id === tags.id)!;
      expect(run).toMatchObject({ name: tags.name, quantity: tags.quantity, machineName: tags.machine.name, revision: tags.fixture!.revision }); // prettier-ignore
      expect(run.done).toBe(tags.pieces.filter((p) => p.state === 'done').length);
    }
    expect((await shop.send(api.listRuns, { params: { id: '00000000-0000-4000-8000-000000000000' } })).status).toBe(
      404,
    );
  });

  it('tells a closed one by when, and leaves out what is put away', async () => {
    const tags = await shop.batch('Boat tags');
    const runs = await shop.call(api.listRuns, { params: { id: tags.blank.id } });
    const [old] = (await shop.call(api.listBatches)).filter((b) => b.blankId === tags.blank.id && b.id !== tags.id);
    expect(runs.map((r) => r.id)).toContain(old!.id);
    await shop.call(api.setAway, { params: { kind: 'batches', id: old!.id }, body: { away: true } });
    expect((await shop.call(api.listRuns, { params: { id: tags.blank.id } })).map((r) => r.id)).not.toContain(old!.id);
  });
});
