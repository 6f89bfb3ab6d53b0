import fc from 'fast-check';
import { api, carriesVersion, type AnyEndpoint, type ApiProblem, type BatchDocument } from '@bistre/contract';
import { valid } from './testing/arbitrary';
import { startShop, withDatabase, type TestShop } from './testing/shop';

const ALL = Object.entries(api as unknown as Record<string, AnyEndpoint>);
const NOBODY = 'a0000000-0000-4000-8000-00000000dead';
/** A body that the contract takes, always the same. */
const bodyOf = (endpoint: AnyEndpoint, ids: readonly string[] = [NOBODY]): Record<string, unknown> =>
  (fc.sample(valid(endpoint.body, ids), { numRuns: 1, seed: 7 })[0] ?? {}) as Record<string, unknown>;

withDatabase('every call of the contract', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('endpoints');
  });
  afterAll(() => shop.stop());
  const call: TestShop['call'] = (...called) => shop.call(...called);
  const ask = async (endpoint: AnyEndpoint, params: Record<string, string>, body?: unknown) => {
    const response = await shop.send(endpoint, { params, body });
    return { status: response.status, answer: (await response.json()) as ApiProblem & { now?: { version?: number } } };
  };
  const params = (id: string): Record<string, string> =>
    ({ id, step: 'place.home', reading: NOBODY, ring: NOBODY, feed: NOBODY, sample: NOBODY, change: NOBODY, putback: NOBODY, score: NOBODY, kind: 'machines', number: '1' }); // prettier-ignore

  /** What is answered about something that is not there, by its nature. */
  const NOTHING_THERE = new Set(['shelfUndoable', 'undoShelf']);
  it.each(ALL.filter(([name, e]) => e.path.includes(':id') && !NOTHING_THERE.has(name)))(
    '%s of what is not there: 404, in words, and nothing is written',
    async (_name, endpoint) => {
      const before = await call(api.listLog);
      const { status, answer } = await ask(endpoint, params(NOBODY), bodyOf(endpoint));
      expect([status, answer.code]).toEqual([404, 'not-found']);
      expect(answer.message).toMatch(/^This .* does not exist any more\.$/);
      expect((await call(api.listLog)).rows[0]?.id).toBe(before.rows[0]?.id);
    },
  );

  const needsBody = ALL.filter(([, e]) => e.method !== 'GET' && !e.body.safeParse({}).success);
  it.each(needsBody)('%s without what it needs: 400, naming the place', async (_name, endpoint) => {
    const { status, answer } = await ask(endpoint, params(NOBODY), {});
    expect([status, answer.code]).toEqual([400, 'bad-input']);
    expect(answer.field).toMatch(/\w/);
    expect(answer.message).toMatch(/\w/);
  });

  // Who was quicker, and what is stored then, is in changes/lost-updates.test.ts, for every one of them.
  it.each(ALL.filter(([name, e]) => carriesVersion(e) && e.path.startsWith('/api/batches') && name !== 'setOnMachine'))(
    '%s over a version that was never there: refused, and nothing changes',
    async (_name, endpoint) => {
      const batch = await shop.batch('Boat tags');
      const body = { ...bodyOf(endpoint), version: batch.version + 5 };
      const { status, answer } = await ask(endpoint, params(batch.id), body);
      expect([status, answer.code]).toEqual([422, 'bad-version']);
      expect((await shop.batch('Boat tags')).version).toBe(batch.version);
    },
  );
  it('taking back what was never done is refused', async () => {
    const { status, answer } = await ask(api.undoShelf, { id: NOBODY }, { event: 1 });
    expect([status, answer.code]).toEqual([422, 'nothing-to-undo']);
  });

  it.each([
    ['saveBlank', api.listBlanks, api.saveBlank],
    ['saveMachine', api.listMachines, api.saveMachine],
    ['saveRecipe', api.listRecipes, api.saveRecipe],
    ['saveDrive', api.listDrives, api.saveDrive],
    ['saveFeeder', api.listFeeders, api.saveFeeder],
    ['saveStep', api.listSteps, api.saveStep],
  ] as const)('%s: kept as it was sent, one version on; refused over an old version', async (_name, list, save) => {
    const [thing] = (await call(list as AnyEndpoint)) as { id: string; name: string; version: number; spec?: unknown; profile?: unknown }[]; // prettier-ignore
    const { id, name, version, spec, profile } = thing!;
    const body = { name: `${name}, again`, version, ...(spec ? { spec } : { profile }) };
    const saved = (await call(save as AnyEndpoint, { params: { id }, body })) as typeof thing & object;
    expect(saved).toMatchObject({ id, name: `${name}, again`, version: version + 1 });
    expect(saved.spec ?? saved.profile).toEqual(spec ?? profile);
    const again = await ask(save, { id }, body);
    expect([again.status, again.answer.code, again.answer.now?.version]).toEqual([409, 'stale', version + 1]);
    expect((await call(api.listLog)).rows[0]!.summary).toContain(`changed: ${name}, again`);
  });

  it.each([
    ['createBlank', api.listBlanks, api.createBlank],
    ['createMachine', api.listMachines, api.createMachine],
    ['createRecipe', api.listRecipes, api.createRecipe],
    ['createDrive', api.listDrives, api.createDrive],
    ['createFeeder', api.listFeeders, api.createFeeder],
  ] as const)('%s: there with what was sent; a name that is taken is refused', async (name, list, create) => {
    const [like] = (await call(list as AnyEndpoint)) as { spec?: unknown; profile?: unknown; machineId?: string }[];
    const { spec, profile, machineId } = like!;
    const body = { name: `New by ${name}`, ...(spec ? { spec } : { profile }), ...(machineId ? { machineId } : {}) };
    const { id } = (await call(create as AnyEndpoint, { body })) as { id: string };
    const made = ((await call(list as AnyEndpoint)) as { id: string; name: string; version: number }[]).find((t) => t.id === id); // prettier-ignore
    expect(made).toMatchObject({ ...body, id });
    const again = await ask(create, {}, body);
    expect([again.status, again.answer.code, again.answer.field]).toEqual([409, 'taken', 'name']);
  });

  it('a new batch has no recipe until a person chooses one; what its blank was last burned with is offered', async () => {
    const [blank] = await call(api.listBlanks);
    const machine = (await call(api.listMachines))[0]!;
    const { id: blankId } = await call(api.createBlank, { body: { name: 'Lock plate', spec: blank!.spec } });
    const begin = async (name: string): Promise<string> => (await call(api.createBatch, { body: { customer: '', name, machineId: machine.id, blankId, quantity: 4, spares: 0, tolerance: 0.5, dueAt: null } as never })).id; // prettier-ignore
    const get = (id: string) => call(api.getBatch, { params: { id } });
    const first = await get(await begin('Lock plates'));
    expect([first.recipe, first.recipeBefore]).toEqual([null, null]);
    const recipe = (await call(api.listRecipes)).find((r) => r.machineId === machine.id)!;
    const chosen = await call(api.chooseRecipe, { params: { id: first.id }, body: { recipeId: recipe.id, version: first.version } }); // prettier-ignore
    expect([chosen.recipe!.id, chosen.recipeBefore]).toEqual([recipe.id, null]);
    const second = await get(await begin('Lock plates, autumn'));
    expect(second.recipe).toBeNull();
    expect(second.recipeBefore).toMatchObject({ id: recipe.id, name: recipe.name, batch: 'Lock plates' });
    // Another blank was never burned with it.
    const other = (await call(api.createBlank, { body: { name: 'Slip tile', spec: blank!.spec } })).id;
    const tile = await call(api.createBatch, { body: { customer: '', name: 'Slip tiles', machineId: machine.id, blankId: other, quantity: 4, spares: 0, tolerance: 0.5, dueAt: null } as never }); // prettier-ignore
    expect((await get(tile.id)).recipeBefore).toBeNull();
  });

  it('what is made may bring its own id, once', async () => {
    const [blank] = await call(api.listBlanks);
    const id = 'b0000000-0000-4000-8000-00000000beef';
    expect(await call(api.createBlank, { body: { id, name: 'Slate tag', spec: blank!.spec } })).toEqual({ id });
    const [machine] = await call(api.listMachines);
    const batch = { ...bodyOf(api.createBatch), id, name: 'Slate tags', machineId: machine!.id, blankId: id, quantity: 4, spares: 0, tolerance: 0.5, dueAt: null }; // prettier-ignore
    expect(await call(api.createBatch, { body: batch as never })).toEqual({ id });
    expect((await call(api.getBatch, { params: { id } })).blank).toMatchObject({ id, name: 'Slate tag' });
    const twice = await ask(api.createBlank, {}, { id, name: 'Slate tag 2', spec: blank!.spec });
    expect([twice.status, twice.answer.code]).toEqual([409, 'taken']);
    const sample = 'b0000000-0000-4000-8000-00000000cafe';
    const { samples } = await call(api.addSample, {
      params: { id },
      body: { id: sample, dimension: 'length', value: 60.02 },
    });
    expect(samples.map((s) => [s.id, s.value])).toEqual([[sample, 60.02]]);
    expect((await call(api.dropSample, { params: { id, sample } })).samples).toEqual([]);
    expect((await ask(api.dropSample, { id, sample })).status).toBe(404);
  });

  const open = (name: string): Promise<BatchDocument> => shop.batch(name);

  it('a reading is taken under its id, taken out once, and refused for a mark that the work does not have', async () => {
    const { id, readings } = await open('Boat tags');
    const own = 'b0000000-0000-4000-8000-00000000f00d';
    const reading = { id: own, mark: 1, x: 10, y: 20, source: 'typed', purpose: 'reread' } as const;
    const taken = await call(api.takeReading, { params: { id }, body: reading });
    expect(taken.readings.at(-1)).toMatchObject({ ...reading, by: 'Imre' });
    const dropped = await call(api.dropReading, { params: { id, reading: own } });
    expect(dropped.readings).toHaveLength(readings.length);
    expect((await ask(api.dropReading, { id, reading: own })).answer).toMatchObject({ code: 'not-found' });
    const none = await ask(api.takeReading, { id }, { ...reading, id: undefined, mark: 12 });
    expect(none.status).toBe(422);
  });

  it('work that is laid anew forgets its readings and what was proved of it, until that is taken back', async () => {
    const { id } = await open('Boat tags');
    const read = (mark: number) => call(api.takeReading, { params: { id }, body: { mark, x: 100 * mark, y: 90, source: 'typed', purpose: 'place' } }); // prettier-ignore
    await read(1);
    const before = await read(2);
    for (const step of ['place.home', 'place.walk']) await call(api.tick, { params: { id, step }, body: { done: true } }); // prettier-ignore
    const ticked = (b: BatchDocument): string[] => b.ticks.map((t) => t.step).filter((s) => s.startsWith('place.')).sort(); // prettier-ignore
    const after = await call(api.layAnew, { params: { id } });
    // The machine stays homed; what was walked was walked elsewhere.
    expect([after.readings, ticked(after)]).toEqual([[], ['place.home']]);
    const change = after.canUndo;
    expect(change!.summary).toBe(`Laid anew: ${before.readings.length} readings of marks set aside`);
    await call(api.undo, { params: { id }, body: { event: change!.event } });
    const back = await open('Boat tags');
    expect([back.readings.map((r) => r.id), ticked(back)]).toEqual([before.readings.map((r) => r.id), ['place.home', 'place.walk']]); // prettier-ignore
    // On the simulated machine it is the same: what is laid there anew lies elsewhere.
    await call(api.simDo, { params: { id }, body: { act: 'lay' } });
    expect((await open('Boat tags')).readings).toEqual([]);
    expect((await open('Boat tags')).canUndo!.summary).toBe(change!.summary);
  });

  it('a recipe is chosen and taken off; one of another machine, or put away, is refused', async () => {
    const { id, recipe, machine } = await open('Boat tags');
    const choose = async (recipeId: string | null) =>
      ask(api.chooseRecipe, { id }, { recipeId, version: (await open('Boat tags')).version });
    expect((await choose(null)).status).toBe(200);
    expect((await open('Boat tags')).recipe).toBeNull();
    const foreign = (await call(api.listRecipes)).find((r) => r.machineId !== machine.id);
    if (foreign) expect((await choose(foreign.id)).status).toBeGreaterThanOrEqual(400);
    await call(api.setAway, { params: { kind: 'recipes', id: recipe!.id }, body: { away: true } });
    expect((await choose(recipe!.id)).answer).toMatchObject({ code: 'put-away' });
    await call(api.setAway, { params: { kind: 'recipes', id: recipe!.id }, body: { away: false } });
    expect((await choose(recipe!.id)).status).toBe(200);
    expect((await open('Boat tags')).recipe!.id).toBe(recipe!.id);
  });

  it('a file that the browser wrote is in the log', async () => {
    const { id } = await open('Boat tags');
    await call(api.wroteFile, { params: { id }, body: { file: 'boat-tags-load.gcode' } });
    expect((await call(api.listLog)).rows[0]).toMatchObject({ kind: 'file', batchId: id, summary: 'File handed out: boat-tags-load.gcode' }); // prettier-ignore
  });

  it('a changed setting is to be put back, and is', async () => {
    const { id } = await open('Boat tags');
    const changed = await call(api.addPutback, {
      params: { id },
      body: { setting: 'jog speed', was: '40', now: '10' },
    });
    const putback = changed.putbacks.at(-1)!;
    expect(putback).toMatchObject({ setting: 'jog speed', was: '40', now: '10', restoredAt: null });
    const back = await call(api.restorePutback, { params: { id, putback: putback.id }, body: { restored: true } });
    expect(back.putbacks.at(-1)).toMatchObject({ id: putback.id, restoredAt: expect.stringMatching(/^20/) });
  });

  it('a ring and a feed are read, and taken out once', async () => {
    const flasks = await open('Umpire flasks');
    await call(api.setOnMachine, { params: { id: flasks.id }, body: { what: 'number', value: 51.81, version: flasks.version } }); // prettier-ignore
    const { rings } = await call(api.takeRing, { params: { id: flasks.id }, body: { overlap: 0.75 } });
    const ring = rings.find((r) => !flasks.rings.some((old) => old.id === r.id))!;
    expect(ring.overlap).toBe(0.75);
    const less = await call(api.dropRing, { params: { id: flasks.id, ring: ring.id } });
    expect(less.rings.map((r) => r.id).sort()).toEqual(flasks.rings.map((r) => r.id).sort());
    expect((await ask(api.dropRing, { id: flasks.id, ring: ring.id })).status).toBe(404);

    const plates = await open('Oar-rack plates');
    const before = plates.feeder!.readings.length;
    const fed = await call(api.takeFeed, { params: { id: plates.id }, body: { commanded: 500, measured: 501, missed: null } }); // prettier-ignore
    const feed = fed.feeder!.readings.find((r) => !plates.feeder!.readings.some((old) => old.id === r.id))!;
    expect(feed).toMatchObject({ commanded: 500, measured: 501, missed: null });
    const wrong = await ask(api.takeFeed, { id: plates.id }, { commanded: 500, measured: 0, missed: null });
    expect([wrong.status, wrong.answer.code]).toEqual([422, 'feed-zero']);
    const out = await call(api.dropFeed, { params: { id: plates.id, feed: feed.id } });
    expect(out.feeder!.readings).toHaveLength(before);
    expect((await ask(api.dropFeed, { id: plates.id, feed: feed.id })).status).toBe(404);
  });

  it('the simulated bench measures a pointer’s offset, which the machine then has', async () => {
    const { id, machine } = await open('Boat tags');
    expect((await ask(api.pointerFromSim, { id })).answer).toMatchObject({ code: 'no-dot' });
    await call(api.simDo, { params: { id }, body: { act: 'lay' } });
    await call(api.simDo, { params: { id }, body: { act: 'home' } });
    await call(api.simDo, { params: { id }, body: { act: 'dot' } });
    await call(api.simDo, { params: { id }, body: { act: 'jog', dx: 1, dy: 0 } });
    const { machine: after } = await call(api.pointerFromSim, { params: { id } });
    expect(after.version).toBe(machine.version + 1);
    const offset = after.profile.pointerOffset!;
    expect(Math.abs(offset.x) + Math.abs(offset.y)).toBeGreaterThan(0);
    expect(Date.now() - Date.parse(offset.measuredAt)).toBeLessThan(60_000);
    expect((await call(api.listMachines)).find((m) => m.id === machine.id)!.version).toBe(after.version);
  });

  it('the simulated bench burns what is on the machine, and says what it found', async () => {
    const { id, pieces } = await open('Boat tags');
    if (!pieces.some((p) => p.state === 'loaded')) {
      const nothing = await ask(api.simRun, { id });
      expect(nothing.status).toBe(422);
      expect(nothing.answer.message).toMatch(/\w/);
    } else expect((await call(api.simRun, { params: { id } })).landed.length).toBeGreaterThan(0);
  });
});
