import { sql } from 'kysely';
import { startShop, withDatabase, type TestShop } from '../testing/shop';
import { stampOf, stampsOf } from '.';

withDatabase('the stamp of what a batch is reckoned from', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('stamp');
  });
  afterAll(() => shop.stop());

  /** Changes that a reckoning of the flasks would show, each straight in the database. */
  const CHANGES: readonly (readonly [string, string])[] = [
    ['the batch', 'update batches set version = version + 1 where id = $id'],
    ['that it was closed', `update batches set closed_at = now() where id = $id`],
    ['that it was put away', `update batches set away_at = now() where id = $id`],
    ['its blank', 'update blanks set version = version + 1 where id = (select blank_id from batches where id = $id)'],
    [
      'a sample of its blank',
      `insert into blank_samples (blank_id, dimension, value_mm, by) select blank_id, 'diameter', 75, 'Imre' from batches where id = $id`,
    ],
    [
      'a sample taken out',
      `update blank_samples set removed_at = now() where id = (select s.id from blank_samples s
        join batches b on b.blank_id = s.blank_id where b.id = $id and s.removed_at is null limit 1)`,
    ],
    [
      'its machine',
      'update machines set version = version + 1 where id = (select machine_id from batches where id = $id)',
    ],
    [
      'its recipe',
      'update recipes set version = version + 1 where id = (select recipe_id from batches where id = $id)',
    ],
    [
      'its drive',
      `update drives set version = version + 1 where id::text = (select setup -> 'held' -> 'choice' ->> 'driveId' from batches where id = $id)`,
    ],
    [
      'a ring of drive and blank',
      `insert into rings (batch_id, drive_id, blank_id, overlap_mm, circumference_mm, correction, nominal_steps_per_mm, reading_error_mm, by)
        select id, (setup -> 'held' -> 'choice' ->> 'driveId')::uuid, blank_id, 1, 240, 1, 50, 0.3, 'Imre' from batches where id = $id`,
    ],
    ['a feeder of the shop', 'update feeders set version = version + 1'],
  ];

  it.each(CHANGES)('changes with %s', async (_what, statement) => {
    const { id } = await shop.batch('Umpire flasks');
    await shop.db
      .transaction()
      .execute(async (trx) => {
        const before = await stampOf(trx, id);
        await sql.raw(statement.replaceAll('$id', `'${id}'`)).execute(trx);
        expect(await stampOf(trx, id)).not.toBe(before);
        throw new Error('put back');
      })
      .catch((error: Error) => expect(error.message).toBe('put back'));
  });

  it('stays while others change, and while nothing does', async () => {
    const { id } = await shop.batch('Umpire flasks');
    const before = await stampOf(shop.db, id);
    await sql`update batches set version = version + 1 where id <> ${id}`.execute(shop.db);
    await sql`update blanks set version = version + 1 where id <> (select blank_id from batches where id = ${id})`.execute(
      shop.db,
    );
    expect(await stampOf(shop.db, id)).toBe(before);
  });

  it('is given for each of many, and is empty for none', async () => {
    const all = await shop.db.selectFrom('batches').select('id').execute();
    const stamps = await stampsOf(
      shop.db,
      all.map((b) => b.id),
    );
    expect(stamps.size).toBe(all.length);
    expect(await stampsOf(shop.db, [])).toEqual(new Map());
    expect(await stampOf(shop.db, '00000000-0000-4000-8000-000000000000')).toBe('');
  });
});
