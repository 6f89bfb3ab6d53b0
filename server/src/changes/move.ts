import { sql } from 'kysely';
import { foundThere, forgottenOnMove, TICKS_STAY, type api, type BatchDocument, type BodyOf } from '@bistre/contract';
import { listed } from '@bistre/core';
import { loadBatch } from '../batches';
import type { Trx } from '../db/connect';
import { refused } from '../http/problem';
import { beginChange, record } from './change';
import { mustBeThere } from './shelf-things';
import { forgetReadings } from './verdicts';

/**
 * Does the rest of a batch on another machine. Refused while a load is on, or a setting of this one is not put back:
 * nobody would look for it there. What does not hold on the other is forgotten, named in the Log, and comes back by undo.
 */
export const moveBatch = async (
  trx: Trx,
  batchId: string,
  { machineId, version }: BodyOf<typeof api.moveBatch>,
  by: string,
): Promise<BatchDocument> => {
  const parts = ['batch', 'held', 'place', 'burn', 'back', 'recipe'];
  const made = await beginChange(trx, batchId, by, { parts, version });
  const name = await mustBeThere(trx, 'machines', machineId);
  const batch = await loadBatch(trx, batchId);
  const { setup, machine } = batch;
  if (machine.id === machineId) throw refused({ code: 'there-already', message: `${batch.name} is on ${name} already.`, field: 'machineId' }); // prettier-ignore
  if (batch.pieces.some((p) => p.state === 'loaded'))
    throw refused({ code: 'load-on', message: `A load is on ${machine.name}. Judge it first.`, field: 'run' });
  const open = batch.putbacks.filter((p) => p.restoredAt === null);
  if (open.length > 0)
    throw refused({ code: 'put-back-first', message: `Put back ${listed(open.map((p) => p.setting))} on ${machine.name} first: nobody would look for it there.`, field: 'close' }); // prettier-ignore
  const forgotten = forgottenOnMove(batch, machineId);
  const there = (id: string | null | undefined, recipe: BatchDocument['recipe']): string | null => (recipe && recipe.machineId === machineId ? (id ?? null) : null); // prettier-ignore
  const before = { held: setup.held, place: setup.place, burn: setup.burn, back: setup.back };
  const after = {
    held: { ...setup.held, found: foundThere(batch) },
    place: { ...setup.place, corrections: [] },
    burn: { ...setup.burn, stockRecipeId: there(setup.burn.stockRecipeId, batch.stockRecipe) },
    back: { ...setup.back, recipeId: there(setup.back.recipeId, batch.backRecipe) },
  };
  const readings = await forgetReadings(trx, batchId);
  const ticks = batch.ticks.filter((t) => !TICKS_STAY.test(t.step)).map((t) => ({ step: t.step, by: t.by }));
  if (ticks.length > 0) await trx.deleteFrom('step_ticks').where('batch_id', '=', batchId).where('step', 'in', ticks.map((t) => t.step)).execute(); // prettier-ignore
  await trx
    .updateTable('batches')
    .set({
      machine_id: machineId,
      recipe_id: there(batch.recipe?.id, batch.recipe),
      first_approved: false,
      setup: sql`setup || ${JSON.stringify(after)}::jsonb`,
    })
    .where('id', '=', batchId)
    .execute();
  await record(trx, {
    by,
    kind: 'batch',
    batchId,
    summary: `Moved from ${machine.name} to ${name}${forgotten.length > 0 ? `; forgotten: ${listed(forgotten)}` : ''}`,
    parts: [...parts, ...readings.map((id) => `reading:${id}`)],
    version: made,
    undo: { kind: 'moved', machineId: machine.id, recipeId: batch.recipe?.id ?? null, firstApproved: batch.firstApproved, before, left: { readings, ticks, held: null, simulation: null } }, // prettier-ignore
  });
  return loadBatch(trx, batchId);
};
