import sharp from 'sharp';
import { api, PHOTOGRAPHS, photographPath, type ShopStepSpec } from '@bistre/contract';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

const NOBODY = '00000000-0000-4000-8000-000000000000';
const spec = (of: ShopStepSpec['of'], more: Partial<ShopStepSpec> = {}): ShopStepSpec => ({
  of,
  station: 'run',
  when: 'first',
  detail: 'So that dust does not shine through.',
  caution: '',
  minutes: null,
  photoId: null,
  ...more,
});

withDatabase('steps that the shop adds', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('steps');
  });
  afterAll(() => shop.stop());
  const add = async (name: string, of: ShopStepSpec['of']): Promise<string> =>
    (await shop.call(api.createStep, { body: { name, spec: spec(of) }, by: 'Odile' })).id;
  const idsIn = async (batch: string): Promise<string[]> => (await shop.batch(batch)).shopSteps.map((s) => s.id);

  it('stand in the batches of their blank, machine, way and material, and in no others', async () => {
    const tags = await shop.batch('Boat tags');
    const flasks = await shop.batch('Umpire flasks');
    const both = async (id: string): Promise<boolean[]> => [
      (await idsIn('Boat tags')).includes(id),
      (await idsIn('Umpire flasks')).includes(id),
    ];
    expect(tags.machine.id).toBe(flasks.machine.id);
    expect(await both(await add('Of the blank', { kind: 'blank', blankId: tags.blank.id }))).toEqual([true, false]);
    expect(await both(await add('Of the machine', { kind: 'machine', machineId: tags.machine.id }))).toEqual([
      true,
      true,
    ]);
    expect(await both(await add('Of the way', { kind: 'way', way: 'drive' }))).toEqual([false, true]);
    const material = flasks.recipe!.spec.material.toUpperCase();
    expect(await both(await add('Of the material', { kind: 'material', material }))).toEqual([false, true]);
    expect(await both(await add('Of nothing there', { kind: 'blank', blankId: NOBODY }))).toEqual([false, false]);
    // In the order they were added, and ticked as any other.
    const mine = (await shop.batch('Umpire flasks')).shopSteps.filter((s) => s.name.startsWith('Of'));
    expect(mine.map((s) => s.name)).toEqual(['Of the machine', 'Of the way', 'Of the material']);
    const ticked = await shop.call(api.tick, {
      params: { id: flasks.id, step: `shop.${mine[0]!.id}` },
      body: { done: true },
      by: 'Imre',
    });
    expect(ticked.ticks.at(-1)).toMatchObject({ step: `shop.${mine[0]!.id}`, by: 'Imre' });
  });

  it('two may have one title; one that is put away stands nowhere until it is brought back', async () => {
    const tags = await shop.batch('Boat tags');
    const of = { kind: 'blank', blankId: tags.blank.id } as const;
    const [first, second] = [await add('Blow it off', of), await add('Blow it off', of)];
    expect(await idsIn('Boat tags')).toEqual(expect.arrayContaining([first, second]));
    const away = (put: boolean) =>
      shop.call(api.setAway, { params: { kind: 'steps', id: first }, body: { away: put } });
    await away(true);
    expect(await idsIn('Boat tags')).not.toContain(first);
    expect((await shop.call(api.listAway)).map((r) => r.name)).toContain('Blow it off');
    await away(false);
    expect(await idsIn('Boat tags')).toContain(first);
  });

  it('a change of one can be taken back, and is refused where its place is no place', async () => {
    const id = await add('Wipe', { kind: 'way', way: 'pockets' });
    const now = async () => (await shop.call(api.listSteps)).find((s) => s.id === id)!;
    const body = { name: 'Wipe twice', spec: { ...(await now()).spec, minutes: 2 }, version: 1 };
    await shop.call(api.saveStep, { params: { id }, body, by: 'Odile' });
    expect(await now()).toMatchObject({ name: 'Wipe twice', version: 2, spec: { minutes: 2 } });
    const { change } = await shop.call(api.shelfUndoable, { params: { id } });
    await shop.call(api.undoShelf, { params: { id }, body: { event: change!.event, sure: true } });
    expect(await now()).toMatchObject({ name: 'Wipe', version: 3, spec: { minutes: null } });
    const wrong = await shop.send(api.createStep, { body: { name: 'x', spec: { ...spec({ kind: 'way', way: 'pockets' }), station: 'shed' } as never } }); // prettier-ignore
    expect([wrong.status, ((await wrong.json()) as { field: string }).field]).toEqual([400, 'spec.station']);
  });

  describe('photographs', () => {
    const send = (body: Uint8Array, name = 'coat.jpg') =>
      fetch(`${shop.base}${PHOTOGRAPHS}?name=${name}`, { method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body: Buffer.from(body) }); // prettier-ignore
    /** 3000 × 2000 dots, left half red: taken with the camera on its side. */
    const onItsSide = (): Promise<Buffer> =>
      sharp({ create: { width: 3000, height: 2000, channels: 3, background: '#0000ff' } })
        .composite([
          { input: { create: { width: 1500, height: 2000, channels: 3, background: '#ff0000' } }, left: 0, top: 0 },
        ]) // prettier-ignore
        .withExif({ IFD0: { Copyright: 'somebody' }, IFD3: { GPSLatitude: '60/1 9/1 0/1' } })
        .jpeg()
        .withMetadata({ orientation: 6 })
        .toBuffer();

    it('are kept upright, in colour, small, and without where they were taken', async () => {
      const file = await onItsSide();
      const kept = (await (await send(file)).json()) as { id: string; width: number; height: number };
      // Orientation 6 is a quarter turn clockwise [EXIF 2.3, tag 274]: what is left comes to the top.
      expect([kept.width, kept.height]).toEqual([1067, 1600]);
      const given = await fetch(shop.base + photographPath(kept.id));
      expect([given.status, given.headers.get('content-type')]).toEqual([200, 'image/jpeg']);
      const jpeg = Buffer.from(await given.arrayBuffer());
      const meta = await sharp(jpeg).metadata();
      expect([meta.width, meta.height, meta.exif, meta.orientation]).toEqual([1067, 1600, undefined, undefined]);
      const { data, info } = await sharp(jpeg).raw().toBuffer({ resolveWithObject: true });
      const at = (x: number, y: number): number[] => [
        ...data.subarray((y * info.width + x) * info.channels).subarray(0, 3),
      ];
      expect(at(500, 100)[0]).toBeGreaterThan(240);
      expect(at(500, 1500)[2]).toBeGreaterThan(240);
      // The same file twice is one.
      expect(((await (await send(file)).json()) as { id: string }).id).toBe(kept.id);
    });

    it.each([
      ['nothing', Buffer.alloc(0), 'No picture arrived.'],
      ['a text', Buffer.from('wipe it first'), 'coat.jpg is no PNG, JPEG or WebP.'],
      ['half a picture', Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 16]), 'coat.jpg is damaged and cannot be read.'],
    ])('%s is refused in words', async (_what, bytes, words) => {
      const answer = await send(bytes);
      expect([answer.status, ((await answer.json()) as { message: string }).message]).toEqual([422, expect.stringContaining(words)]); // prettier-ignore
    });

    it.each([NOBODY, 'x'])('%s is not there', async (id) =>
      expect((await fetch(shop.base + photographPath(id))).status).toBe(404),
    );
  });
});
