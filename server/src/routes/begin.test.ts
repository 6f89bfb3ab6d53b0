import { api, type BodyOf } from '@bistre/contract';
import { WAYS, type HeldSection } from '@bistre/core';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

type Body = BodyOf<typeof api.createBatch>;
const NOBODY = '00000000-0000-4000-8000-000000000000';

withDatabase('a batch that is begun with what is known of it', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('begin');
  });
  afterAll(() => shop.stop());

  const like = async (name: string, more: Partial<Body> = {}): Promise<Body> => {
    const { machine, blank } = await shop.batch(name);
    return { name: `${name}, again`, customer: '', quantity: 12, spares: 1, tolerance: 0.5, dueAt: null, machineId: machine.id, blankId: blank.id, ...more }; // prettier-ignore
  };
  const begun = async (body: Body) => shop.call(api.getBatch, { params: { id: (await shop.call(api.createBatch, { body, by: 'Odile' })).id } }); // prettier-ignore
  const refused = async (body: object): Promise<[number, string]> => {
    const response = await shop.send(api.createBatch, { body });
    return [response.status, ((await response.json()) as { message: string }).message];
  };
  const held = (way: 'fence' | 'pockets' | 'drive' | 'sheet', choice: object = {}): HeldSection => {
    const fresh = WAYS[way].fresh('AGAIN');
    return { ...fresh, choice: { ...fresh.choice, ...choice }, left: [] } as HeldSection;
  };

  it('is held as it was chosen, with its names and the letters for them', async () => {
    const roster = { columns: ['name', 'seat'], rows: [{ name: 'KESTREL', seat: '1' }, { name: 'DUNLIN', seat: '2' }] }; // prettier-ignore
    const batch = await begun(
      await like('Boat tags', { held: held('fence', { pushRoom: 4 }) as Body['held'], roster }),
    );
    expect(batch.setup.held).toMatchObject({ way: 'fence', choice: { pushRoom: 4 }, left: [] });
    expect(batch.roster).toEqual(roster.rows);
    expect(batch.setup.lettering.lines.map((l) => l.column)).toEqual(['name', 'seat']);
    // No recipe is chosen for anybody.
    expect(batch.recipe).toBeNull();
  });

  it('carries the artwork that was chosen, at its revision', async () => {
    const [artwork] = await shop.call(api.listArtworks);
    const { blank } = await shop.batch('Boat tags');
    const art = { kind: 'artwork', id: 'art', zoneId: blank.spec.zones[0]!.id, artworkId: artwork!.id, revision: 1, size: { kind: 'fit' }, turn: 0, mirrored: false } as const; // prettier-ignore
    const batch = await begun(await like('Boat tags', { contents: [art] }));
    expect(batch.setup.contents).toEqual([art]);
    expect(batch.artworks.map((a) => a.id)).toEqual([artwork!.id]);
    expect((await refused(await like('Boat tags', { contents: [{ ...art, artworkId: NOBODY }] })))[0]).toBeGreaterThanOrEqual(404); // prettier-ignore
  });

  it('on a drive begins with what was found of drive and blank before; nothing stands in the machine for it yet', async () => {
    const flasks = await shop.batch('Umpire flasks');
    const before = flasks.setup.held as Extract<HeldSection, { way: 'drive' }>;
    const batch = await begun(await like('Umpire flasks', { held: held('drive', { driveId: before.choice.driveId }) as Body['held'], faces: flasks.setup.faces })); // prettier-ignore
    expect(batch.setup.held).toMatchObject({ way: 'drive', choice: { driveId: before.choice.driveId, contactAt: before.choice.contactAt }, found: { numberSet: null, accelerationSet: null } }); // prettier-ignore
    expect(batch.setup.faces).toEqual(flasks.setup.faces);
    expect(batch.drive!.id).toBe(before.choice.driveId);
  });

  it('is closed with the reason that was given for what is doubted of it, in the log', async () => {
    const batch = await begun(await like('Boat tags', { name: 'Tags by hand' }));
    await shop.call(api.closeBatch, { params: { id: batch.id }, body: { reason: 'cut by hand' }, by: 'Odile' });
    const { rows } = await shop.call(api.listLog, { query: { batch: batch.id } } as never);
    expect(rows[0]!.summary).toBe('Batch closed: 0 of 12 done, 0 scrapped, its placement doubted: cut by hand');
  });

  it('is refused where the way does not suit its blank, or needs what is not there', async () => {
    expect(await refused(await like('Boat tags', { held: held('drive') as Body['held'] }))).toEqual([422, 'A rectangle blank is not held so: a drive that turns it.']); // prettier-ignore
    expect(await refused(await like('Umpire flasks', { held: held('pockets') as Body['held'] }))).toEqual([422, expect.stringMatching(/^A round blank is not held so/)]); // prettier-ignore
    expect(await refused(await like('Umpire flasks', { held: held('drive', { driveId: NOBODY }) as Body['held'] }))).toEqual([404, expect.stringMatching(/drive/i)]); // prettier-ignore
    // Nothing was begun by any of them.
    const names = (await shop.call(api.listBatches, {})).map((b) => b.name);
    expect(names.filter((n) => n === 'Umpire flasks, again')).toHaveLength(1);
  });
});
