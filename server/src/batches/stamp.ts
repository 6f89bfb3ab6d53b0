import { sql } from 'kysely';
import type { Db, Trx } from '../db/connect';

/**
 * What a reckoning of each batch rests on, as one short text a batch: it changes whenever the batch, its blank
 * and samples, machine, recipes, fixture, drive with rings, feeder with feeds or what
 * stands changed in its machine change. What was reckoned outside
 * a transaction holds as long as the stamp stays the same.
 */
export const stampsOf = async (db: Db | Trx, ids: readonly string[]): Promise<ReadonlyMap<string, string>> => {
  if (ids.length === 0) return new Map();
  const { rows } = await sql<{ id: string; stamp: string }>`
    select b.id, concat_ws('.', b.version, k.version, m.version, r.version, r.id, back.version, stock.version, d.version, f.version,
      (select concat_ws('-', count(*), max(seq)) from blank_samples s where s.blank_id = b.blank_id and s.removed_at is null),
      (select concat_ws('-', count(*), max(seq)) from rings g
        where g.drive_id = d.id and g.blank_id = b.blank_id and g.removed_at is null),
      (select concat_ws('-', count(*), max(seq)) from feed_readings e where e.feeder_id = f.id and e.removed_at is null),
      (select concat_ws('-', count(*), sum(version)) from feeders),
      (select concat_ws('-', count(*), max(at)) from putbacks p where p.machine_id = m.id and p.restored_at is null),
      (b.closed_at is not null)::text, (b.away_at is not null)::text) as stamp
    from batches b
    join blanks k on k.id = b.blank_id
    join machines m on m.id = b.machine_id
    left join recipes r on r.id = b.recipe_id
    left join recipes back on back.id::text = b.setup -> 'back' ->> 'recipeId'
    left join recipes stock on stock.id::text = b.setup -> 'burn' ->> 'stockRecipeId'
    left join drives d on d.id::text = b.setup -> 'held' -> 'choice' ->> 'driveId'
    left join feeders f on f.id::text = b.setup -> 'held' -> 'choice' ->> 'feederId'
    where b.id in (${sql.join(ids)})`.execute(db);
  return new Map(rows.map((r) => [r.id, r.stamp]));
};

/** The stamp of one batch; an empty text when there is no such batch. */
export const stampOf = async (db: Db | Trx, id: string): Promise<string> => (await stampsOf(db, [id])).get(id) ?? '';
