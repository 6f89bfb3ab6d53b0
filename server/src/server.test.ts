import { setOnDrive } from '@bistre/core';
import { inPockets } from './testing/held';
import { sql } from 'kysely';
import sharp from 'sharp';
import { api, PICTURES, SAMPLE_SHEET, pictureInfo, type BatchDocument } from '@bistre/contract';
import { TURNED } from '@bistre/core';
import { connect, migrate, SCHEMAS, type Db } from './db/connect';
import { migrations } from './db/migrations';
import { seedDemo } from './demo';
import { loadPictures } from './pictures';
import { startShop, urlOf, withDatabase, type TestShop } from './testing/shop';

/** Open batches of the demo shop. */
const OPEN = 21;

withDatabase('the server against PostgreSQL', () => {
  let shop: TestShop;
  let db: Db;
  let base = '';
  let url = '';
  let lines: string[] = [];

  beforeAll(async () => {
    shop = await startShop('server');
    ({ db, base, url, lines } = shop);
  });
  afterAll(() => shop.stop());

  const send: TestShop['send'] = (...sent) => shop.send(...sent);
  const call: TestShop['call'] = (...called) => shop.call(...called);
  const versionOf = async (id: string): Promise<number> => (await call(api.getBatch, { params: { id } })).version;
  /** Takes the latest change of a batch back. */
  const undo = async (id: string): Promise<BatchDocument> => {
    const { canUndo } = await call(api.getBatch, { params: { id } });
    return call(api.undo, { params: { id }, body: { event: canUndo!.event } });
  };
  const tags = async (): Promise<BatchDocument> =>
    call(api.getBatch, { params: { id: (await call(api.listBatches)).find((b) => b.name === 'Boat tags')!.id } });

  it('migrates from empty, and a second time changes nothing', async () => {
    expect(await migrate(url)).toEqual([]);
    expect(SCHEMAS).toEqual(Object.keys(migrations));
    expect(Object.keys(migrations)).toEqual([...Object.keys(migrations)].sort());
  });

  it('brings a database of the first release to this one, its boards with the three marks they have', async () => {
    const name = `old_${process.pid}`;
    await sql.raw(`create database ${name}`).execute(db);
    const oldUrl = urlOf(name);
    const old = connect(oldUrl);
    try {
      await sql`create table kysely_migration (name varchar(255) primary key, timestamp varchar(255) not null)`.execute(
        old,
      );
      await migrations['0001_first']!.up(old as never);
      await sql`insert into kysely_migration values ('0001_first', now()::text)`.execute(old);
      await sql`insert into machines (name, profile) values ('Bench A', '{}');
        insert into blanks (name, spec) values ('Tag', '{}')`.execute(old);
      await sql`insert into batches (name, quantity, spares, tolerance_mm, machine_id, blank_id, setup, updated_by)
        select 'Tags', 4, 0, 0.5, m.id, b.id, '{"hold": {"wall": 3}}', 'Imre' from machines m, blanks b`.execute(old);
      expect(await migrate(oldUrl)).toEqual(Object.keys(migrations).slice(1));
      const { setup } = await old.selectFrom('batches').select('setup').executeTakeFirstOrThrow();
      expect(setup.held).toMatchObject({ way: 'pockets', choice: { wall: 3, marks: 3 }, left: [] });
    } finally {
      await old.destroy();
      await sql.raw(`drop database ${name}`).execute(db);
    }
  });

  it('shows the demo shop: one to place, one not begun, one finished', async () => {
    const open = await call(api.listBatches);
    expect(open.map((b) => [b.name, b.station])).toEqual([
      ['Boat tags', 'place'],
      ['Umpire flasks', 'drive'],
      ['Bow-number decals', 'hold'],
      ['Winners’ medals, both faces', 'hold'],
      ['Crew badges, printed elsewhere', 'hold'],
      ['Oar-rack plates, in a row', 'feed'],
      ['Trophy glasses', 'drive'],
      ['Lane medals', 'blank'],
      ['Cleat plates, drilled', 'place'],
      ['Course board, 2.2 m', 'hold'],
      ['Course through the feeder, 2.2 m', 'feed'],
      ['Oar grips', 'drive'],
      ['Gulls, lying anywhere', 'hold'],
      ['Lane pegs, from offcuts', 'hold'],
      ['Boat plaques, pegs and lines', 'hold'],
      ['Berth cards, Bench B on its board', 'hold'],
      ['Buoy labels, same larch', 'hold'],
      ['Berth tiles, slate', 'hold'],
      ['Stopwatch cases', 'hold'],
      ['Helpers’ cards, cherry', 'hold'],
      ['Course charts, alder', 'hold'],
    ]);
    const response = await fetch(`${base}/api/batches?closed=yes`);
    expect(((await response.json()) as { name: string; done: number }[])[0]).toMatchObject({
      name: 'Bag tags, junior crews',
      done: 24,
    });
    await seedDemo(db);
    expect(await call(api.listBatches)).toHaveLength(OPEN);
  });

  it('keeps a sheet’s two sides apart: no marks before it is turned, nothing done after one side', async () => {
    const { id } = (await call(api.listBatches)).find((b) => b.name.startsWith('Winners’'))!;
    await call(api.saveFixture, { params: { id }, body: { version: await versionOf(id) } });
    await call(api.startLoad, { params: { id } });
    const reading = { mark: 1, x: 640, y: 390, source: 'typed', purpose: 'place' } as const;
    await expect(call(api.takeReading, { params: { id }, body: reading })).rejects.toThrow(/turn the sheet over/);
    const judged = { pieces: [{ slot: 1, state: 'done' as const, cause: null }] };
    await expect(call(api.judgePieces, { params: { id }, body: judged })).rejects.toThrow(/Only side one is burned/);
    await call(api.tick, { params: { id, step: TURNED }, body: { done: true } });
    expect((await call(api.takeReading, { params: { id }, body: reading })).readings).toHaveLength(1);
    await call(api.judgePieces, {
      params: { id },
      body: { pieces: Array.from({ length: 18 }, (_, i) => ({ slot: i + 1, state: 'done' as const, cause: null })) },
    });
    // The next sheet begins with side one again.
    const after = await call(api.getBatch, { params: { id } });
    expect(after.ticks.map((t) => t.step)).not.toContain(TURNED);
    expect(after.readings).toEqual([]);
    const [other] = (await call(api.listRecipes)).filter((r) => r.machineId !== after.machine.id);
    await expect(
      call(api.saveSection, {
        params: { id },
        body: { section: 'back', value: { ...after.setup.back, recipeId: other!.id }, version: after.version },
      }),
    ).rejects.toThrow(/another machine/);
  });

  it('keeps a reading as it is taken, with who and when, and takes it back', async () => {
    const batch = await tags();
    const after = await call(api.takeReading, {
      params: { id: batch.id },
      body: { mark: 1, x: 245.1, y: 440.2, source: 'typed', purpose: 'place' },
    });
    expect(after.readings).toHaveLength(1);
    expect(after.readings[0]).toMatchObject({ x: 245.1, by: 'Imre' });
    expect(after.canUndo?.summary).toContain('Mark 1 read at 245.10, 440.20');
    const undone = await undo(batch.id);
    expect(undone.readings).toEqual([]);
  });

  it('takes a table of readings whole or not at all, each with its own line in the log', async () => {
    const plates = (await call(api.listBatches)).find((b) => b.name === 'Cleat plates, drilled')!;
    const params = { id: plates.id };
    const table = (readings: { mark: number; x: number; y: number }[]): Promise<Response> =>
      send(api.takeReadings, { params, body: { readings } } as never);
    const bad = await table([
      { mark: 1, x: 300, y: 200 },
      { mark: 2, x: Number.MAX_VALUE, y: 200 },
    ]);
    expect(bad.status).toBe(400);
    expect((await call(api.getBatch, { params })).readings).toHaveLength(0);
    const good = await table([
      { mark: 1, x: 300, y: 200 },
      { mark: 2, x: 404, y: 224 },
    ]);
    expect(good.status).toBe(200);
    const { readings, canUndo } = await call(api.getBatch, { params });
    expect(readings.map((r) => [r.mark, r.x, r.source])).toEqual([
      [1, 300, 'typed'],
      [2, 404, 'typed'],
    ]);
    expect(canUndo?.summary).toMatch(/Mark 2 read at 404\.00/);
  });

  it('hands the sample sheet out as a picture to be saved, never to be shown as a page', async () => {
    const response = await fetch(`${base}${SAMPLE_SHEET}`);
    expect(response.headers.get('content-type')).toBe('image/png');
    expect(response.headers.get('content-disposition')).toMatch(/^attachment/);
    expect((await response.arrayBuffer()).byteLength).toBeGreaterThan(20_000);
  });

  it('keeps the seams of long work once a segment of it is burned, and judges it when all are', async () => {
    const course = (await call(api.listBatches)).find((b) => b.name === 'Course board, 2.2 m')!;
    const params = { id: course.id };
    await call(api.startLoad, { params });
    await call(api.tick, { params: { ...params, step: 'run.segment-1' }, body: { done: true } });
    const { setup, version } = await call(api.getBatch, { params });
    const changed = await send(api.saveSection, {
      params,
      body: { section: 'held', value: { ...setup.held, choice: { ...setup.held.choice, margin: 40 } }, version },
    } as never);
    expect(await changed.json()).toMatchObject({ code: 'segment-burned' });
    const early = await send(api.judgePieces, {
      params,
      body: { pieces: [{ slot: 1, state: 'done', cause: null, dx: null, dy: null, yaw: null }] },
    } as never);
    expect(await early.json()).toMatchObject({ code: 'segments-left' });
  });

  it('keeps feeds that say something, names those that do not, and takes one back', async () => {
    const { id } = (await call(api.listBatches)).find((b) => b.name.startsWith('Oar-rack'))!;
    const params = { id };
    const feed = (measured: number): Promise<BatchDocument> =>
      call(api.takeFeed, { params, body: { commanded: 500, measured, missed: null } });
    await expect(feed(0)).rejects.toThrow(/did not move.*Nothing was kept/);
    await expect(feed(-499)).rejects.toThrow(/went the other way/);
    await expect(feed(19.6)).rejects.toThrow(/Look at the unit/);
    expect((await feed(502)).feeder?.readings.map((r) => r.measured)).toEqual([502]);
    expect((await undo(params.id)).feeder?.readings).toEqual([]);
    // The course's feeder is the same one: its readings count there too.
    await feed(501);
    const other = (await call(api.listBatches)).find((b) => b.name.startsWith('Course through'))!;
    const { feeder } = await call(api.getBatch, { params: { id: other.id } });
    expect(feeder?.readings).toHaveLength(1);
  });

  it('goes on at the right stop of a strip after an interruption in the middle of one', async () => {
    const { id } = (await call(api.listBatches)).find((b) => b.name.startsWith('Oar-rack'))!;
    const params = { id };
    const judge = (slot: number, state: 'done' | 'scrap'): Promise<BatchDocument> =>
      call(api.judgePieces, {
        params,
        body: { pieces: [{ slot, state, cause: state === 'scrap' ? 'moved while burning' : null }] },
      });
    await call(api.startLoad, { params });
    const early = await fetch(`${base}/api/batches/${id}/files/load.gcode`);
    expect(((await early.json()) as { code: string }).code).toBe('not-aimed');
    await call(api.takeReading, { params, body: { mark: 1, x: 152, y: 519, source: 'typed', purpose: 'place' } });
    expect((await fetch(`${base}/api/batches/${id}/files/load.gcode`)).status).toBe(200);
    await judge(1, 'done');
    await call(api.approveFirst, { params, body: { approved: true } });
    const second = await call(api.startLoad, { params });
    expect(second.pieces.filter((p) => p.state === 'loaded').map((p) => p.slot)).toEqual([2, 3, 4, 5]);
    await judge(2, 'done');
    await judge(3, 'scrap');
    // Whoever opens the batch now sees the same stop, with the two places that are left.
    const open = await call(api.getBatch, { params });
    expect(open.pieces.filter((p) => p.state === 'loaded').map((p) => p.slot)).toEqual([4, 5]);
    await judge(4, 'done');
    await judge(5, 'done');
    const third = await call(api.startLoad, { params });
    expect(third.pieces.filter((p) => p.state === 'loaded').map((p) => [p.slot, p.ordinal])).toEqual([
      [6, 3],
      [7, 6],
      [8, 7],
      [9, 8],
    ]);
  });

  it('answers a retried write with the first answer, once', async () => {
    const batch = await tags();
    const body = { mark: 2, x: 1, y: 2, source: 'typed', purpose: 'place' };
    const key = { 'idempotency-key': 'retry-1' };
    const first = (await (
      await send(api.takeReading, { params: { id: batch.id }, body, headers: key })
    ).json()) as BatchDocument;
    const second = (await (
      await send(api.takeReading, { params: { id: batch.id }, body, headers: key })
    ).json()) as BatchDocument;
    expect(second.readings).toEqual(first.readings);
    expect((await tags()).readings).toHaveLength(1);
    await undo(batch.id);
  });

  it('lets two people edit different parts, and stops the second at the same part', async () => {
    const batch = await tags();
    await call(api.saveSection, {
      params: { id: batch.id },
      body: { section: 'held', value: inPockets(batch, { wall: 4 }), version: batch.version },
    });
    const other = await send(api.saveSection, {
      params: { id: batch.id },
      body: { section: 'close', value: { notes: 'dry', keep: '' }, version: batch.version },
    });
    expect(other.status).toBe(200);
    const clash = await send(api.saveSection, {
      params: { id: batch.id },
      body: { section: 'held', value: inPockets(batch, { wall: 5 }), version: batch.version },
    });
    expect(clash.status).toBe(409);
    expect(((await clash.json()) as { message: string }).message).toMatch(
      /Imre changed this at .* What you typed is still here/,
    );
    expect((await tags()).setup.held.choice).toMatchObject({ wall: 4 });
    await undo(batch.id);
    await undo(batch.id);
    expect((await tags()).setup).toEqual(batch.setup);
  });

  it.each([
    ['zero', { quantity: 0 }, 'quantity'],
    ['negative', { tolerance: -1 }, 'tolerance'],
    ['huge', { quantity: 1e12 }, 'quantity'],
    ['not a number', { tolerance: 'wide' }, 'tolerance'],
    ['an empty name', { name: ' ' }, 'name'],
    ['a control character', { name: 'a\u0007b' }, 'name'],
  ])('refuses %s with the field named, and changes nothing', async (_word, part, field) => {
    const [machine] = await call(api.listMachines);
    const [blank] = await call(api.listBlanks);
    const response = await send(api.createBatch, {
      body: {
        name: 'X',
        customer: '',
        quantity: 5,
        spares: 0,
        tolerance: 0.5,
        dueAt: null,
        machineId: machine!.id,
        blankId: blank!.id,
        ...part,
      },
    });
    expect(response.status).toBe(400);
    const problem = (await response.json()) as { field: string; message: string };
    expect(problem.field).toBe(field);
    expect(problem.message).toMatch(/^[A-Z].*\.$/);
    expect(await call(api.listBatches)).toHaveLength(OPEN);
  });

  it('refuses to write a load’s file before the board is placed and before anything is loaded', async () => {
    const batch = await tags();
    const response = await fetch(`${base}/api/batches/${batch.id}/files/load.gcode`);
    expect(response.status).toBe(422);
    expect(((await response.json()) as { code: string }).code).toBe('not-placed');
  });

  it('hands files out as attachments of the right kind', async () => {
    const batch = await tags();
    for (const [file, type, start] of [
      ['board.svg', 'image/svg+xml', '<?xml'],
      ['board.dxf', 'image/vnd.dxf', '0'],
      ['board.gcode', 'text/plain', '('],
      ['setup.pdf', 'application/pdf', '%PDF'],
      ['proof.pdf', 'application/pdf', '%PDF'],
      ['roster.csv', 'text/csv', 'piece'],
    ] as const) {
      const response = await fetch(`${base}/api/batches/${batch.id}/files/${file}`);
      expect(response.status).toBe(200);
      expect(response.headers.get('content-type')).toContain(type);
      expect(response.headers.get('content-disposition')).toMatch(/^attachment; filename="boat-tags-/);
      expect((await response.text()).replace('\uFEFF', '').slice(0, start.length)).toBe(start);
    }
    expect((await fetch(`${base}/api/batches/${batch.id}/files/passwd`)).status).toBe(404);
  });

  it('gives a picture of exact resolution with its physical size set', async () => {
    const batch = await tags();
    const png = Buffer.from(await (await fetch(`${base}/api/batches/${batch.id}/files/load.png`)).arrayBuffer());
    const at = png.indexOf('pHYs');
    // 0.1 mm between dots: 10 000 dots a metre, unit 1 is the metre (PNG, ISO/IEC 15948, 11.3.5.3).
    expect([png.readUInt32BE(at + 4), png.readUInt32BE(at + 8), png[at + 12]]).toEqual([10_000, 10_000, 1]);
  });

  it('runs a load piece by piece and finds the same slot after a restart', async () => {
    const batch = await tags();
    const loaded = await call(api.startLoad, { params: { id: batch.id } });
    expect(loaded.pieces).toHaveLength(1);
    expect((await send(api.startLoad, { params: { id: batch.id } })).status).toBe(422);
    const scrap = await send(api.judgePieces, {
      params: { id: batch.id },
      body: { pieces: [{ slot: 1, state: 'scrap', cause: null }] },
    });
    expect(((await scrap.json()) as { message: string }).message).toContain('Say why');
    await call(api.judgePieces, {
      params: { id: batch.id },
      body: { pieces: [{ slot: 1, state: 'done', cause: null, dx: 0.1, dy: 0, yaw: 0 }] },
    });
    await call(api.approveFirst, { params: { id: batch.id }, body: { approved: true } });
    await call(api.startLoad, { params: { id: batch.id } });
    await call(api.judgePieces, {
      params: { id: batch.id },
      body: {
        pieces: [
          { slot: 1, state: 'done', cause: null },
          { slot: 2, state: 'scrap', cause: 'blank flawed' },
          { slot: 3, state: 'again', cause: null },
        ],
      },
    });
    // A second connection sees what the first had saved.
    const again = connect(url);
    const rows = await again
      .selectFrom('pieces')
      .select(['slot', 'state'])
      .where('batch_id', '=', batch.id)
      .where('load', '=', 2)
      .orderBy('slot')
      .limit(3)
      .execute();
    await again.destroy();
    expect(rows).toEqual([
      { slot: 1, state: 'done' },
      { slot: 2, state: 'scrap' },
      { slot: 4, state: 'loaded' },
    ]);
  });

  it('does not close while a setting is not put back', async () => {
    const batch = (await call(api.listBatches)).find((b) => b.name === 'Lane medals')!;
    const added = await call(api.addPutback, {
      params: { id: batch.id },
      body: { setting: 'y steps per mm', was: '80', now: '108.36' },
    });
    const refused = await send(api.closeBatch, { params: { id: batch.id } });
    expect(refused.status).toBe(422);
    expect(((await refused.json()) as { message: string }).message).toContain('put it back to 80');
    await call(api.restorePutback, {
      params: { id: batch.id, putback: added.putbacks[0]!.id },
      body: { restored: true },
    });
    expect((await call(api.closeBatch, { params: { id: batch.id } })).closedAt).not.toBeNull();
  });

  it('makes a changed blank put its board out of date, with the reason', async () => {
    const batch = await tags();
    const { blank } = batch;
    const spec = { ...blank.spec, shape: { kind: 'rectangle' as const, length: 64, width: 25, cornerRadius: 3 } };
    await call(api.saveBlank, { params: { id: blank.id }, body: { name: blank.name, spec, version: blank.version } });
    const row = (await call(api.listBatches)).find((b) => b.id === batch.id)!;
    expect(row.outOfDate[0]).toContain('64.00');
    expect(
      (
        await send(api.saveBlank, {
          params: { id: blank.id },
          body: { name: blank.name, spec, version: blank.version },
        })
      ).status,
    ).toBe(409);
    await call(api.saveBlank, {
      params: { id: blank.id },
      body: { name: blank.name, spec: blank.spec, version: blank.version + 1 },
    });
  });

  it('takes changes of the Shelf back: machine, recipe and blank, each to what it was', async () => {
    const [machine] = await call(api.listMachines);
    await call(api.saveMachine, {
      params: { id: machine!.id },
      body: { name: machine!.name, version: machine!.version, profile: { ...machine!.profile, kerf: 0.31 } },
    });
    const { change } = await call(api.shelfUndoable, { params: { id: machine!.id } });
    expect(change?.summary).toContain('Bench A');
    await call(api.undoShelf, { params: { id: machine!.id }, body: { event: change!.event } });
    const back = (await call(api.listMachines))[0]!;
    expect(back.profile).toEqual(machine!.profile);
    expect(back.version).toBeGreaterThan(machine!.version);
    expect((await send(api.undoShelf, { params: { id: machine!.id }, body: { event: change!.event } })).status).toBe(
      409,
    );
    // A blank's change is seen in its open batch and can be taken back from there.
    const batch = await tags();
    const { blank } = batch;
    await call(api.saveBlank, {
      params: { id: blank.id },
      body: { name: blank.name, version: blank.version, spec: { ...blank.spec, thickness: 2.5 } },
    });
    expect((await tags()).canUndo?.summary).toContain('Blank changed');
    await undo(batch.id);
    expect((await tags()).blank.spec).toEqual(blank.spec);
  });

  it('takes no piece that is out of tolerance without a reason, and no first one of them without being told twice', async () => {
    const made = await call(api.getBatch, { params: { id: (await call(api.listBatches)).find((b) => b.name === 'Oar grips')!.id } }); // prettier-ignore
    const params = { id: made.id };
    if (!made.pieces.some((p) => p.state === 'loaded')) await call(api.startLoad, { params });
    const { slot } = (await call(api.getBatch, { params })).pieces.find((p) => p.state === 'loaded')!;
    const off = made.tolerance + 0.01;
    const outside = { slot, state: 'done' as const, dx: off, dy: 0, yaw: 0 };
    const refused = await send(api.judgePieces, { params, body: { pieces: [{ ...outside, cause: null }] } });
    expect(refused.status).toBe(422);
    expect(((await refused.json()) as { message: string }).message).toBe(
      `Slot ${slot} is ${off.toFixed(2)} mm off at its worst corner; ${made.tolerance.toFixed(2)} mm are allowed. Scrap it, or say why it passes. Nothing was judged.`,
    );
    const passed = await call(api.judgePieces, { params, body: { pieces: [{ ...outside, cause: 'under the ferrule' }] } }); // prettier-ignore
    expect(passed.pieces.find((p) => p.state === 'done')).toMatchObject({ cause: 'under the ferrule', dx: off });
    const once = await send(api.approveFirst, { params, body: { approved: true } });
    expect([once.status, ((await once.json()) as { code: string }).code]).toEqual([422, 'first-outside']);
    expect((await call(api.approveFirst, { params, body: { approved: true, sure: true } })).firstApproved).toBe(true);
    const log = await (await fetch(`${base}/api/log`)).text();
    expect(log).toMatch(/passed although out of tolerance: under the ferrule/);
  });

  const flasks = async (): Promise<BatchDocument> =>
    call(api.getBatch, { params: { id: (await call(api.listBatches)).find((b) => b.name === 'Umpire flasks')!.id } });

  it('takes a ring only when it is known what it was burned with, and asks about a quarter turn', async () => {
    const batch = await flasks();
    const params = { id: batch.id };
    expect(batch.putbacks.map((p) => p.was)).toEqual(['3000']);
    const untold = await send(api.takeRing, { params, body: { overlap: 0 } });
    expect([untold.status, ((await untold.json()) as { code: string }).code]).toEqual([422, 'number-not-set']);
    await call(api.setOnMachine, {
      params,
      body: { what: 'number', value: 51.81, version: await versionOf(batch.id) },
    });
    const doubtful = await send(api.takeRing, { params, body: { overlap: 120 } });
    expect(doubtful.status).toBe(422);
    expect(((await doubtful.json()) as { message: string }).message).toMatch(
      /quarter turn\..*Does 51\.81 really stand in the machine\?/,
    );
    // A twentieth of the way round is more than any drive is off by, the first time.
    const far = await send(api.takeRing, { params, body: { overlap: 13 } });
    expect([far.status, ((await far.json()) as { code: string }).code]).toEqual([422, 'ring-far']);
    const taken = await call(api.takeRing, { params, body: { overlap: -2.5 } });
    expect(taken.rings).toHaveLength(1);
    // A gap: the drive turned too little, so it needs more steps; the machine still has the old number.
    expect(taken.rings[0]!.correction).toBeCloseTo(1, 4);
    const number = await call(api.setOnMachine, {
      params,
      body: { what: 'number', value: 52.34, version: await versionOf(params.id) },
    });
    expect(number.setup.held.found).toMatchObject({ numberSet: 52.34 });
    // The setting is on the list once, with the value that stood there first.
    expect(number.putbacks.filter((p) => p.setting.includes('steps/mm'))).toMatchObject([{ was: '80', now: '52.34' }]);
    // Taking it back takes the list back too.
    const before = await undo(params.id);
    expect(before.putbacks.filter((p) => p.setting.includes('steps/mm'))).toMatchObject([{ was: '80', now: '51.81' }]);
    await call(api.setOnMachine, {
      params,
      body: { what: 'number', value: 52.34, version: await versionOf(params.id) },
    });
    const second = await call(api.takeRing, { params, body: { overlap: 0, diameter: 84.2 } });
    expect(second.rings.map((r) => r.diameter)).toEqual([null, 84.2]);
    expect(second.rings[1]!.correction).toBeGreaterThan(1.01);
    const undone = await undo(params.id);
    expect(undone.rings).toHaveLength(1);
    const closed = await send(api.closeBatch, { params });
    expect(((await closed.json()) as { message: string }).message).toMatch(/put it back to (80|3000)/);
  });

  it('tells every batch of a machine what another left changed in it, until that is put back', async () => {
    const named = async (name: string): Promise<BatchDocument> =>
      call(api.getBatch, { params: { id: (await call(api.listBatches)).find((b) => b.name === name)!.id } });
    const left = async (name: string): Promise<string[]> => (await named(name)).elsewhere.map((e) => `${e.batch}: ${e.setting} ${e.was} → ${e.now}`); // prettier-ignore
    const axis = 'Umpire flasks: y axis, steps/mm 80 → 52.34';
    expect(await left('Boat plaques, pegs and lines')).toContain(axis);
    // Its own change, and those of other machines, are nobody else's.
    expect([await left('Umpire flasks'), await left('Berth cards, Bench B on its board')]).toEqual([[], []]);
    const file = (id: string): Promise<Response> => fetch(`${base}/api/batches/${id}/files/board.gcode`);
    const tags = await named('Boat plaques, pegs and lines');
    const refused = await file(tags.id);
    expect([refused.status, ((await refused.json()) as { message: string }).message]).toEqual([422, expect.stringContaining('Umpire flasks left y axis, steps/mm at 52.34 on Bench A')]); // prettier-ignore

    // A second batch on the same drive types its own number over it: to be put back to what stood there first.
    const like = await flasks();
    const begun = { customer: '', name: 'Mugs', machineId: like.machine.id, blankId: like.blank.id, quantity: 4, spares: 0, tolerance: 1, dueAt: null }; // prettier-ignore
    const params = { id: (await call(api.createBatch, { body: begun as never })).id };
    const mugs = await call(api.getBatch, { params });
    await call(api.chooseDrive, { params, body: { driveId: (await flasks()).drive!.id, version: mugs.version } });
    const set = await call(api.setOnMachine, { params, body: { what: 'number', value: 50.9, version: await versionOf(mugs.id) } }); // prettier-ignore
    expect(set.putbacks).toMatchObject([{ setting: 'y axis, steps/mm', was: '80', now: '50.9' }]);
    expect(set.elsewhere.map((e) => e.setting)).toEqual(['y axis, acceleration']);
    expect(await left('Umpire flasks')).toEqual(['Mugs: y axis, steps/mm 80 → 50.9']);
    // It stands in the machine once: put back by one, it is put back for all.
    await call(api.restorePutback, { params: { ...params, putback: set.putbacks[0]!.id }, body: { restored: true } });
    expect([await left('Umpire flasks'), await left('Boat plaques, pegs and lines')]).toEqual([[], [expect.stringContaining('acceleration')]]); // prettier-ignore
    expect((await flasks()).putbacks.map((p) => [p.setting, p.restoredAt === null])).toEqual([['y axis, acceleration', true], ['y axis, steps/mm', false]]); // prettier-ignore
    expect((await file(tags.id)).status).toBe(200);
    // Put back, nothing of its own stands in it any more: a ring tells of nothing, and the axis is fast again.
    const late = await send(api.takeRing, { params: { id: (await flasks()).id }, body: { overlap: 0 } });
    expect([late.status, ((await late.json()) as { code: string }).code]).toEqual([422, 'number-not-set']);
  });

  it('carries rings over when the rollers are measured anew', async () => {
    const before = await flasks();
    const drive = before.drive!;
    const spec = { ...drive.spec, rollerDiameter: 19.5 } as typeof drive.spec;
    await call(api.saveDrive, { params: { id: drive.id }, body: { name: drive.name, spec, version: drive.version } });
    const after = await flasks();
    // Smaller rollers are more steps to the millimetre by themselves; the correction is so much less.
    expect(after.rings[0]!.correction / before.rings[0]!.correction).toBeCloseTo(19.5 / 19.66, 6);
    const { change } = await call(api.shelfUndoable, { params: { id: drive.id } });
    await call(api.undoShelf, { params: { id: drive.id }, body: { event: change!.event } });
    expect((await flasks()).rings[0]!.correction).toBeCloseTo(before.rings[0]!.correction, 9);
  });

  it('hands out a drive’s files, and refuses the engraving until the F was picked', async () => {
    const batch = await flasks();
    const file = async (name: string): Promise<Response> => fetch(`${base}/api/batches/${batch.id}/files/${name}`);
    for (const [name, kind] of [
      ['ring.gcode', 'text/plain'],
      ['letter.gcode', 'text/plain'],
      ['walk.gcode', 'text/plain'],
      ['wrap.svg', 'image/svg+xml'],
      ['template.dxf', 'image/vnd.dxf'],
      ['template.pdf', 'application/pdf'],
      ['setup.pdf', 'application/pdf'],
    ]) {
      const response = await file(name!);
      expect([name, response.status]).toEqual([name, 200]);
      expect(response.headers.get('content-type')).toContain(kind);
    }
    const walk = await (await file('walk.gcode')).text();
    expect(walk).not.toMatch(/^M[34]/m);
    const refused = await file('load.gcode');
    expect(refused.status).toBe(422);
    expect(((await refused.json()) as { message: string }).message).toContain('Burn the F');
    const glass = (await call(api.listBatches)).find((b) => b.name === 'Trophy glasses')!;
    const ring = await (await fetch(`${base}/api/batches/${glass.id}/files/ring.gcode`)).text();
    // Its own axis turns in degrees, fed by inverse time; one ring is one turn.
    expect(ring).toMatch(/G93\nG1A-?\d/);
    expect(Math.max(...[...ring.matchAll(/A(-?[\d.]+)/g)].map((m) => Math.abs(Number(m[1]))))).toBeCloseTo(360, 1);
  });

  it('keeps what the simulated drive hides to itself, and does what its panel says', async () => {
    const batch = await flasks();
    const params = { id: batch.id };
    const text = await (await send(api.cupView, { params })).text();
    expect(text).not.toMatch(/hidden|scale|flipped|slip|seed/i);
    await call(api.cupSet, { params, body: { acceleration: 90_000 } });
    expect((await call(api.cupBurn, { params, body: { what: 'ring' } })).thrown).toBe(true);
    await call(api.cupSet, { params, body: { acceleration: 900 } });
    expect((await call(api.cupBurn, { params, body: { what: 'ring' } })).thrown).toBe(false);
  });

  it('begins the same cup on the same drive where the last batch left off, rings and all', async () => {
    const batch = await flasks();
    const [drive] = (await call(api.listDrives)).filter((d) => d.name === 'Rollers');
    await call(api.saveSection, {
      params: { id: batch.id },
      body: {
        section: 'held',
        value: setOnDrive(batch.setup.held, { letter: { quarters: 0, mirrored: true } }),
        version: batch.version,
      },
    });
    const made = await call(api.createBatch, {
      body: {
        name: 'Flasks again',
        customer: '',
        quantity: 3,
        spares: 0,
        tolerance: 1,
        dueAt: null,
        machineId: batch.machine.id,
        blankId: batch.blank.id,
      },
    });
    const fresh = await call(api.getBatch, { params: made });
    const chosen = await call(api.chooseDrive, {
      params: made,
      body: { driveId: drive!.id, version: fresh.version },
    });
    expect(chosen.setup.faces).toHaveLength(2);
    // What stands in the machine is not known from last time.
    expect(chosen.setup.held.found).toMatchObject({ letter: { quarters: 0, mirrored: true }, numberSet: null });
    expect(chosen.rings).toHaveLength(1);
    expect((await send(api.takeRing, { params: made, body: { overlap: 1 } })).status).toBe(422);
  });

  it.each([
    [{ profile: [{ at: 0, diameter: 80 }] }, 'rim and at the base'],
    [
      {
        profile: [
          { at: 10, diameter: 80 },
          { at: 5, diameter: 70 },
        ],
      },
      'not beyond line 1',
    ],
    [
      {
        profile: [
          { at: 0, diameter: 80 },
          { at: 9, diameter: -1 },
        ],
      },
      'Diameter must be',
    ],
  ])('refuses the round blank %j by name', async (change, words) => {
    const [blank] = (await call(api.listBlanks)).filter((b) => b.name === 'Umpire flask');
    const response = await send(api.createBlank, {
      body: { name: 'Wrong', spec: { ...blank!.spec, shape: { ...blank!.spec.shape, ...change } } },
    });
    expect(response.status).toBeGreaterThanOrEqual(400);
    expect(((await response.json()) as { message: string }).message).toContain(words);
  });

  it.each([
    [{ stepsPerTurn: 0 }, 'Steps of one motor turn'],
    [{ rollerDiameter: 0 }, 'Roller diameter'],
    [{ friction: Number.NaN }, 'Friction'],
  ])('refuses a drive with %j', async (change, words) => {
    const [drive] = (await call(api.listDrives)).filter((d) => d.name === 'Rollers');
    const response = await send(api.createDrive, { body: { name: 'Wrong', spec: { ...drive!.spec, ...change } } });
    expect(response.status).toBeGreaterThanOrEqual(400);
    expect(((await response.json()) as { message: string }).message).toContain(words);
  });

  it('finds words in the log, newest first, by pages', async () => {
    const found = (await (await fetch(`${base}/api/log?q=scrapp%20moved`)).json()) as { rows: { summary: string }[] };
    expect(found.rows.length).toBeGreaterThan(0);
    expect(found.rows.every((r) => /scrapped: moved/.test(r.summary))).toBe(true);
    const page = (await (await fetch(`${base}/api/log?limit=5`)).json()) as { rows: { id: number }[]; next: number };
    const next = (await (await fetch(`${base}/api/log?limit=5&before=${page.next}`)).json()) as {
      rows: { id: number }[];
    };
    expect(next.rows[0]!.id).toBeLessThan(page.rows[4]!.id);
  });

  it('takes writes from its own pages only, and answers to this machine’s names only', async () => {
    const batch = await tags();
    const foreign = await send(api.undo, {
      params: { id: batch.id },
      headers: { origin: 'http://elsewhere.example', 'sec-fetch-site': 'cross-site' },
    });
    expect(foreign.status).toBe(403);
    const headers = (await fetch(`${base}/api/health`)).headers;
    expect(headers.get('content-security-policy')).toContain("default-src 'self'");
    expect(headers.get('x-content-type-options')).toBe('nosniff');
  });

  it('takes a picture in, plain and once, and refuses what is none by name', async () => {
    const put = (body: Buffer, name: string): Promise<Response> =>
      fetch(`${base}${PICTURES}?${new URLSearchParams({ name }).toString()}`, {
        method: 'POST',
        headers: { 'content-type': 'image/png' },
        body: new Uint8Array(body),
      });
    // Half of it clear: it is laid on white.
    const dots = Buffer.alloc(40 * 20 * 4);
    for (let i = 0; i < 40 * 20; i += 1) if (i % 40 < 20) dots[4 * i + 3] = 255;
    const png = await sharp(dots, { raw: { width: 40, height: 20, channels: 4 } })
      .png()
      .toBuffer();
    const info = pictureInfo.parse(await (await put(png, 'half.png')).json());
    expect(info).toMatchObject({ name: 'half.png', width: 40, height: 20 });
    expect(info.darkness).toBeCloseTo(0.5, 3);
    expect(await (await put(png, 'other name.png')).json()).toEqual(info);
    const grey = (await loadPictures(db, [info.id])).get(info.id)!;
    expect([...grey.pixels.slice(18, 22)]).toEqual([0, 0, 255, 255]);
    const given = await fetch(`${base}${PICTURES}/${info.id}`);
    expect(given.headers.get('content-type')).toBe('image/png');
    expect((await sharp(Buffer.from(await given.arrayBuffer())).metadata()).channels).toBe(1);
    for (const [body, name, words] of [
      [Buffer.from('<svg/>'), 'art.svg', /art\.svg is no PNG, JPEG or WebP/],
      [png.subarray(0, 60), 'cut.png', /cut\.png is damaged/],
      [
        await sharp({ create: { width: 8, height: 8, channels: 3, background: 'red' } })
          .png()
          .toBuffer(),
        'dot.png',
        /only 8 × 8 dots/,
      ],
    ] as const) {
      const response = await put(body, name);
      expect(response.status).toBe(422);
      expect(((await response.json()) as { message: string }).message).toMatch(words);
    }
  });

  it('takes pictures from cameras and of inks upright and grey, and refuses what moves', async () => {
    const put = (body: Buffer, name: string): Promise<Response> =>
      fetch(`${base}${PICTURES}?${new URLSearchParams({ name }).toString()}`, { method: 'POST', headers: { 'content-type': 'image/jpeg' }, body: new Uint8Array(body) }); // prettier-ignore
    // Black on its left half; EXIF 2.32, orientation 6: the camera lay on its side, what is left is above.
    const half = Buffer.alloc(64 * 32 * 3, 255);
    for (let y = 0; y < 32; y += 1) half.fill(0, y * 64 * 3, y * 64 * 3 + 32 * 3);
    const raw = () => sharp(half, { raw: { width: 64, height: 32, channels: 3 } });
    for (const [body, name] of [
      [await raw().withMetadata({ orientation: 6 }).jpeg({ quality: 100 }).toBuffer(), 'side.jpg'],
      [await raw().withMetadata({ orientation: 6 }).webp({ lossless: true }).toBuffer(), 'side.webp'],
    ] as const) {
      const info = pictureInfo.parse(await (await put(body, name)).json());
      expect([info.width, info.height, Math.round(100 * info.darkness)]).toEqual([32, 64, 50]);
      const { pixels } = (await loadPictures(db, [info.id])).get(info.id)!;
      expect([pixels[32 * 8 + 16]! < 10, pixels[32 * 56 + 16]! > 245]).toEqual([true, true]);
    }
    for (const [body, name] of [
      [await raw().toColourspace('cmyk').jpeg({ quality: 100 }).toBuffer(), 'inks.jpg'],
      [await raw().toColourspace('rgb16').png().toBuffer(), 'deep.png'],
    ] as const) {
      const info = pictureInfo.parse(await (await put(body, name)).json());
      const { pixels } = (await loadPictures(db, [info.id])).get(info.id)!;
      expect([info.width, pixels.length]).toEqual([64, 64 * 32]);
      expect([pixels[10]! < 70, pixels[50]! > 245]).toEqual([true, true]);
    }
    const moving = await sharp([await raw().png().toBuffer(), await raw().negate().png().toBuffer()], { join: { animated: true } }).webp().toBuffer(); // prettier-ignore
    const refused = await put(moving, 'flag.webp');
    expect([refused.status, ((await refused.json()) as { message: string }).message]).toEqual([422, 'flag.webp moves: it has 2 pictures. Save the one that is burned by itself. Nothing was changed.']); // prettier-ignore
  });

  it('forgets the marks of a printed sheet when its pieces are judged: the next one lies elsewhere', async () => {
    const { id } = (await call(api.listBatches)).find((b) => b.name === 'Bow-number decals')!;
    const params = { id };
    await call(api.saveFixture, { params, body: { version: await versionOf(params.id) } });
    for (const [mark, x, y] of [
      [1, 231.1, 433.9],
      [2, 615.4, 149.3],
    ] as const)
      await call(api.takeReading, { params, body: { mark, x, y, source: 'typed', purpose: 'place' } });
    const begun = await call(api.startLoad, { params });
    // No piece is held back: the sheet is cut as a whole.
    expect(begun.pieces.length).toBeGreaterThan(10);
    expect(begun.readings).toHaveLength(2);
    const done = await call(api.judgePieces, {
      params,
      body: { pieces: begun.pieces.map((p) => ({ slot: p.slot, state: 'done' as const, cause: null })) },
    });
    expect(done.readings).toEqual([]);
    expect((await send(api.startLoad, { params })).status).toBe(200);
  });

  it('limits bodies and says so', async () => {
    const response = await send(api.readOutline, { body: { name: 'big.svg', text: 'x'.repeat(9_000_000) } });
    expect(response.status).toBe(413);
    expect(((await response.json()) as { message: string }).message).toContain('larger than Bistre reads');
    const broken = await fetch(`${base}/api/batches`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{"name":',
    });
    expect(broken.status).toBe(400);
  });

  it('logs one line a request without names or identities', async () => {
    const batch = await tags();
    expect(lines.length).toBeGreaterThan(20);
    expect(lines.join('')).not.toContain(batch.id);
    expect(lines.join('')).not.toContain('Imre');
    expect(JSON.parse(lines.at(-1)!)).toMatchObject({ method: 'GET', status: 200, msg: 'request' });
  });

  it('hides where the board lies and how the pointer is bent', async () => {
    const batch = await tags();
    const text = await (await send(api.simView, { params: { id: batch.id } })).text();
    const row = await db.selectFrom('simulations').selectAll().where('batch_id', '=', batch.id).executeTakeFirst();
    expect(row).toBeUndefined();
    expect(text).not.toMatch(/hidden|pose|angle|seed|pointer/);
    await sql`select 1`.execute(db);
  });
});
