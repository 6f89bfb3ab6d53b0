import { sql } from 'kysely';
import { AWAY_KINDS, type AwayKind, type AwayRow } from '@bistre/contract';
import { carriesArtwork } from '../batches';
import type { Trx } from '../db/connect';
import { notFound, refused } from '../http/problem';
import { record } from './change';

const WORDS: Readonly<Record<AwayKind, string>> = {
  batches: 'Batch',
  blanks: 'Blank',
  fixtures: 'Fixture',
  machines: 'Machine',
  drives: 'Drive',
  feeders: 'Feeder',
  recipes: 'Recipe',
  artworks: 'Artwork',
  offcuts: 'Offcut',
  steps: 'Step',
  trials: 'Trial',
};

/** Names of the open batches that use a thing of the Shelf. */
const openUsers = async (trx: Trx, kind: AwayKind, id: string): Promise<string[]> => {
  const uses = {
    blanks: sql<boolean>`b.blank_id = ${id}`,
    machines: sql<boolean>`b.machine_id = ${id}`,
    recipes: sql<boolean>`(b.recipe_id = ${id} or b.setup -> 'back' ->> 'recipeId' = ${id}::text
      or b.setup -> 'burn' ->> 'stockRecipeId' = ${id}::text
      or b.setup -> 'contents' @> ${JSON.stringify([{ recipes: [{ recipeId: id }] }])}::jsonb)`,
    drives: sql<boolean>`b.setup -> 'held' -> 'choice' ->> 'driveId' = ${id}::text`,
    feeders: sql<boolean>`b.setup -> 'held' -> 'choice' ->> 'feederId' = ${id}::text`,
    fixtures: sql<boolean>`b.fixture_revision_id in (select r.id from fixture_revisions r where r.fixture_id = ${id})`,
    artworks: carriesArtwork(sql`b.setup`, id),
    offcuts: sql<boolean>`false`,
    // A batch that is on goes on without it.
    steps: sql<boolean>`false`,
    trials: sql<boolean>`false`,
    batches: sql<boolean>`false`,
  }[kind];
  if (kind === 'trials') {
    // A recipe that it proves would have nothing to show.
    const proved = await trx.selectFrom('recipes').select('name').where('trial_id', '=', id).where('away_at', 'is', null).orderBy('name').limit(6).execute(); // prettier-ignore
    return proved.map((r) => `recipe ${r.name}`);
  }
  const { rows } = await sql<{ name: string }>`select b.name from batches b
    where b.closed_at is null and b.away_at is null and ${uses} order by b.name limit 6`.execute(trx);
  return rows.map((r) => r.name);
};

/** Why a batch cannot be put away yet: work lies on the machine, or a setting is not put back. */
const unfinished = async (trx: Trx, id: string): Promise<string | null> => {
  const loaded = await trx
    .selectFrom('pieces')
    .select('load')
    .where('batch_id', '=', id)
    .where('state', '=', 'loaded')
    .limit(1)
    .executeTakeFirst();
  if (loaded) return `Load ${loaded.load} is on the machine. Judge its pieces first.`;
  const changed = await trx
    .selectFrom('putbacks')
    .selectAll()
    .where('batch_id', '=', id)
    .where('restored_at', 'is', null)
    .limit(1)
    .executeTakeFirst();
  return changed ? `${changed.setting} is still at ${changed.now}; put it back to ${changed.was} first.` : null;
};

/**
 * Puts a batch or a thing of the Shelf away, or brings it back. What open batches use stays; the refusal names
 * them. Saying it twice changes nothing.
 */
export const setAway = async (trx: Trx, kind: AwayKind, id: string, away: boolean, by: string): Promise<void> => {
  const { rows } = await sql<{ name: string; away_at: Date | null }>`
    select name, away_at from ${sql.table(kind)} where id = ${id} for update`.execute(trx);
  const row = rows[0];
  if (!row) throw notFound(`This ${WORDS[kind].toLowerCase()}`);
  if ((row.away_at !== null) === away) return;
  if (away) {
    const users = await openUsers(trx, kind, id);
    if (users.length > 0)
      throw refused(
        {
          code: 'in-use',
          message: `${row.name} is used by ${users.join(', ')}. Close or change ${users.length === 1 ? 'it' : 'them'} first.`,
        },
        409,
      );
    const why = kind === 'batches' ? await unfinished(trx, id) : null;
    if (why) throw refused({ code: 'unfinished', message: why }, 409);
  }
  await sql`update ${sql.table(kind)} set away_at = ${away ? new Date() : null}, away_by = ${away ? by : null}
    where id = ${id}`.execute(trx);
  await record(trx, {
    by,
    kind: kind === 'batches' ? 'batch' : 'shelf',
    batchId: kind === 'batches' ? id : null,
    subjectId: id,
    summary: `${WORDS[kind]} ${away ? 'put away' : 'brought back'}: ${row.name}`,
  });
};

/** Everything that was put away, latest first. */
export const listAway = async (trx: Trx): Promise<AwayRow[]> => {
  const each = AWAY_KINDS.map(
    (kind) =>
      sql`select ${kind}::text as kind, id, name, away_at, away_by from ${sql.table(kind)} where away_at is not null`,
  );
  const { rows } = await sql<{ kind: AwayKind; id: string; name: string; away_at: Date; away_by: string | null }>`
    select * from (${sql.join(each, sql` union all `)}) put_away order by away_at desc, name limit 500`.execute(trx);
  return rows.map((r) => ({
    kind: r.kind,
    id: r.id,
    name: r.name,
    at: r.away_at.toISOString(),
    by: r.away_by ?? 'operator',
  }));
};
