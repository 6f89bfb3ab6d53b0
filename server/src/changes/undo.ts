import { sql } from 'kysely';
import type { Trx } from '../db/connect';
import type { LeftBed, Putback, Ticked, UndoStep } from '../db/schema';
import { notFound, refused } from '../http/problem';
import { saveSimulation } from '../simulation';
import { record } from './change';
import { writeRoster } from './roster';
import { restoreThing } from './shelf-things';

/** Brings the open lines of the putback list back to how they stood. */
const restorePutbacks = async (trx: Trx, batchId: string, before: readonly Putback[]): Promise<void> => {
  const open = await trx
    .selectFrom('putbacks')
    .select(['id', 'setting'])
    .where('batch_id', '=', batchId)
    .where('restored_at', 'is', null)
    .execute();
  for (const row of open) {
    const then = before.find((p) => p.setting === row.setting);
    if (then) await trx.updateTable('putbacks').set({ now: then.now }).where('id', '=', row.id).execute();
    else await trx.deleteFrom('putbacks').where('id', '=', row.id).execute();
  }
};

const restoreTicks = async (trx: Trx, batchId: string, ticks: readonly Ticked[]): Promise<void> => {
  if (ticks.length === 0) return;
  await trx
    .insertInto('step_ticks')
    .values(ticks.map((t) => ({ batch_id: batchId, ...t })))
    .onConflict((c) => c.doNothing())
    .execute();
};

const restoreSections = async (trx: Trx, batchId: string, before: object): Promise<void> => {
  await trx
    .updateTable('batches')
    .set({ setup: sql`setup || ${JSON.stringify(before)}::jsonb` })
    .where('id', '=', batchId)
    .execute();
};

/** Lays what came off the bed back on it: readings, ticks, what was found of the strip and what the simulation stood at. */
const layBack = async (trx: Trx, batchId: string, left: LeftBed): Promise<void> => {
  if (left.readings.length > 0)
    await trx.updateTable('mark_readings').set({ removed_at: null }).where('id', 'in', left.readings).execute();
  await restoreTicks(trx, batchId, left.ticks);
  if (left.held) await restoreSections(trx, batchId, { held: left.held });
  if (left.simulation !== null) await saveSimulation(trx, batchId, left.simulation);
};

/** A verdict can be taken back while its load is on: until the next one is filled. */
const takeVerdictBack = async (
  trx: Trx,
  batchId: string,
  { id, again, left }: Extract<UndoStep, { kind: 'verdict' }>,
  by: string,
): Promise<void> => {
  const load =
    again?.load ??
    (await trx
      .selectFrom('pieces')
      .select('load')
      .where('id', '=', id)
      .executeTakeFirst()
      .then((p) => p?.load));
  if (load === undefined) throw notFound('This piece');
  const later = await trx
    .selectFrom('pieces')
    .select('load')
    .where('batch_id', '=', batchId)
    .where('load', '>', load)
    .limit(1)
    .executeTakeFirst();
  if (later)
    throw refused(
      {
        code: 'load-off',
        message: `Load ${load} is off the machine: load ${later.load} was filled after it. Its verdicts stand.`,
        field: 'run',
      },
      409,
    );
  if (again)
    await trx
      .insertInto('pieces')
      .values({
        id,
        batch_id: batchId,
        ...again,
        state: 'loaded',
        cause: null,
        dx_mm: null,
        dy_mm: null,
        yaw_rad: null,
        by,
      })
      .execute();
  else
    await trx
      .updateTable('pieces')
      .set({ state: 'loaded', cause: null, dx_mm: null, dy_mm: null, yaw_rad: null, at: new Date(), by })
      .where('id', '=', id)
      .execute();
  if (left) await layBack(trx, batchId, left);
  // With no piece done there is no first piece to be approved.
  await sql`update batches set first_approved = false where id = ${batchId}
    and not exists (select from pieces where batch_id = ${batchId} and state = 'done')`.execute(trx);
};

