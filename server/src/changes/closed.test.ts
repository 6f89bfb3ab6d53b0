import { sql } from 'kysely';
import { api, type AnyEndpoint, type AwayKind, type BatchDocument } from '@bistre/contract';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

type Name = keyof typeof api;

/** Writes that concern a batch without changing what it is: allowed on a closed one. */
const STILL_ALLOWED: readonly Name[] = ['reopenBatch', 'wroteFile', 'simMeasure', 'againBatch'];
const NOBODY = '00000000-0000-4000-8000-000000000000';

withDatabase('a closed batch', () => {
  let shop: TestShop;
  let closed: BatchDocument;
  beforeAll(async () => {
    shop = await startShop('closed');
    const { id } = await shop.batch('Umpire flasks');
    for (const { id: putback } of (await shop.call(api.getBatch, { params: { id } })).putbacks)
      await shop.call(api.restorePutback, { params: { id, putback }, body: { restored: true } });
    closed = await shop.call(api.closeBatch, { params: { id }, by: 'Odile' });
  });
  afterAll(() => shop.stop());

  const writes = (Object.entries(api) as [Name, AnyEndpoint][]).filter(
    ([name, e]) => e.method !== 'GET' && e.path.startsWith('/api/batches/:id') && !STILL_ALLOWED.includes(name),
  );
  const version = 1;
  const bodies: Partial<Record<Name, object>> = {
    updateBatch: { name: 'x', customer: '', quantity: 9, spares: 0, tolerance: 1, dueAt: null, version },
    saveSection: { section: 'close', value: { notes: 'late', keep: '' }, version },
    chooseRecipe: { recipeId: null, version },
    undo: { event: 1 },
    correct: { shift: { x: 0.1, y: 0 }, turn: 0, size: 0, about: { x: 0, y: 0 }, pieces: 3, chance: 0.001, version },
    moveBatch: { machineId: NOBODY, version },
    askApproval: { wanted: true, version },
    takeApproval: { signedBy: 'the committee', note: '', version },
    saveFixture: { version },
    useFixture: { revisionId: null, version },
    takeReading: { mark: 1, x: 1, y: 1, source: 'typed', purpose: 'place' },
    takeReadings: { readings: [{ mark: 1, x: 1, y: 1 }] },
    tick: { done: true },
    saveRoster: { columns: ['name'], rows: [], version },
    judgePieces: { pieces: [{ slot: 1, state: 'done', cause: null }] },
    approveFirst: { approved: true },
    takeRing: { overlap: 0 },
    chooseDrive: { driveId: null, version },
    setOnMachine: { what: 'number', value: 1, version },
    cupSet: { value: 1 },
    cupBurn: { what: 'ring' },
    addPutback: { setting: 'a', was: 'b', now: 'c' },
    restorePutback: { restored: true },
    simDo: { act: 'home' },
    keepOffcuts: {
      offcuts: [
        {
          name: 'left',
          material: 'larch',
          thickness: 9,
          outline: [
            { x: 0, y: 0 },
            { x: 90, y: 0 },
            { x: 0, y: 90 },
          ],
          defects: [],
        },
      ],
    },
    takeFeed: { commanded: 500, measured: 501, missed: null },
  };

  it.each(writes.map(([name]) => name))('%s is refused: closed by whom and when', async (name) => {
    const endpoint: AnyEndpoint = api[name];
    const params = {
      id: closed.id,
      step: 'close.putback',
      reading: NOBODY,
      ring: NOBODY,
      feed: NOBODY,
      putback: closed.putbacks[0]!.id,
    };
    const response = await shop.send(endpoint, { params, body: bodies[name] ?? {} });
    const value = (await response.json()) as { code: string; message: string };
    expect([response.status, value.code]).toEqual([409, 'closed']);
    expect(value.message).toMatch(/closed by Odile on \d{4}-\d\d-\d\d \d\d:\d\d UTC/);
  });

  it('is as it was after all that', async () => {
    const { updatedAt: _a, ...now } = await shop.call(api.getBatch, { params: { id: closed.id } });
    const { updatedAt: _b, ...then } = closed;
    expect(now).toEqual(then);
    expect(now.closedBy).toBe('Odile');
  });

  it('still gives its files and its log', async () => {
    expect((await fetch(`${shop.base}/api/batches/${closed.id}/files/setup.pdf`)).status).toBe(200);
    expect((await shop.send(api.listLog, { query: { batch: closed.id } })).status).toBe(200);
  });

  it('is opened again with a reason, which the log keeps, and only once', async () => {
    const params = { id: closed.id };
    expect((await shop.send(api.reopenBatch, { params, body: { reason: ' ' } })).status).toBe(400);
    const open = await shop.call(api.reopenBatch, { params, body: { reason: 'two grips came back' } });
    expect([open.closedAt, open.closedBy]).toEqual([null, null]);
    expect((await shop.send(api.reopenBatch, { params, body: { reason: 'again' } })).status).toBe(409);
    const { rows } = await shop.call(api.listLog);
    expect(rows[0]!.summary).toBe('Batch opened again: two grips came back');
    expect((await shop.call(api.listBatches)).map((b) => b.name)).toContain('Umpire flasks');
  });
});

