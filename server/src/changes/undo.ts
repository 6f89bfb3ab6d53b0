import type { Trx } from '../db/connect';
import type { Putback, UndoStep } from '../db/schema';
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

/** Takes one change of a batch back, as its event says. */
export const applyUndo = async (trx: Trx, batchId: string, undo: UndoStep, by: string): Promise<void> => {
  switch (undo.kind) {
    case 'section': {
      const row = await trx.selectFrom('batches').select('setup').where('id', '=', batchId).executeTakeFirstOrThrow();
      await trx
        .updateTable('batches')
        .set({ setup: JSON.stringify({ ...row.setup, [undo.section]: undo.before }) })
        .where('id', '=', batchId)
        .execute();
      if (undo.putbacks) await restorePutbacks(trx, batchId, undo.putbacks);
      return;
    }
    case 'reading-taken':
      await trx.updateTable('mark_readings').set({ removed_at: new Date() }).where('id', '=', undo.id).execute();
      return;
    case 'reading-dropped':
      await trx.updateTable('mark_readings').set({ removed_at: null }).where('id', '=', undo.id).execute();
      return;
    case 'ring-taken':
      await trx.updateTable('rings').set({ removed_at: new Date() }).where('id', '=', undo.id).execute();
      return;
    case 'ring-dropped':
      await trx.updateTable('rings').set({ removed_at: null }).where('id', '=', undo.id).execute();
      return;
    case 'feed-taken':
      await trx.updateTable('feed_readings').set({ removed_at: new Date() }).where('id', '=', undo.id).execute();
      return;
    case 'feed-dropped':
      await trx.updateTable('feed_readings').set({ removed_at: null }).where('id', '=', undo.id).execute();
      return;
    case 'sample-added':
      await trx.updateTable('blank_samples').set({ removed_at: new Date() }).where('id', '=', undo.id).execute();
      return;
    case 'sample-dropped':
      await trx.updateTable('blank_samples').set({ removed_at: null }).where('id', '=', undo.id).execute();
      return;
    case 'tick':
      if (undo.done)
        await trx
          .insertInto('step_ticks')
          .values({ batch_id: batchId, step: undo.step, by })
          .onConflict((c) => c.doNothing())
          .execute();
      else await trx.deleteFrom('step_ticks').where('batch_id', '=', batchId).where('step', '=', undo.step).execute();
      return;
    case 'roster':
      await writeRoster(trx, batchId, undo.columns, undo.rows);
      return;
    case 'recipe':
      await trx.updateTable('batches').set({ recipe_id: undo.recipeId }).where('id', '=', batchId).execute();
      return;
    case 'thing':
      await restoreThing(trx, undo);
      return;
    case 'fixture':
      await trx
        .updateTable('batches')
        .set({ fixture_revision_id: undo.revisionId })
        .where('id', '=', batchId)
        .execute();
  }
};