/** Marks a row as removed, or as there again. */
const setRemoved = async (
  trx: Trx,
  table: 'mark_readings' | 'rings' | 'feed_readings' | 'blank_samples' | 'machine_changes' | 'trial_scores',
  id: string,
  removed: boolean,
): Promise<void> => {
  await trx
    .updateTable(table)
    .set({ removed_at: removed ? new Date() : null })
    .where('id', '=', id)
    .execute();
};

/** Takes one change of a batch back, as its event says: everything that the change replaced. */
const applyUndo = async (trx: Trx, batchId: string, undo: UndoStep, by: string): Promise<void> => {
  switch (undo.kind) {
    case 'section':
      await restoreSections(trx, batchId, { [undo.section]: undo.before });
      if (undo.putbacks) await restorePutbacks(trx, batchId, undo.putbacks);
      return;
    case 'sections':
      await restoreSections(trx, batchId, undo.before);
      if (undo.putbacks) await restorePutbacks(trx, batchId, undo.putbacks);
      return;
    case 'fields': {
      const { name, customer, quantity, spares, tolerance, dueAt } = undo.before;
      await trx
        .updateTable('batches')
        .set({ name, customer, quantity, spares, tolerance_mm: tolerance, due_at: dueAt ? new Date(dueAt) : null })
        .where('id', '=', batchId)
        .execute();
      return;
    }
    case 'approval-wanted':
      await trx.updateTable('batches').set({ approval_wanted: undo.before }).where('id', '=', batchId).execute();
      return;
    case 'approval-taken':
      await trx.updateTable('approvals').set({ removed_at: new Date() }).where('id', '=', undo.id).execute();
      return;
    case 'reading-taken':
      return setRemoved(trx, 'mark_readings', undo.id, true);
    case 'reading-dropped':
      return setRemoved(trx, 'mark_readings', undo.id, false);
    case 'laid-anew':
      return layBack(trx, batchId, undo.left);
    case 'ring-taken':
      return setRemoved(trx, 'rings', undo.id, true);
    case 'ring-dropped':
      return setRemoved(trx, 'rings', undo.id, false);
    case 'feed-taken':
      return setRemoved(trx, 'feed_readings', undo.id, true);
    case 'feed-dropped':
      return setRemoved(trx, 'feed_readings', undo.id, false);
    case 'score-taken':
      await setRemoved(trx, 'trial_scores', undo.id, true);
      if (undo.instead) await setRemoved(trx, 'trial_scores', undo.instead, false);
      return;
    case 'score-dropped':
      return setRemoved(trx, 'trial_scores', undo.id, false);
    case 'sample-added':
      return setRemoved(trx, 'blank_samples', undo.id, true);
    case 'sample-dropped':
      return setRemoved(trx, 'blank_samples', undo.id, false);
    case 'moved':
      await trx
        .updateTable('batches')
        .set({ machine_id: undo.machineId, recipe_id: undo.recipeId, first_approved: undo.firstApproved })
        .where('id', '=', batchId)
        .execute();
      await restoreSections(trx, batchId, undo.before);
      return layBack(trx, batchId, undo.left);
    case 'machine-changed':
      return setRemoved(trx, 'machine_changes', undo.id, true);
    case 'machine-change-dropped':
      return setRemoved(trx, 'machine_changes', undo.id, false);
    case 'tick':
      if (undo.done) await restoreTicks(trx, batchId, [{ step: undo.step, by }]);
      else await trx.deleteFrom('step_ticks').where('batch_id', '=', batchId).where('step', '=', undo.step).execute();
      return;
    case 'roster':
      await writeRoster(trx, batchId, undo.columns, undo.rows);
      if (undo.lettering) await restoreSections(trx, batchId, { lettering: undo.lettering });
      return;
    case 'recipe':
      await trx.updateTable('batches').set({ recipe_id: undo.recipeId }).where('id', '=', batchId).execute();
      return;
    case 'thing':
      return restoreThing(trx, undo);
    case 'verdict':
      return takeVerdictBack(trx, batchId, undo, by);
    case 'fixture':
      await trx
        .updateTable('batches')
        .set({ fixture_revision_id: undo.revisionId })
        .where('id', '=', batchId)
        .execute();
      if (undo.before) await restoreSections(trx, batchId, undo.before);
      await restoreTicks(trx, batchId, undo.ticks ?? []);
  }
};