withDatabase('putting away and bringing back', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('away');
  });
  afterAll(() => shop.stop());

  const away = (kind: AwayKind, id: string, put: boolean): Promise<Response> =>
    shop.send(api.setAway, { params: { kind, id }, body: { away: put } });
  const names = async (): Promise<string[]> => (await shop.call(api.listBatches)).map((b) => b.name);
  const said = async (response: Response): Promise<string> => ((await response.json()) as { message: string }).message;

  it('a batch begun by mistake leaves the Board, is only read, and comes back whole', async () => {
    const before = await shop.batch('Lane medals');
    expect((await away('batches', before.id, true)).status).toBe(200);
    expect((await away('batches', before.id, true)).status).toBe(200);
    expect(await names()).not.toContain('Lane medals');
    expect(await shop.call(api.listAway)).toMatchObject([{ kind: 'batches', name: 'Lane medals', by: 'Imre' }]);
    const write = await shop.send(api.startLoad, { params: { id: before.id } });
    expect([write.status, await said(write)]).toEqual([409, expect.stringMatching(/put away .* Bring it back/)]);
    expect((await away('batches', before.id, false)).status).toBe(200);
    expect(await shop.batch('Lane medals')).toEqual(before);
    expect(await shop.call(api.listAway)).toEqual([]);
  });

  it('a batch with a load on the machine, or a setting not put back, stays', async () => {
    const tags = await shop.batch('Boat tags');
    await shop.call(api.startLoad, { params: { id: tags.id } });
    expect(await said(await away('batches', tags.id, true))).toMatch(/Load 1 is on the machine/);
    const flasks = await shop.batch('Umpire flasks');
    expect(await said(await away('batches', flasks.id, true))).toMatch(/put it back to/);
  });

  it.each(['blanks', 'machines', 'recipes', 'drives', 'feeders', 'fixtures'] as const)(
    '%s in use say by what; unused they go and come back, and their names stay theirs',
    async (kind) => {
      const used = {
        blanks: 'Boat tag',
        machines: 'Bench A',
        recipes: 'Slate acrylic, fine',
        drives: 'Roller',
        feeders: '',
        fixtures: 'BOATTAG-48',
      };
      const { rows } = await (
        await import('kysely')
      ).sql<{ id: string; name: string }>`
        select id, name from ${sql.table(kind)} order by (name ilike ${`${used[kind]}%`}) desc, name`.execute(shop.db);
      const refused = await away(kind, rows[0]!.id, true);
      expect(refused.status).toBe(409);
      expect(await said(refused)).toMatch(new RegExp(`^${rows[0]!.name} is used by .*\\. Close or change`));
      // One that nothing uses.
      const table = sql.table(kind);
      const copied = {
        blanks: sql`insert into blanks (name, spec) select 'Spare thing', spec from blanks limit 1 returning id`,
        machines: sql`insert into machines (name, profile) select 'Spare thing', profile from machines limit 1 returning id`,
        recipes: sql`insert into recipes (name, machine_id, spec) select 'Spare thing', machine_id, spec from recipes limit 1 returning id`,
        drives: sql`insert into drives (name, spec) select 'Spare thing', spec from drives limit 1 returning id`,
        feeders: sql`insert into feeders (name, spec) select 'Spare thing', spec from feeders limit 1 returning id`,
        fixtures: sql`insert into fixtures (name, blank_id) select 'Spare thing', blank_id from fixtures limit 1 returning id`,
      }[kind];
      const { id } = (await copied.execute(shop.db)).rows[0] as { id: string };
      expect((await away(kind, id, true)).status).toBe(200);
      const list = {
        blanks: api.listBlanks,
        machines: api.listMachines,
        recipes: api.listRecipes,
        drives: api.listDrives,
        feeders: api.listFeeders,
        fixtures: api.listFixtures,
      }[kind];
      const there = async (): Promise<boolean> =>
        ((await (await shop.send(list)).json()) as { id: string }[]).some((t) => t.id === id);
      expect(await there()).toBe(false);
      expect((await away(kind, id, false)).status).toBe(200);
      expect(await there()).toBe(true);
      await sql`delete from ${table} where id = ${id}`.execute(shop.db);
    },
  );

  it('nothing new begins with what is put away, and its name is not given to another', async () => {
    const { blank } = await shop.batch('Boat tags');
    const { id } = await shop.call(api.createBlank, { body: { name: 'Thwart plate', spec: blank.spec } });
    await away('blanks', id, true);
    const [machine] = await shop.call(api.listMachines);
    const begun = await shop.send(api.createBatch, {
      body: {
        name: 'X',
        customer: '',
        quantity: 1,
        spares: 0,
        tolerance: 1,
        dueAt: null,
        machineId: machine!.id,
        blankId: id,
      },
    });
    expect([begun.status, await said(begun)]).toEqual([
      409,
      'Thwart plate is put away. Bring it back before it is changed or used.',
    ]);
    const same = await shop.send(api.createBlank, { body: { name: 'Thwart plate', spec: blank.spec } });
    expect([same.status, await said(same)]).toEqual([
      409,
      expect.stringMatching(/^Thwart plate is put away\. Bring it back/),
    ]);
  });

  it('an offcut that was thrown away can be brought back', async () => {
    const { id } = await shop.batch('Lane pegs');
    const outline = [
      { x: 0, y: 0 },
      { x: 90, y: 0 },
      { x: 0, y: 90 },
    ];
    const offcut = { name: 'larch end', material: 'larch', thickness: 9, outline, defects: [] };
    await shop.call(api.keepOffcuts, { params: { id }, body: { offcuts: [offcut] } });
    const [kept] = await shop.call(api.listOffcuts);
    await away('offcuts', kept!.id, true);
    expect(await shop.call(api.listOffcuts)).toEqual([]);
    await away('offcuts', kept!.id, false);
    expect(await shop.call(api.listOffcuts)).toEqual([kept]);
  });

  it('what does not exist is not put away', async () => {
    expect((await away('batches', NOBODY, true)).status).toBe(404);
    expect(
      (await shop.send(api.setAway, { params: { kind: 'events', id: NOBODY }, body: { away: true } })).status,
    ).toBe(400);
  });
});

