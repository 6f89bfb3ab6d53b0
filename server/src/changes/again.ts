import { sql } from 'kysely';
import type { api, BatchDocument, BodyOf, ReplyOf } from '@bistre/contract';
import {
  counted,
  listed,
  overtakenOf,
  overtakenWords,
  PART_WORDS,
  pointerAgeDays,
  POINTER_STALE_DAYS,
  WAYS,
} from '@bistre/core';
import { loadBatch } from '../batches';
import type { Trx } from '../db/connect';
import { beginBatch } from './begin';
import { record } from './change';
import { bringInRoster } from './roster';

/** No artwork has it: a list that is asked for must not be empty. */
const NOBODY = '00000000-0000-4000-8000-000000000000';

/** Steps that make a board or frame; once made, it is made. */
const OF_THE_BOARD: ReadonlySet<string> = new Set(['cut', 'fit', 'fit-gauge', 'material', 'card', 'card-gap', 'gauge', 'kerf', 'saw', 'glue-front', 'glue-side', 'pin-gauge', 'pins', 'pin-first', 'stand'].map((s) => `hold.${s}`)); // prettier-ignore

/** What was measured, entered or put away of a batch’s things since it was last written, in sentences. */
const changedSince = (old: BatchDocument, recipeAway: boolean, newest: ReadonlyMap<string, number>): string[] => {
  const since = old.closedAt ?? old.updatedAt;
  const after = (at: string | null | undefined): boolean => !!at && at > since;
  const samples = old.blank.samples.filter((s) => after(s.at)).length;
  const { pointerOffset, kerfMeasuredAt } = old.machine.profile;
  const age = pointerOffset ? Math.floor(pointerAgeDays(pointerOffset, new Date())) : 0;
  const rings = old.rings.filter((r) => after(r.at)).length;
  const feeds = (old.feeder?.readings ?? []).filter((r) => after(r.at)).length;
  return [
    ...(samples > 0 ? [`${counted(samples, 'size')} of ${old.blank.name} ${samples === 1 ? 'was' : 'were'} measured since.`] : []), // prettier-ignore
    ...(after(pointerOffset?.measuredAt) ? [`The pointer offset of ${old.machine.name} was measured anew.`] : []),
    ...(after(kerfMeasuredAt) ? [`The kerf of ${old.machine.name} was measured anew: is the board still snug?`] : []),
    ...old.machine.changes.filter((c) => after(c.at)).map((c) => `${old.machine.name}: ${PART_WORDS[c.what]} on ${c.at.slice(0, 10)}${c.note ? `, ${c.note}` : ''}.`), // prettier-ignore
    ...(age > POINTER_STALE_DAYS ? [`The pointer offset of ${old.machine.name} is ${age} days old: measure it again.`] : []), // prettier-ignore
    ...overtakenOf(old.machine.profile, old.machine.changes).map(overtakenWords),
    ...(rings > 0 ? [`${counted(rings, 'ring')} of ${old.drive!.name} with ${old.blank.name} ${rings === 1 ? 'was' : 'were'} read since.`] : []), // prettier-ignore
    ...(feeds > 0 ? [`${counted(feeds, 'feed')} of ${old.feeder!.name} ${feeds === 1 ? 'was' : 'were'} measured since.`] : []), // prettier-ignore
    ...(recipeAway ? [`Its recipe ${old.recipe!.name} is put away: choose another.`] : []),
    ...old.artworks.filter((a) => (newest.get(a.id) ?? 0) > a.revision).map((a) => `${a.name} has a newer file; this one keeps r${a.revision}.`), // prettier-ignore
  ];
};

/** Things of the Shelf that it is made of and that were edited since, in the words of the Log; a newer revision of its board. */
const editedSince = async (trx: Trx, old: BatchDocument): Promise<string[]> => {
  const things = [old.machine, old.blank, old.recipe, old.drive, old.feeder].flatMap((t) => (t ? [t.id] : []));
  const { rows } = await sql<{ summary: string }>`
    select summary from events where subject_id = any(${things}::uuid[]) and undo is not null and kind = 'shelf'
      and undone_at is null and at > ${new Date(old.closedAt ?? old.updatedAt)} and parts && ${things.map((id) => `thing:${id}`)}::text[]
      order by id limit 20`.execute(trx);
  const newest = old.fixture && (await trx.selectFrom('fixture_revisions').select((e) => e.fn.max('revision').as('r')).where('fixture_id', '=', old.fixture.fixtureId).executeTakeFirst()); // prettier-ignore
  return [
    ...new Set(rows.map((r) => `${r.summary}.`)),
    ...(old.fixture && Number(newest?.r ?? 0) > old.fixture.revision ? [`${old.fixture.name} has a newer revision, r${Number(newest?.r)}; this one keeps r${old.fixture.revision}.`] : []), // prettier-ignore
  ];
};

