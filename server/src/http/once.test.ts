import { api } from '@bistre/contract';
import { sweepNow } from '../sweep';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

const reading = { mark: 1, x: 245.1, y: 440.2, source: 'typed', purpose: 'place' } as const;

withDatabase('a write under one key happens once', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('once');
  });
  afterAll(() => shop.stop());

  const eight = <T>(job: (i: number) => Promise<T>): Promise<T[]> =>
    Promise.all(Array.from({ length: 8 }, (_, i) => job(i)));

  it('eight equal readings at once are one, and all get the first answer', async () => {
    const { id } = await shop.batch('Boat tags');
    const sent = { params: { id }, body: reading, headers: { 'idempotency-key': 'eight-readings' } };
    const answers = await eight(async () => {
      const response = await shop.send(api.takeReading, sent);
      return [response.status, await response.text()] as const;
    });
    expect(answers.map(([status]) => status)).toEqual(Array(8).fill(200));
    expect(new Set(answers.map(([, text]) => text)).size).toBe(1);
    const { readings } = await shop.call(api.getBatch, { params: { id } });
    expect(readings).toHaveLength(1);
    // And so long after it as well.
    expect(await (await shop.send(api.takeReading, sent)).text()).toBe(answers[0]![1]);
  });

  it('eight equal new batches at once are one', async () => {
    const { machine, blank } = await shop.batch('Boat tags');
    const body = {
      name: 'Pontoon tags',
      customer: '',
      quantity: 5,
      spares: 0,
      tolerance: 0.5,
      dueAt: null,
      machineId: machine.id,
      blankId: blank.id,
    };
    const answers = await eight(async () =>
      (await shop.send(api.createBatch, { body, headers: { 'idempotency-key': 'one-batch' } })).text(),
    );
    expect(new Set(answers).size).toBe(1);
    expect((await shop.call(api.listBatches)).filter((b) => b.name === 'Pontoon tags')).toHaveLength(1);
  });

  it.each([
    ['another body', { body: { ...reading, x: 300 } }, api.takeReading],
    ['another call', { body: {} }, api.closeBatch],
  ])('%s under a used key is refused and changes nothing', async (_what, part, endpoint) => {
    const { id } = await shop.batch('Boat tags');
    const headers = { 'idempotency-key': 'eight-readings' };
    const before = await shop.call(api.getBatch, { params: { id } });
    const response = await shop.send(endpoint, { params: { id }, headers, ...part });
    expect([response.status, ((await response.json()) as { code: string }).code]).toEqual([422, 'key-reused']);
    expect(await shop.call(api.getBatch, { params: { id } })).toEqual(before);
  });

  it('a refused write leaves its key free: corrected, it goes through', async () => {
    const { id } = await shop.batch('Cleat plates');
    const headers = { 'idempotency-key': 'corrected' };
    const refused = await shop.send(api.takeReading, { params: { id }, headers, body: { ...reading, mark: 9 } });
    expect(refused.status).toBe(422);
    const taken = await shop.send(api.takeReading, { params: { id }, headers, body: reading });
    expect(taken.status).toBe(200);
  });

  it('writes under different keys, or none, are different writes', async () => {
    const { id } = await shop.batch('Boat tags');
    const { readings: before } = await shop.call(api.getBatch, { params: { id } });
    await Promise.all([
      shop.send(api.takeReading, { params: { id }, body: reading, headers: { 'idempotency-key': 'a' } }),
      shop.send(api.takeReading, { params: { id }, body: reading, headers: { 'idempotency-key': 'b' } }),
      shop.send(api.takeReading, { params: { id }, body: reading }),
    ]);
    expect((await shop.call(api.getBatch, { params: { id } })).readings).toHaveLength(before.length + 3);
  });

  it('first answers are swept after a day', async () => {
    const count = async (): Promise<number> => (await shop.db.selectFrom('replies').select('key').execute()).length;
    const before = await count();
    expect(before).toBeGreaterThan(3);
    await sweepNow(shop.db, new Date(Date.now() + 86_000_000));
    expect(await count()).toBe(before);
    await sweepNow(shop.db, new Date(Date.now() + 87_000_000));
    expect(await count()).toBe(0);
  });
});