withDatabase('what a batch has not', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('has');
  });
  afterAll(() => shop.stop());

  it('a step that it has not is not ticked; one that it has is, and is opened again', async () => {
    const { id, ticks } = await shop.batch('Boat tags');
    const tick = (step: string, done: boolean): Promise<Response> =>
      shop.send(api.tick, { params: { id, step }, body: { done } });
    for (const step of ['hold.nonsense', 'drive.ring', 'run.segment-1', 'place.turned'])
      expect([step, (await tick(step, true)).status]).toEqual([step, 422]);
    expect((await tick('hold.nonsense', false)).status).toBe(200);
    expect((await shop.batch('Boat tags')).ticks).toEqual(ticks);
    expect((await tick('place.home', true)).status).toBe(200);
    expect((await shop.batch('Boat tags')).ticks.map((t) => t.step)).toContain('place.home');
    expect((await tick('place.home', false)).status).toBe(200);
    expect((await shop.batch('Boat tags')).ticks).toEqual(ticks);
  });

  it('a mark that its work has not is not read; the marks it has are named', async () => {
    const { id } = await shop.batch('Boat tags');
    const read = (mark: number): Promise<Response> =>
      shop.send(api.takeReading, {
        params: { id },
        body: { mark, x: 1, y: 1, source: 'typed', purpose: 'place' },
      });
    const refused = await read(4);
    expect([refused.status, ((await refused.json()) as { message: string }).message]).toEqual([
      422,
      'This work has no mark 4; its marks are 1, 2, 3. Nothing was kept.',
    ]);
    const table = await shop.send(api.takeReadings, {
      params: { id },
      body: {
        readings: [
          { mark: 1, x: 1, y: 1 },
          { mark: 399, x: 2, y: 2 },
        ],
      },
    });
    expect(table.status).toBe(422);
    expect((await shop.batch('Boat tags')).readings).toEqual([]);
    expect((await read(3)).status).toBe(200);
  });

  it('a roster’s column may be called anything, and its words come back', async () => {
    const { id, version } = await shop.batch('Lane medals');
    const columns = ['name', '__proto__', 'constructor', 'toString'];
    const row = JSON.parse('{"name": "ANNA", "__proto__": "7", "constructor": "=1+1", "toString": "-2"}') as object;
    const saved = await shop.send(api.saveRoster, {
      params: { id },
      body: { columns, rows: [row, { name: 'BEN' }], version },
    });
    expect(saved.status).toBe(200);
    const text = await (await fetch(`${shop.base}/api/batches/${id}/files/roster.csv`)).text();
    expect(text.replace('\uFEFF', '').split('\r\n').slice(0, 3)).toEqual([
      'piece,name,__proto__,constructor,toString,state,cause',
      "1,ANNA,7,'=1+1,-2,waiting,",
      '2,BEN,,,,waiting,',
    ]);
    const document = (await (await shop.send(api.getBatch, { params: { id } })).json()) as { roster: object[] };
    expect(Object.entries(document.roster[0]!)).toContainEqual(['__proto__', '7']);
  });
});
