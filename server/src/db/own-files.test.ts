import { sql } from 'kysely';
import { stylesOf } from '@bistre/core';
import { loadArtwork, loadBatch, withShapes } from '../batches';
import { freshSetup } from '../changes/fresh';
import { freshDatabase, withDatabase } from '../testing/shop';
import { connect, migrate, type Db } from './connect';

const line = (x0: number, y0: number, x1: number, y1: number) => ({ kind: 'line', contour: { closed: false, vertices: [{ x: x0, y: y0 }, { x: x1, y: y1 }] } }); // prettier-ignore
const box = (kind: string, x: number, y: number, w: number, h: number) => ({ kind, contour: { closed: true, vertices: [{ x, y }, { x: x + w, y }, { x: x + w, y: y + h }, { x, y: y + h }] } }); // prettier-ignore
/** A course of 600 × 80 mm, cut round, with an island in it. */
const COURSE = { name: 'course.svg', shapes: [box('cut', 0, 0, 600, 80), line(20, 40, 580, 40), box('fill', 100, 20, 30, 10)] }; // prettier-ignore
const ORDER = { corner: 'back-left', first: 'rows', serpentine: false };
const face = (content: object) => ({ zoneId: 'front', content, reads: 'around', repeats: 1, wraps: false });

withDatabase('files that batches kept for themselves', () => {
  let db: Db;
  let machine: string;
  const ids: Record<string, string> = {};
  const one = async (query: ReturnType<typeof sql<{ id: string }>>): Promise<string> => (await query.execute(db)).rows[0]!.id; // prettier-ignore
  const blank = (name: string, spec: object): Promise<string> =>
    one(sql<{ id: string }>`insert into blanks (name, spec) values (${name}, ${JSON.stringify(spec)}::jsonb) returning id`); // prettier-ignore
  const batch = async (name: string, blankId: string, setup: object): Promise<void> => {
    ids[name] = await one(sql<{ id: string }>`insert into batches (name, customer, quantity, spares, tolerance_mm, machine_id, blank_id, setup, updated_by)
      values (${name}, 'Rowing club', 1, 0, 1, ${machine}, ${blankId}, ${JSON.stringify(setup)}::jsonb, 'Imre') returning id`); // prettier-ignore
  };
  const event = async (name: string, batchId: string, parts: string[], undo: object): Promise<void> => {
    ids[name] = await one(sql<{ id: string }>`insert into events (by, kind, batch_id, summary, parts, undo)
      values ('Imre', 'setup', ${batchId}, 'Art changed', ${parts}::text[], ${JSON.stringify(undo)}::jsonb) returning id`); // prettier-ignore
  };
  const undoOf = async (name: string): Promise<unknown> =>
    (await sql<{ undo: unknown }>`select undo from events where id = ${ids[name]}`.execute(db)).rows[0]!.undo;

  const shape = { kind: 'rectangle', length: 640, width: 100, cornerRadius: 0 };
  const rest = { thickness: 6, catalogueTolerance: 1, holes: [], direction: { kind: 'none' } };
  const zone = { id: 'sign', name: 'sign', x: -50, y: 10, width: 400, height: 60, margin: 5, across: 'left', down: 'top', keepOuts: [] }; // prettier-ignore
  const lettering = { zoneId: null, gap: 1.5, narrowest: 0.8, smallest: 1.5, lines: [{ column: 'name', alphabet: 'b612', capHeight: 8 }] }; // prettier-ignore

  beforeAll(async () => {
    const url = await freshDatabase('own_files', false);
    await migrate(url, '0018_serials');
    db = connect(url, 2);
    machine = await one(sql<{ id: string }>`insert into machines (name, profile) values ('Bench A', '{}') returning id`); // prettier-ignore
    const bare = await blank('Board', { shape, ...rest, zones: [] });
    const zoned = await blank('Sign', { shape, ...rest, zones: [zone] });
    const flask = await blank('Flask', { shape: { kind: 'round' }, ...rest, zones: [{ ...zone, id: 'front', angle: 0 }] }); // prettier-ignore
    const of = (held: object, more: object = {}) => ({ ...freshSetup('A', shape, 1), lettering, held: { found: {}, left: [], ...held }, art: null, ...more }); // prettier-ignore
    const long = { way: 'long', choice: { name: 'A' } };
    await batch('in segments', bare, of(long, { art: COURSE }));
    await batch('fed', zoned, of({ way: 'feed', choice: { work: { kind: 'long' } } }, { art: COURSE }));
    await batch('held otherwise', zoned, of({ way: 'pockets', choice: { order: ORDER } }, { art: COURSE }));
    await batch('beside it', bare, of({ way: 'pockets', choice: { order: ORDER } }));
    const contours = [box('fill', 0, 0, 30, 20).contour, line(0, 10, 30, 10).contour];
    const faces = [face({ kind: 'art', name: 'badge.dxf', contours, size: 'true' }), face({ kind: 'lettering' })];
    await batch('round', flask, of({ way: 'drive', choice: {} }, { faces }));
    await event('art', ids['in segments']!, ['art'], { kind: 'section', section: 'art', before: COURSE });
    await event('both', ids['in segments']!, ['held', 'art'], { kind: 'sections', before: { held: long, art: null } }); // prettier-ignore
    await event('faces', ids['round']!, ['faces'], { kind: 'section', section: 'faces', before: faces });
    const answer = { id: ids['round'], setup: { faces } };
    await sql`insert into replies (key, call, hash, body) values ('k', 'c', 'h', ${JSON.stringify(answer)})`.execute(db); // prettier-ignore
    expect(await migrate(url)).toEqual([
      '0019_own_files',
      '0020_art_apart',
      '0021_steps',
      '0022_approvals',
      '0023_trials',
    ]);
  });
  afterAll(() => db.destroy());

  const now = (name: string) => db.transaction().execute((trx) => loadBatch(trx, ids[name]!));
  const artOf = async (name: string, nth = 0) => {
    const { artworks } = await now(name);
    return db.transaction().execute((trx) => loadArtwork(trx, artworks[nth]!.id));
  };

  it('are artworks of the Shelf under their own name, burned as they were', async () => {
    const art = await artOf('in segments');
    expect([art.name, art.spec, art.revisions[0]!.fileName]).toEqual(['course, in segments', { customer: 'Rowing club', roles: { 'stroke #5b3a78': 'cut' } }, 'course.svg']); // prettier-ignore
    expect(art.revisions[0]).toMatchObject({ width: expect.closeTo(600, 3), height: expect.closeTo(80, 3), unit: 'mm' }); // prettier-ignore
    expect(art.revisions[0]!.styles.map((s) => [s.key, Math.round(s.area), Math.round(s.length)])).toEqual([['fill #000000', 300, 80], ['stroke #000000', 0, 560], ['stroke #5b3a78', 0, 1360]]); // prettier-ignore
  });
  it('have their shapes apart from what is said of them, the same ones', async () => {
    const { artworks } = await now('in segments');
    const [{ shapes }] = (await db.transaction().execute((trx) => withShapes(trx, artworks))) as [(typeof artworks)[number]]; // prettier-ignore
    expect(stylesOf(shapes!)).toEqual((await artOf('in segments')).revisions[0]!.styles);
  });
  it('lie in a zone where they lay: about the middle of the work', async () => {
    const { setup, blank: its } = await now('in segments');
    expect(setup).not.toHaveProperty('art');
    expect(its.spec.zones).toMatchObject([{ id: 'whole', x: 0, y: 0, width: 640, height: 100, margin: 0 }]);
    expect(setup.contents).toEqual([{ kind: 'artwork', id: expect.any(String) as string, zoneId: 'whole', artworkId: (await artOf('in segments')).id, revision: 1, size: { kind: 'true' }, across: 'centre', down: 'middle', offset: { x: 0, y: 0 }, turn: 0, mirrored: false }]); // prettier-ignore
    // Where there was no zone nothing was lettered.
    expect([setup.lettering.lines, (await now('beside it')).setup.lettering.lines]).toEqual([[], []]);
    const fed = (await now('fed')).setup;
    // Larger than its zone, and on the board: it may leave the one and does not leave the other.
    expect(fed.contents).toMatchObject([{ zoneId: 'sign', offset: { x: 50, y: -10 }, over: true }]);
    expect(fed.lettering.lines).toHaveLength(1);
  });
  it('are on the Shelf alone where the work was held so that they were not burned', async () => {
    expect((await now('held otherwise')).setup.contents ?? null).toBeNull();
    const { rows } = await sql<{ name: string }>`select name from artworks order by name`.execute(db);
    expect(rows.map((r) => r.name)).toEqual(['badge, round', 'course, fed', 'course, held otherwise', 'course, in segments']); // prettier-ignore
  });
  it('are named by faces of round work, as large as was said', async () => {
    const { setup } = await now('round');
    const art = await artOf('round');
    expect(setup.faces.map((f) => f.content)).toEqual([{ kind: 'artwork', artworkId: art.id, revision: 1, name: 'badge.dxf', size: 'true' }, { kind: 'lettering' }]); // prettier-ignore
    expect(art.revisions[0]!.styles.map((s) => [s.of, Math.round(s.area || s.length)])).toEqual([['fill', 600], ['stroke', 30]]); // prettier-ignore
  });
  it('are not brought back by what would have brought them back, and are in no answer any more', async () => {
    expect([await undoOf('art'), await undoOf('faces')]).toEqual([null, null]);
    expect(await undoOf('both')).toMatchObject({ kind: 'sections', before: { held: { way: 'long' } } });
    expect(JSON.stringify(await undoOf('both'))).not.toContain('art');
    const { rows } = await sql<{ body: string }>`select body from replies`.execute(db);
    expect(JSON.parse(rows[0]!.body)).toEqual({ id: ids['round'], setup: { faces: [face({ kind: 'lettering' })] } });
  });
});
