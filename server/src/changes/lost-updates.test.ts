import { inPockets } from '../testing/held';
import { api, carriesVersion, type AnyEndpoint, type BatchDocument } from '@bistre/contract';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

type Api = typeof api;
type Name = keyof Api;

/** One replacing write, as three people would send it at once: the same part, other values, one version. */
interface Race {
  readonly params: Record<string, string>;
  readonly bodies: readonly object[];
}

/** Facts that stay the same when they are said twice, so that they carry no version. */
const FACTS: readonly Name[] = ['tick', 'restorePutback', 'setAway'];

withDatabase('nothing that was saved is overwritten unseen', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('lost');
  });
  afterAll(() => shop.stop());

  const three = <T>(make: (i: number) => T): T[] => [0, 1, 2].map(make);

  const batchRace = async (name: string, body: (batch: BatchDocument, i: number) => object): Promise<Race> => {
    const batch = await shop.batch(name);
    return { params: { id: batch.id }, bodies: three((i) => ({ version: batch.version, ...body(batch, i) })) };
  };
  const thingRace = async <T extends { id: string; name: string; version: number }>(
    list: Promise<readonly T[]>,
    body: (thing: T, i: number) => object,
  ): Promise<Race> => {
    const [thing] = await list;
    return {
      params: { id: thing!.id },
      bodies: three((i) => ({ name: `${thing!.name} ${i}`, version: thing!.version, ...body(thing!, i) })),
    };
  };

  const races: Partial<Record<Name, () => Promise<Race>>> = {
    updateBatch: () =>
      batchRace('Boat tags', (b, i) => ({
        name: `Boat tags ${i}`,
        customer: b.customer,
        quantity: b.quantity,
        spares: b.spares,
        tolerance: b.tolerance,
        dueAt: b.dueAt,
      })),
    saveSection: () =>
      batchRace('Boat tags', (_b, i) => ({ section: 'close', value: { notes: `note ${i}`, keep: '' } })),
    correct: () => batchRace('Boat tags', (_b, i) => ({ shift: { x: i / 10, y: 0 }, turn: 0, size: 0, about: { x: 0, y: 0 }, pieces: 3, chance: 0.001 })), // prettier-ignore
    moveBatch: async () => {
      const list = await shop.call(api.listMachines);
      // There, and back again.
      return batchRace('Lane medals', (b, i) => ({ machineId: list.find((m) => (m.id === b.machine.id) === (i === 2))!.id })); // prettier-ignore
    },
    askApproval: () => batchRace('Boat tags', (_b, i) => ({ wanted: i === 0 })),
    takeApproval: () => batchRace('Boat tags', (_b, i) => ({ signedBy: `the committee ${i}`, note: '' })),
    chooseRecipe: () => batchRace('Boat tags', (b, i) => ({ recipeId: i === 0 ? null : b.recipe!.id })),
    saveFixture: () => batchRace('Bow-number decals', () => ({})),
    useFixture: () => batchRace('Boat tags', (b, i) => ({ revisionId: i === 0 ? null : b.fixture!.id })),
    saveRoster: () => batchRace('Lane medals', (_b, i) => ({ columns: ['name'], rows: [{ name: `LANE ${i}` }] })),
    chooseDrive: () => batchRace('Umpire flasks', (b, i) => ({ driveId: i === 0 ? null : b.drive!.id })),
    setOnMachine: () => batchRace('Trophy glasses', (_b, i) => ({ what: 'acceleration', value: 500 + i })),
    saveBlank: () => thingRace(shop.call(api.listBlanks), ({ spec }) => ({ spec })),
    saveMachine: () => thingRace(shop.call(api.listMachines), ({ profile }) => ({ profile })),
    saveTrial: async () => {
      const [like] = await shop.call(api.listTrials);
      const { machineId, spec } = like!;
      // Only what is not burned yet can be changed.
      const body = { name: 'Trial to be burned', machineId, spec: { ...spec, piece: { ...spec.piece, name: 'Fresh scrap' } }, follows: null }; // prettier-ignore
      const { id } = await shop.call(api.createTrial, { body });
      return thingRace(shop.call(api.listTrials).then((all) => all.filter((t) => t.id === id)), (t) => ({ spec: t.spec })); // prettier-ignore
    },
    saveRecipe: () => thingRace(shop.call(api.listRecipes), ({ spec }) => ({ spec })),
    saveDrive: () => thingRace(shop.call(api.listDrives), ({ spec }) => ({ spec })),
    saveArtwork: () => thingRace(shop.call(api.listArtworks), ({ spec }) => ({ spec })),
    saveFeeder: () => thingRace(shop.call(api.listFeeders), ({ spec }) => ({ spec })),
    saveStep: () => thingRace(shop.call(api.listSteps), ({ spec }) => ({ spec })),
  };
  const replacing = (Object.entries(api) as [Name, AnyEndpoint][]).filter(([, e]) => carriesVersion(e));

  it('every call of the contract that replaces a value is raced here, and every PUT replaces one or says a fact', () => {
    expect(replacing.map(([name]) => name).sort()).toEqual(Object.keys(races).sort());
    const puts = (Object.entries(api) as [Name, AnyEndpoint][]).filter(([, e]) => e.method === 'PUT');
    expect(
      puts
        .filter(([, e]) => !carriesVersion(e))
        .map(([name]) => name)
        .sort(),
    ).toEqual([...FACTS].sort());
  });

  it.each(replacing.map(([name]) => name))(
    '%s: of three writers with one version one is taken, the others are told what is stored',
    async (name) => {
      const endpoint: AnyEndpoint = api[name];
      const { params, bodies } = await races[name]!();
      const answers = await Promise.all(
        bodies.map(async (body, i) => {
          const response = await shop.send(endpoint, { params, body, by: ['Imre', 'Odile', 'Tamsin'][i]! });
          return {
            status: response.status,
            value: (await response.json()) as { code?: string; message?: string; now?: { version: number } },
          };
        }),
      );
      expect(answers.map((a) => a.status).sort()).toEqual([200, 409, 409]);
      const taken = answers.find((a) => a.status === 200)!.value as unknown as { version: number };
      for (const { value } of answers.filter((a) => a.status === 409)) {
        expect(value.code).toBe('stale');
        expect(value.message).toMatch(/(Imre|Odile|Tamsin) changed this at .* What you typed is still here/);
        expect(value.now).toEqual(taken);
      }
      // With what is stored now in hand, the next save goes through.
      const again = await shop.send(endpoint, { params, body: { ...bodies[2], version: taken.version } });
      expect(again.status).toBe(200);
    },
  );

  it('two people save different sections from one version, and both are kept', async () => {
    const batch = await shop.batch('Oar grips');
    const save = (body: object): Promise<Response> =>
      shop.send(api.saveSection, { params: { id: batch.id }, body: { version: batch.version, ...body } });
    const answers = await Promise.all([
      save({ section: 'close', value: { notes: 'dry', keep: '' } }),
      save({ section: 'place', value: { ...batch.setup.place, school: 'work' } }),
      save({ section: 'burn', value: { sweep: 'piece' } }),
    ]);
    expect(answers.map((a) => a.status)).toEqual([200, 200, 200]);
    const { setup } = await shop.call(api.getBatch, { params: { id: batch.id } });
    expect([setup.close.notes, setup.place.school, setup.burn.sweep]).toEqual(['dry', 'work', 'piece']);
  });

  it('a board taken from the Shelf does not overwrite hold settings that were saved meanwhile', async () => {
    const batch = await shop.batch('Boat tags');
    await shop.call(api.saveSection, {
      params: { id: batch.id },
      body: { section: 'held', value: inPockets(batch, { wall: 5 }), version: batch.version },
    });
    const late = await shop.send(api.useFixture, {
      params: { id: batch.id },
      body: { revisionId: batch.fixture?.id ?? null, version: batch.version },
    });
    expect(late.status).toBe(batch.fixture ? 409 : 200);
    expect((await shop.batch('Boat tags')).setup.held.choice).toMatchObject({ wall: 5 });
  });

  it('a version that does not exist yet, or never can, is refused in words', async () => {
    const batch = await shop.batch('Oar grips');
    const save = (version: number): Promise<Response> =>
      shop.send(api.saveSection, {
        params: { id: batch.id },
        body: { section: 'close', value: { notes: 'x', keep: '' }, version },
      });
    expect((await save(batch.version + 5)).status).toBe(422);
    expect((await save(3e9)).status).toBe(400);
  });
});
