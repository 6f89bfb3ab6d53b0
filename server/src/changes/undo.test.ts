import { inPockets } from '../testing/held';
import { api, type BatchDocument } from '@bistre/contract';
import { sweepNow } from '../sweep';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

withDatabase('undo', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('undo');
  });
  afterAll(() => shop.stop());

  const batchOf = (id: string): Promise<BatchDocument> => shop.call(api.getBatch, { params: { id } });
  const undo = (id: string, event: number, sure?: boolean, by = 'Imre'): Promise<Response> =>
    shop.send(api.undo, { params: { id }, body: { event, ...(sure === undefined ? {} : { sure }) }, by });
  const note = async (id: string, notes: string, by = 'Imre'): Promise<number> => {
    const { version } = await batchOf(id);
    const after = await shop.call(api.saveSection, {
      params: { id },
      body: { section: 'close', value: { notes, keep: '' }, version },
      by,
    });
    return after.canUndo!.event;
  };
  const said = async (response: Response): Promise<{ code: string; message: string }> =>
    (await response.json()) as { code: string; message: string };

  it('takes back the change that is named, once: of two at once the second is told', async () => {
    const { id } = await shop.batch('Oar grips');
    await note(id, 'first');
    const event = await note(id, 'second');
    const answers = await Promise.all([undo(id, event), undo(id, event)]);
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409]);
    expect((await said(answers.find((a) => a.status === 409)!)).code).toBe('taken-back');
    expect((await batchOf(id)).setup.close.notes).toBe('first');
  });

  it('asks before it takes back what somebody else did, and says who', async () => {
    const { id } = await shop.batch('Oar grips');
    const event = await note(id, 'Odile’s words', 'Odile');
    const asked = await undo(id, event);
    expect(asked.status).toBe(409);
    expect(await said(asked)).toMatchObject({
      code: 'ask-undo',
      message: expect.stringMatching(/done by Odile/) as string,
    });
    expect((await batchOf(id)).setup.close.notes).toBe('Odile’s words');
    expect((await undo(id, event, true)).status).toBe(200);
    expect((await batchOf(id)).setup.close.notes).toBe('first');
  });

  it('asks before it takes back what a later change builds on, and says which', async () => {
    const { id } = await shop.batch('Oar grips');
    const early = await note(id, 'early');
    await note(id, 'late');
    const asked = await said(await undo(id, early));
    expect(asked).toMatchObject({
      code: 'ask-undo',
      message: expect.stringMatching(/“Closing notes changed” .* builds on it/) as string,
    });
    // Another part does not build on it.
    const { version } = await batchOf(id);
    const other = await shop.call(api.saveSection, {
      params: { id },
      body: { section: 'burn', value: { sweep: 'piece' }, version },
    });
    await note(id, 'later still');
    expect((await undo(id, other.canUndo!.event)).status).toBe(200);
    expect((await batchOf(id)).setup.close.notes).toBe('later still');
  });

  it('does not take back what is of another batch, or nothing at all', async () => {
    const { id } = await shop.batch('Oar grips');
    const { id: other } = await shop.batch('Boat tags');
    const event = await note(id, 'mine');
    expect((await undo(other, event)).status).toBe(422);
    expect((await undo(id, 999_999)).status).toBe(422);
    expect((await batchOf(id)).setup.close.notes).toBe('mine');
  });

  it('restores the hold settings that a board from the Shelf had replaced', async () => {
    const before = await shop.batch('Boat tags');
    const { id } = before;
    await shop.call(api.useFixture, { params: { id }, body: { revisionId: null, version: before.version } });
    const opened = await batchOf(id);
    const mine = await shop.call(api.saveSection, {
      params: { id },
      body: { section: 'held', value: inPockets(opened, { wall: 6.5 }), version: opened.version },
    });
    const taken = await shop.call(api.useFixture, {
      params: { id },
      body: { revisionId: before.fixture!.id, version: mine.version },
    });
    expect(taken.setup.held.choice).not.toMatchObject({ wall: 6.5 });
    expect((await undo(id, taken.canUndo!.event)).status).toBe(200);
    const after = await batchOf(id);
    expect([after.fixture, after.setup.held]).toEqual([null, mine.setup.held]);
    // A new revision saved over ticks that it opened again brings both back.
    await shop.call(api.useFixture, {
      params: { id },
      body: { revisionId: before.fixture!.id, version: after.version },
    });
    const again = await batchOf(id);
    expect(again.ticks.map((t) => t.step)).toContain('hold.cut');
    const saved = await shop.call(api.saveFixture, { params: { id }, body: { version: again.version } });
    expect(saved.fixture!.revision).toBe(before.fixture!.revision + 1);
    expect(saved.ticks.map((t) => t.step)).not.toContain('hold.cut');
    await undo(id, saved.canUndo!.event);
    const back = await batchOf(id);
    expect(back.fixture!.id).toBe(before.fixture!.id);
    expect(back.ticks.map((t) => t.step).sort()).toEqual(again.ticks.map((t) => t.step).sort());
  });

  it('restores a batch’s own fields, and the roster with the letters that came with it', async () => {
    const before = await shop.batch('Lane medals');
    const { id } = before;
    const changed = await shop.call(api.updateBatch, {
      params: { id },
      body: {
        name: 'Lane medals, gilt',
        customer: '',
        quantity: 30,
        spares: 1,
        tolerance: 0.4,
        dueAt: null,
        version: before.version,
      },
    });
    await undo(id, changed.canUndo!.event);
    const { name, quantity, spares, tolerance, dueAt, customer, version } = await batchOf(id);
    expect({ name, quantity, spares, tolerance, dueAt, customer }).toEqual({
      name: before.name,
      quantity: before.quantity,
      spares: before.spares,
      tolerance: before.tolerance,
      dueAt: before.dueAt,
      customer: before.customer,
    });
    const rows = Array.from({ length: 36 }, (_, i) => ({ name: `LANE ${i}` }));
    const named = await shop.call(api.saveRoster, { params: { id }, body: { columns: ['name'], rows, version } });
    expect(named.setup.lettering.lines).toHaveLength(1);
    await undo(id, named.canUndo!.event);
    const after = await batchOf(id);
    expect([after.roster, after.setup.lettering]).toEqual([before.roster, before.setup.lettering]);
  });

  it('keeps two past rosters of a batch for undo, and none for ever', async () => {
    const { id } = await shop.batch('Lane medals');
    for (const word of ['A', 'B', 'C', 'D']) {
      const { version } = await batchOf(id);
      await shop.call(api.saveRoster, { params: { id }, body: { columns: ['name'], rows: [{ name: word }], version } });
    }
    const kept = async (): Promise<number> =>
      (
        await shop.db
          .selectFrom('events')
          .select('id')
          .where('batch_id', '=', id)
          .where('kind', '=', 'roster')
          .where('undo', 'is not', null)
          .execute()
      ).length;
    expect(await kept()).toBe(2);
    await sweepNow(shop.db, new Date(Date.now() + 31 * 86_400_000));
    expect(await kept()).toBe(0);
  });

  describe('of verdicts', () => {
    const judge = async (id: string, slot: number, state: 'done' | 'scrap' | 'again'): Promise<BatchDocument> =>
      shop.call(api.judgePieces, {
        params: { id },
        body: { pieces: [{ slot, state, cause: state === 'scrap' ? 'blank flawed' : null }] },
      });

    it('gives the piece back to be judged, while the load is on', async () => {
      const { id } = await shop.batch('Boat tags');
      await shop.call(api.startLoad, { params: { id } });
      const first = await judge(id, 1, 'done');
      await undo(id, first.canUndo!.event);
      expect((await batchOf(id)).pieces.map((p) => [p.slot, p.state])).toEqual([[1, 'loaded']]);
      await judge(id, 1, 'done');
      await shop.call(api.approveFirst, { params: { id }, body: { approved: true } });
      const { pieces: loaded } = await shop.call(api.startLoad, { params: { id } });
      const scrapped = await judge(id, 1, 'scrap');
      const again = await judge(id, 2, 'again');
      await undo(id, again.canUndo!.event);
      await undo(id, scrapped.canUndo!.event);
      expect((await batchOf(id)).pieces).toEqual(loaded);
    });

    it('is refused once the next load was filled, and asked about when the first piece was approved on it', async () => {
      const { id } = await shop.batch('Cleat plates');
      await shop.call(api.startLoad, { params: { id } });
      const first = await judge(id, 1, 'done');
      await shop.call(api.approveFirst, { params: { id }, body: { approved: true } });
      const asked = await said(await undo(id, first.canUndo!.event));
      expect(asked).toMatchObject({
        code: 'ask-undo',
        message: expect.stringMatching(/“First piece approved”/) as string,
      });
      expect((await undo(id, first.canUndo!.event, true)).status).toBe(200);
      // With no piece done there is no first piece that could be approved.
      expect((await batchOf(id)).firstApproved).toBe(false);
      const second = await judge(id, 1, 'done');
      await shop.call(api.approveFirst, { params: { id }, body: { approved: true } });
      await shop.call(api.startLoad, { params: { id } });
      const late = await undo(id, second.canUndo!.event, true);
      expect([late.status, (await said(late)).code]).toEqual([409, 'load-off']);
    });

    it('lays a sheet back on the bed with its marks, when the last verdict had taken it off', async () => {
      const { id } = await shop.batch('Bow-number decals');
      await shop.call(api.saveFixture, { params: { id }, body: { version: (await batchOf(id)).version } });
      await shop.call(api.tick, { params: { id, step: 'hold.print' }, body: { done: true } });
      const reading = { mark: 1, x: 100, y: 100, source: 'typed', purpose: 'place' } as const;
      await shop.call(api.takeReading, { params: { id }, body: reading });
      await shop.call(api.startLoad, { params: { id } });
      const before = await batchOf(id);
      expect(before.pieces.filter((p) => p.state === 'loaded').length).toBeGreaterThan(1);
      const after = await shop.call(api.judgePieces, {
        params: { id },
        body: { pieces: before.pieces.map((p) => ({ slot: p.slot, state: 'done' as const, cause: null })) },
      });
      expect([after.readings, after.ticks.map((t) => t.step)]).toEqual([
        [],
        expect.not.arrayContaining(['hold.print']),
      ]);
      await undo(id, after.canUndo!.event);
      const back = await batchOf(id);
      expect(back.readings.map((r) => [r.mark, r.x])).toEqual([[1, 100]]);
      expect(back.ticks.map((t) => t.step)).toContain('hold.print');
    });
  });
});
