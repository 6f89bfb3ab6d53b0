import { api, type BatchDocument } from '@bistre/contract';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

withDatabase('the customer’s approval of a proof', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('approval');
  });
  afterAll(() => shop.stop());

  const tags = (): Promise<BatchDocument> => shop.batch('Boat tags');
  const ask = async (wanted: boolean): Promise<BatchDocument> => {
    const { id, version } = await tags();
    return shop.call(api.askApproval, { params: { id }, body: { wanted, version } });
  };
  const approve = async (signedBy: string, note = '', by = 'Odile'): Promise<BatchDocument> => {
    const { id, version } = await tags();
    return shop.call(api.takeApproval, { params: { id }, body: { signedBy, note, version }, by });
  };
  const rename = async (piece: number, boat: string): Promise<BatchDocument> => {
    const { id, version, columns, roster } = await tags();
    const [first] = columns;
    const rows = roster.map((row, i) => (i === piece - 1 ? { ...row, [first!]: boat } : row));
    return shop.call(api.saveRoster, { params: { id }, body: { columns, rows, version } });
  };

  it('is nobody’s until it is asked for; asked for, it waits', async () => {
    expect((await tags()).approval).toEqual({ wanted: false, revision: 1, given: null, differs: [], differences: 0 });
    const asked = await ask(true);
    expect(asked.approval).toMatchObject({ wanted: true, revision: 1, given: null });
    expect(asked.canUndo!.summary).toBe('Waits for the customer’s approval of the proof');
  });

  it('lets the first piece be loaded, and nothing after it', async () => {
    const { id } = await tags();
    const one = await shop.call(api.startLoad, { params: { id } });
    expect(one.pieces.filter((p) => p.state === 'loaded')).toHaveLength(1);
    await shop.call(api.judgePieces, { params: { id }, body: { pieces: [{ slot: 1, state: 'done', cause: null, dx: 0, dy: 0, yaw: 0 }] } }); // prettier-ignore
    await shop.call(api.approveFirst, { params: { id }, body: { approved: true } });
    const refused = await shop.send(api.startLoad, { params: { id } });
    expect([refused.status, ((await refused.json()) as { code: string }).code]).toEqual([422, 'customer-waits']);
  });

  it('keeps who, when, whose words and which revision; the same proof is not approved twice', async () => {
    const kept = await approve('the regatta committee', 'Lane 4 in capitals, please', 'Imre');
    expect(kept.approval.given).toEqual({
      revision: 1,
      at: expect.any(String),
      by: 'Imre',
      signedBy: 'the regatta committee',
      note: 'Lane 4 in capitals, please',
    });
    expect(kept.canUndo!.summary).toBe(
      'Proof revision 1 approved by the regatta committee: Lane 4 in capitals, please',
    );
    const { id, version } = await tags();
    const again = await shop.send(api.takeApproval, { params: { id }, body: { signedBy: 'the regatta committee', note: '', version } }); // prettier-ignore
    expect(((await again.json()) as { code: string }).code).toBe('approved-already');
  });

  it('is asked again when a name is changed, by its difference; put back as it was it holds', async () => {
    const { roster, columns } = await tags();
    const was = roster[2]![columns[0]!]!;
    const changed = await rename(3, 'GREBE');
    expect(changed.approval).toMatchObject({ revision: 2, differences: 1 });
    expect(changed.approval.differs).toEqual([`Piece 3, ${columns[0]}: “${was}” → “GREBE”.`]);
    expect((await shop.send(api.startLoad, { params: { id: changed.id } })).status).toBe(422);
    const back = await rename(3, was);
    expect(back.approval).toMatchObject({ revision: 1, differences: 0, differs: [] });
  });

  it('tells the first dozen of many differences, and counts the rest', async () => {
    const { id, version, columns, roster } = await tags();
    const rows = roster.map((row) => ({ ...row, [columns[0]!]: `${row[columns[0]!]} II` }));
    const { approval } = await shop.call(api.saveRoster, { params: { id }, body: { columns, rows, version } });
    expect(approval.differs).toHaveLength(12);
    expect(approval.differences).toBe(roster.length);
  });

  it('is approved as the next revision, lets the rest be loaded, and can be taken back', async () => {
    const kept = await approve('the regatta committee');
    expect(kept.approval).toMatchObject({ revision: 2, differences: 0, given: { revision: 2 } });
    const undone = await shop.call(api.undo, {
      params: { id: kept.id },
      body: { event: kept.canUndo!.event },
      by: 'Odile',
    });
    expect(undone.approval).toMatchObject({ revision: 2, given: { revision: 1 } });
    await approve('the regatta committee');
    const load = await shop.call(api.startLoad, { params: { id: kept.id } });
    expect(load.pieces.filter((p) => p.state === 'loaded').length).toBeGreaterThan(1);
  });

  it('comes along with the same again, as a question', async () => {
    const { id } = await tags();
    const body = { name: 'Boat tags, next year', quantity: 3, spares: 1, dueAt: null };
    const made = await shop.call(api.againBatch, { params: { id }, body });
    const next = await shop.call(api.getBatch, { params: { id: made.id } });
    expect(next.approval).toEqual({ wanted: true, revision: 1, given: null, differs: [], differences: 0 });
  });

  it('is refused of one who has not seen what is there now', async () => {
    const { id, version } = await tags();
    await ask(true);
    const body = { signedBy: 'the committee', note: '', version };
    expect((await shop.send(api.takeApproval, { params: { id }, body })).status).toBe(409);
  });
});
