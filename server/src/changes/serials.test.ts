import { api, type BatchDocument, type Setup } from '@bistre/contract';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

type Contents = NonNullable<Setup['contents']>;
type Serial = Extract<Contents[number], { kind: 'serial' }>;

withDatabase('serial numbers', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('serials');
  });
  afterAll(() => shop.stop());

  const serial = (batch: BatchDocument, change: Partial<Serial> = {}): Serial => ({ kind: 'serial', id: 'n', zoneId: batch.blank.spec.zones[0]!.id, size: { kind: 'true' }, turn: 0, mirrored: false, prefix: 'TG-', digits: 4, step: 1, alphabet: 'readability', capHeight: 2, ...change }); // prettier-ignore
  const put = async (batch: BatchDocument, value: Contents) =>
    shop.send(api.saveSection, { params: { id: batch.id }, body: { section: 'contents', value, version: (await shop.call(api.getBatch, { params: { id: batch.id } })).version } }); // prettier-ignore
  const numbers = async (name: string, id = 'n') => (await shop.batch(name)).serials.find((s) => s.contentId === id)?.numbers; // prettier-ignore
  const row = (from: number, to: number, step = 1): number[] => Array.from({ length: Math.floor((to - from) / step) + 1 }, (_, i) => from + i * step); // prettier-ignore
  /** A batch of so many that nobody has begun. */
  const begin = async (name: string, quantity: number): Promise<BatchDocument> => {
    const like = await shop.batch('Boat tags');
    await shop.call(api.createBatch, { body: { name, customer: '', quantity, spares: 0, tolerance: 0.5, dueAt: null, machineId: like.machine.id, blankId: like.blank.id } }); // prettier-ignore
    return shop.batch(name);
  };

  it('are given to all pieces at once, from one on or where a person says', async () => {
    const tags = await begin('First lot', 5);
    expect((await put(tags, [serial(tags)])).status).toBe(200);
    expect(await numbers('First lot')).toEqual(row(1, 5));
    // A list of its pieces has them, though nothing was brought in.
    const list = await (await fetch(`${shop.base}/api/batches/${tags.id}/files/roster.csv`)).text();
    expect(list.replace(/^\uFEFF/, '').trimEnd().split('\r\n').slice(0, 3)).toEqual(['piece,serial number,state,cause', '1,TG-0001,waiting,', '2,TG-0002,waiting,']); // prettier-ignore
    // The next batch of the same prefix goes on after it; another prefix has its own.
    const second = await begin('Second lot', 3);
    await put(second, [serial(second, { step: 10 }), serial(second, { id: 'own', prefix: 'LANE ', first: 40 })]);
    expect([await numbers('Second lot'), await numbers('Second lot', 'own')]).toEqual([row(15, 35, 10), row(40, 42)]);
  });
  it('are refused where one of them is given, naming the batch and the next free one', async () => {
    const third = await begin('Third lot', 3);
    const refusal = await put(third, [serial(third, { first: 4 })]);
    expect([refusal.status, (await refusal.json()) as object]).toEqual([409, expect.objectContaining({ code: 'serial-given', message: 'TG-0004 was given to a piece of First lot. The next free one is TG-0036.' })]); // prettier-ignore
    // Nothing of it is kept.
    expect((await shop.batch('Third lot')).setup.contents ?? []).toEqual([]);
    // Between the numbers of the second lot, ten apart, there is room.
    expect((await put(third, [serial(third, { first: 16 })])).status).toBe(200);
    expect(await numbers('Third lot')).toEqual([16, 17, 18]);
  });
  it('go on where more pieces are wanted, and around what others were given', async () => {
    const { id, version, ...third } = await shop.batch('Third lot');
    const { name, customer, spares, tolerance, dueAt } = third;
    await shop.call(api.updateBatch, { params: { id }, body: { name, customer, spares, tolerance, dueAt, quantity: 10, version } }); // prettier-ignore
    expect(await numbers('Third lot')).toEqual([16, 17, 18, 19, 20, 21, 22, 23, 24, 26]);
  });
  it('are free again where nothing was laid on with them, and come back with what is taken back', async () => {
    const fourth = await begin('Fourth lot', 4);
    await put(fourth, [serial(fourth, { prefix: 'Q' })]);
    await put(fourth, []);
    expect(await numbers('Fourth lot')).toBeUndefined();
    const fifth = await begin('Fifth lot', 2);
    await put(fifth, [serial(fifth, { prefix: 'Q', first: 2 })]);
    expect(await numbers('Fifth lot')).toEqual([2, 3]);
    const { canUndo, id } = await shop.batch('Fourth lot');
    await shop.call(api.undo, { params: { id }, body: { event: canUndo!.event } });
    expect(await numbers('Fourth lot')).toEqual([4, 5, 6, 7]);
  });
  it('of two who ask at once are all different', async () => {
    const lots = await Promise.all(['Lot A', 'Lot B', 'Lot C'].map((name) => begin(name, 40)));
    const saved = await Promise.all(lots.map((lot) => put(lot, [serial(lot, { prefix: 'R' })])));
    expect(saved.map((r) => r.status)).toEqual([200, 200, 200]);
    const all = (await Promise.all(lots.map((lot) => numbers(lot.name)))).flat() as number[];
    expect([...all].sort((a, b) => a - b)).toEqual(row(1, 120));
  });

  /** A batch of the demo on whose machine a load can be filled, with a number on each piece. */
  const laidOn = async (): Promise<BatchDocument> => {
    const tags = await shop.batch('Boat tags');
    for (const p of tags.pieces.filter((x) => x.state === 'loaded'))
      await shop.call(api.judgePieces, { params: { id: tags.id }, body: { pieces: [{ slot: p.slot, state: 'done', cause: null, dx: null, dy: null, yaw: null }] } }); // prettier-ignore
    expect((await put(tags, [serial(tags, { prefix: 'BT', capHeight: 1, down: 'bottom' })])).status).toBe(200);
    return shop.batch('Boat tags');
  };
  it('are gone with a blank that is scrapped; the next blank has another, and the first comes back with it', async () => {
    const tags = await laidOn();
    const given = tags.serials[0]!.numbers;
    // What is done already has none: it is not burned again.
    const done = new Set(tags.pieces.filter((p) => p.state === 'done').map((p) => p.ordinal));
    expect(given.flatMap((n, i) => (n === null ? [i + 1] : []))).toEqual([...done].sort((a, b) => a - b).filter((o) => o <= given.length)); // prettier-ignore
    const loading = await shop.send(api.startLoad, { params: { id: tags.id } });
    expect(loading.status).toBe(200);
    const on = await shop.batch('Boat tags');
    // The Log says which numbers were laid on.
    const first = on.pieces.find((p) => p.state === 'loaded')!;
    expect((await shop.call(api.listLog)).rows[0]!.summary).toContain(`BT${String(on.serials[0]!.numbers[first.ordinal - 1]).padStart(4, '0')}`); // prettier-ignore
    const piece = on.pieces.find((p) => p.state === 'loaded')!;
    const before = on.serials[0]!.numbers[piece.ordinal - 1]!;
    const highest = Math.max(...on.serials[0]!.numbers.filter((n) => n !== null));
    await shop.call(api.judgePieces, { params: { id: tags.id }, body: { pieces: [{ slot: piece.slot, state: 'scrap', cause: 'blank flawed', dx: null, dy: null, yaw: null }] } }); // prettier-ignore
    const scrapped = await shop.batch('Boat tags');
    expect(scrapped.serials[0]!.numbers[piece.ordinal - 1]).toBe(highest + 1);
    await shop.call(api.undo, { params: { id: tags.id }, body: { event: scrapped.canUndo!.event } });
    expect((await shop.batch('Boat tags')).serials[0]!.numbers[piece.ordinal - 1]).toBe(before);
    // Laid on once, a number is never given again.
    const refusal = await put(tags, [serial(tags, { prefix: 'OTHER' })]);
    expect([refusal.status, ((await refusal.json()) as { code: string }).code]).toEqual([409, 'serial-used']);
    expect((await put(tags, [])).status).toBe(200);
    const later = await begin('Later lot', 1);
    const again = await put(later, [serial(later, { prefix: 'BT', first: before })]);
    expect([again.status, ((await again.json()) as { message: string }).message]).toEqual([409, expect.stringMatching(/^BT0*\d+ was given to a piece of Boat tags/)]); // prettier-ignore
  });
});
