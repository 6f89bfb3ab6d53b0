import { sql } from 'kysely';
import { loadBatch } from '../batches';
import { takeBack } from '../changes/undo';
import { freshDatabase, withDatabase } from '../testing/shop';
import { connect, migrate, type Db } from './connect';

/** A batch of pockets as the release before kept it, with what was decided for other ways beside it. */
const HOLD = {
  method: 'nest',
  clearance: { school: 'snug' },
  coverage: 0.95,
  confidence: 0.95,
  boardThickness: 3,
  boardWarp: 0,
  wall: 4,
  extent: { kind: 'bed' },
  turned: 'auto',
  notches: 'one',
  notchRadius: 8,
  slotNumbers: true,
  marks: 3,
  order: { corner: 'back-left', first: 'rows', serpentine: false },
  name: 'BOATTAG',
  pushRoom: 3,
  tallThings: [],
  sheet: {},
  panel: {},
  own: { marks: [], stretches: false },
  photo: {},
  lines: {},
  locator: { back: [] },
  pins: null,
  stock: { readings: [], room: null },
  stand: null,
};
const FEED = { feederId: null, work: 'row', squaring: { apart: 400, first: 0.1, second: 0.3 }, used: [], laid: 0.2 };
const SETUP = {
  hold: HOLD,
  long: { art: null },
  drive: { driveId: null, faces: [] },
  feed: FEED,
  back: { recipeId: null },
  burn: { sweep: 'row' },
};
const BASIS = { shape: 'rectangle', length: 60, width: 25, pocketLength: 61, pocketWidth: 26 };

withDatabase('what the release before kept, each way with its own', () => {
  let db: Db;
  let batch: string;
  let revision: string;
  const one = async (query: ReturnType<typeof sql<{ id: string }>>): Promise<string> =>
    (await query.execute(db)).rows[0]!.id;
  const event = (kind: string, parts: string[], undo: object): Promise<string> =>
    one(
      sql<{ id: string }>`insert into events (by, kind, batch_id, summary, parts, undo)
        values ('Imre', ${kind}, ${batch}, ${kind}, ${parts}::text[], ${JSON.stringify(undo)}::jsonb) returning id`,
    );
  const events: Record<string, string> = {};

  beforeAll(async () => {
    const url = await freshDatabase('held', false);
    await migrate(url, '0013_kept');
    db = connect(url, 2);
    const machine = await one(
      sql<{ id: string }>`insert into machines (name, profile) values ('Bench A', '{}') returning id`,
    );
    const blank = await one(
      sql<{
        id: string;
      }>`insert into blanks (name, spec) values ('Tag', '{"shape": {"kind": "rectangle"}}') returning id`,
    );
    const fixture = await one(
      sql<{ id: string }>`insert into fixtures (name, blank_id) values ('BOATTAG', ${blank}) returning id`,
    );
    revision = await one(
      sql<{ id: string }>`insert into fixture_revisions (fixture_id, revision, hold, basis, saved_by)
        values (${fixture}, 1, ${JSON.stringify(HOLD)}::jsonb, ${JSON.stringify(BASIS)}::jsonb, 'Imre') returning id`,
    );
    batch = await one(
      sql<{ id: string }>`insert into batches
        (name, quantity, spares, tolerance_mm, machine_id, blank_id, fixture_revision_id, setup, updated_by)
        values ('Tags', 24, 0, 0.5, ${machine}, ${blank}, ${revision}, ${JSON.stringify(SETUP)}::jsonb, 'Imre') returning id`,
    );
    events['wall'] = await event('setup', ['hold'], {
      kind: 'section',
      section: 'hold',
      before: { ...HOLD, wall: 9, coverage: 0.9 },
    });
    events['pegs'] = await event('setup', ['hold'], {
      kind: 'section',
      section: 'hold',
      before: { ...HOLD, method: 'lines', lines: { peg: 8, card: 0.4 } },
    });
    events['board'] = await event('setup', ['fixture', 'hold'], {
      kind: 'fixture',
      revisionId: null,
      hold: { ...HOLD, wall: 6 },
    });
    events['strip'] = await event('piece', ['piece:1', 'feed'], {
      kind: 'verdict',
      id: 'x',
      again: null,
      left: { readings: [], ticks: [], feed: FEED, simulation: null },
    });
    events['sweep'] = await event('setup', ['burn'], { kind: 'section', section: 'burn', before: { sweep: 'piece' } });
    const document = { id: batch, setup: SETUP, fixture: { id: revision, name: 'BOATTAG', hold: HOLD, basis: BASIS } };
    await sql`insert into replies (key, call, hash, body) values ('k', 'c', 'h', ${JSON.stringify(document)})`.execute(
      db,
    );
    expect(await migrate(url)).toEqual([
      '0014_held',
      '0015_ring_pieces',
      '0016_bed_axis',
      '0017_artworks',
      '0018_serials',
      '0019_own_files',
      '0020_art_apart',
      '0021_steps',
      '0022_approvals',
      '0023_trials',
    ]);
  });
  afterAll(() => db.destroy());

  const undone = async (name: string): Promise<unknown> =>
    (
      await sql<{
        undo: unknown;
      }>`select jsonb_build_object('undo', undo, 'parts', parts) as undo from events where id = ${events[name]}`.execute(
        db,
      )
    ).rows[0]!.undo;

  it('is of the parts that there are now, and takes back what it took back', async () => {
    expect(await undone('wall')).toMatchObject({
      parts: ['held', 'beside'],
      undo: {
        kind: 'sections',
        before: { held: { way: 'pockets', choice: { wall: 9 } }, beside: { coverage: 0.9, stock: { thickness: 3 } } },
      },
    });
    expect(await undone('pegs')).toMatchObject({
      undo: { before: { held: { way: 'pegs', choice: { peg: 8, wall: 4 }, found: { card: 0.4 } } } },
    });
    expect(await undone('board')).toMatchObject({
      parts: ['fixture', 'held', 'beside'],
      undo: { kind: 'fixture', revisionId: null, before: { held: { choice: { wall: 6 } } } },
    });
    expect(await undone('strip')).toMatchObject({
      parts: ['piece:1', 'held'],
      undo: { left: { held: { way: 'pockets' } } },
    });
    expect(await undone('sweep')).toMatchObject({ parts: ['burn'], undo: { kind: 'section', section: 'burn' } });
  });

  it('is read as a batch, its board frozen without what was found, and an old change is taken back', async () => {
    await db.transaction().execute(async (trx) => {
      const now = await loadBatch(trx, batch);
      expect(now.setup.held).toMatchObject({ way: 'pockets', choice: { wall: 4, clearance: { school: 'snug' } } });
      expect(now.setup).not.toHaveProperty('hold');
      expect(now.fixture).toMatchObject({ held: { way: 'pockets', choice: { wall: 4 } }, beside: { boardWarp: 0 } });
      await takeBack(
        trx,
        { batchId: batch, version: now.version + 1 },
        { event: Number(events['wall']), sure: true },
        'Imre',
      );
      const before = await loadBatch(trx, batch);
      expect([before.setup.held.choice, before.setup.beside.coverage]).toMatchObject([{ wall: 9 }, 0.9]);
    });
  });

  it('is answered again as it would be answered now', async () => {
    const { rows } = await sql<{ body: string }>`select body from replies`.execute(db);
    expect(JSON.parse(rows[0]!.body)).toMatchObject({
      setup: { held: { way: 'pockets' }, burn: { sweep: 'row' } },
      fixture: { name: 'BOATTAG', held: { way: 'pockets' } },
    });
    expect(rows[0]!.body).not.toContain('"hold"');
  });
});