/** Work that was done with a setup builds on it. */
const WORK = ['load', 'piece', 'scrap', 'run', 'first piece'];
/** Changes that work builds on. */
const OF_THE_SETUP = ['setup', 'fixture', 'roster', 'batch'];

interface Named {
  readonly id: number;
  readonly by: string;
  readonly at: Date;
  readonly kind: string;
  readonly summary: string;
  readonly parts: string[];
}

/** The next event that builds on one: of the same part, or work that was done with it. */
const buildsOn = async (
  trx: Trx,
  of: 'batch_id' | 'subject_id',
  id: string,
  event: Named,
): Promise<Named | undefined> =>
  trx
    .selectFrom('events')
    .select(['id', 'by', 'at', 'kind', 'summary', 'parts'])
    .where(of, '=', id)
    .where('id', '>', event.id)
    .where('undone_at', 'is', null)
    .where('kind', '<>', 'undo')
    .where((w) =>
      w.or([
        sql<boolean>`parts && ${event.parts}::text[]`,
        ...(OF_THE_SETUP.includes(event.kind) ? [w('kind', 'in', WORK)] : []),
      ]),
    )
    .orderBy('id')
    .limit(1)
    .executeTakeFirst();

const when = (at: Date): string => `${at.toISOString().slice(0, 10)} ${at.toISOString().slice(11, 16)} UTC`;

/**
 * Takes one named change of a batch, or of a thing of the Shelf, back. Asks (409 `ask-undo`) when somebody
 * else made it or something later builds on it; `sure` answers that. The caller holds the row it is of.
 */
export const takeBack = async (
  trx: Trx,
  of: { readonly batchId: string; readonly version: number } | { readonly subjectId: string },
  { event: eventId, sure }: { event: number; sure?: boolean | undefined },
  by: string,
): Promise<void> => {
  const [column, id] = 'batchId' in of ? (['batch_id', of.batchId] as const) : (['subject_id', of.subjectId] as const);
  const event = await trx
    .selectFrom('events')
    .select(['id', 'by', 'at', 'kind', 'summary', 'parts', 'undo', 'undone_at', 'batch_id'])
    .where('id', '=', eventId)
    .where(column, '=', id)
    .forUpdate()
    .executeTakeFirst();
  if (!event?.undo)
    throw refused({ code: 'nothing-to-undo', message: 'This cannot be taken back, or not any more.', field: 'event' });
  if (event.undone_at)
    throw refused({ code: 'taken-back', message: `“${event.summary}” is taken back already.`, field: 'event' }, 409);
  const later = await buildsOn(trx, column, id, event);
  const reasons = [
    ...(event.by === by ? [] : [`it was done by ${event.by} on ${when(event.at)}`]),
    ...(later ? [`“${later.summary}” (${later.by}, ${when(later.at)}) builds on it`] : []),
  ];
  if (reasons.length > 0 && !sure)
    throw refused(
      {
        code: 'ask-undo',
        message: `Take “${event.summary}” back? ${reasons.join(', and ').replace(/^./, (c) => c.toUpperCase())}.`,
      },
      409,
    );
  await applyUndo(trx, event.batch_id ?? '', event.undo, by);
  await trx.updateTable('events').set({ undone_at: new Date() }).where('id', '=', event.id).execute();
  await record(trx, {
    by,
    kind: 'undo',
    batchId: event.batch_id,
    ...('subjectId' in of ? { subjectId: of.subjectId } : { version: of.version }),
    summary: `Taken back: ${event.summary}`,
    parts: event.parts,
  });
};