/**
 * The same again: blank, machine, way and its fixture, art, lettering and recipe of a batch, for a new number of pieces
 * and new names. What was found of the work as it lay, read, ticked and judged is left behind; what a drive or feeder was
 * measured at stays with that.
 * @returns the new batch, and what changed since the old one was last written
 */
export const againBatch = async (
  trx: Trx,
  fromId: string,
  { roster, ...asked }: BodyOf<typeof api.againBatch>,
  by: string,
): Promise<ReplyOf<typeof api.againBatch>> => {
  const old = await loadBatch(trx, fromId);
  const { setup } = old;
  const fresh = WAYS[setup.held.way].fresh(asked.name);
  const held = { ...fresh, choice: setup.held.choice, left: [] } as unknown as typeof setup.held;
  const { id } = await beginBatch(
    trx,
    {
      ...asked,
      customer: old.customer,
      tolerance: old.tolerance,
      machineId: old.machine.id,
      blankId: old.blank.id,
      held,
      faces: setup.faces,
      // Numbers go on after the last that was given of their prefix.
      ...(setup.contents
        ? { contents: setup.contents.map((c) => (c.kind === 'serial' ? { ...c, first: null } : c)) }
        : {}),
    },
    by,
  );
  const recipe = old.recipe
    ? await trx.selectFrom('recipes').select('away_at').where('id', '=', old.recipe.id).executeTakeFirst()
    : undefined;
  const recipeAway = !!recipe?.away_at;
  const kept = {
    lettering: setup.lettering,
    back: setup.back,
    beside: setup.beside,
    burn: setup.burn,
    place: { school: setup.place.school, model: setup.place.model },
    close: { notes: '', keep: setup.close.keep },
  };
  await trx
    .updateTable('batches')
    .set({
      setup: sql`setup || ${JSON.stringify(kept)}::jsonb`,
      recipe_id: recipeAway ? null : (old.recipe?.id ?? null),
      fixture_revision_id: old.fixture?.id ?? null,
      approval_wanted: old.approval.wanted,
      roster_columns: JSON.stringify(old.columns),
    })
    .where('id', '=', id)
    .execute();
  const revisions = await trx
    .selectFrom('artwork_revisions')
    .select((e) => ['artwork_id', e.fn.max('number').as('newest')])
    .where('artwork_id', 'in', [...old.artworks.map((a) => a.id), NOBODY])
    .groupBy('artwork_id')
    .execute();
  // The board is there: what was done to make it is done.
  if (old.fixture) {
    const made = old.ticks.filter((t) => OF_THE_BOARD.has(t.step));
    if (made.length > 0)
      await trx.insertInto('step_ticks').values(made.map((t) => ({ batch_id: id, step: t.step, at: new Date(t.at), by: t.by }))).execute(); // prettier-ignore
  }
  const since = [
    ...changedSince(old, recipeAway, new Map(revisions.map((r) => [r.artwork_id, Number(r.newest)]))),
    ...(await editedSince(trx, old)),
  ];
  await record(trx, {
    by,
    kind: 'batch',
    batchId: id,
    summary: `The same again as ${old.name}${since.length > 0 ? `; ${counted(since.length, 'thing')} changed since` : ''}`,
  });
  const { version } = await trx.selectFrom('batches').select('version').where('id', '=', id).executeTakeFirstOrThrow();
  if (roster) {
    const missing = old.columns.filter((c) => setup.lettering.lines.some((l) => l.column === c) && !roster.columns.includes(c)); // prettier-ignore
    if (missing.length > 0) since.push(`The new list has no column ${listed(missing)}, which is lettered: choose another at the Run station.`); // prettier-ignore
    await bringInRoster(trx, id, roster, by, version);
  }
  return { id, since };
};
