import { api, batchInput, type RecipeDocument, type SectionName } from '@bistre/contract';
import { effectiveHold, panelHolds, sideUp, type MarkReading } from '@bistre/core';
import type { Express } from 'express';
import { boardRow } from '../board-row';
import { changedSince, latestUndoable, loadBatch, loadRecipe, record, touch } from '../batches';
import { saveFixture } from '../changes/fixture';
import { freshSetup } from '../changes/fresh';
import { writeRoster } from '../changes/roster';
import { applyUndo } from '../changes/undo';
import type { Db, Trx } from '../db/connect';
import { notFound, refused, stale } from '../http/problem';
import { serve } from '../http/serve';

const SECTION_WORDS: Readonly<Record<SectionName, string>> = {
  hold: 'Hold settings',
  lettering: 'Lettering',
  back: 'Back of the pieces',
  long: 'Work in segments',
  place: 'Placing',
  burn: 'Burn settings',
  drive: 'Drive settings',
  feed: 'Feeder and strip',
  looks: 'Faces and defects of pieces',
  close: 'Closing notes',
};

/** A recipe by its id; refused when it was proved on another machine. */
const provedOn = async (trx: Trx, recipeId: string, machineId: string): Promise<RecipeDocument> => {
  const recipe = await loadRecipe(trx, recipeId);
  if (recipe.machineId !== machineId)
    throw refused({
      code: 'other-machine',
      message: `${recipe.name} was proved on another machine.`,
      field: 'recipeId',
    });
  return recipe;
};

/** Seams and art stay as they are once a segment of the work is burned: its marks lie where they were planned. */
const mustBeUnburned = async (trx: Trx, batchId: string): Promise<void> => {
  const burned = await trx
    .selectFrom('step_ticks')
    .select('step')
    .where('batch_id', '=', batchId)
    .where('step', 'like', 'run.segment-%')
    .executeTakeFirst();
  if (burned)
    throw refused({
      code: 'segment-burned',
      message: `A segment of this work is burned: seams and art stay as they are until it is judged. To begin it again, untick “${burned.step.replace('run.segment-', 'Burn segment ')}”.`,
      field: 'long',
    });
};

/** A panel has no marks before its first file has cut them. */
const mustHaveMarks = async (trx: Trx, batchId: string): Promise<void> => {
  const batch = await loadBatch(trx, batchId);
  const hold = effectiveHold(batch);
  if (panelHolds(hold) && sideUp(batchInput(batch), hold) === 'front')
    throw refused({
      code: 'no-marks-yet',
      message: 'The marks are cut by the first file. Burn side one and turn the sheet over, then aim.',
      field: 'place',
    });
};

const keepReading = async (
  trx: Trx,
  batchId: string,
  by: string,
  { mark, x, y, source, purpose }: Pick<MarkReading, 'mark' | 'x' | 'y' | 'source' | 'purpose'>,
): Promise<void> => {
  const row = await trx
    .insertInto('mark_readings')
    .values({ batch_id: batchId, mark, x_mm: x, y_mm: y, source, purpose, by, removed_at: null })
    .returning('id')
    .executeTakeFirstOrThrow();
  await record(trx, {
    by,
    kind: 'reading',
    batchId,
    summary: `Mark ${mark} ${purpose === 'reread' ? 'read again' : 'read'} at ${x.toFixed(2)}, ${y.toFixed(2)} mm${source === 'typed' ? '' : ' on the simulated machine'}`,
    undo: { kind: 'reading-taken', id: row.id },
  });
};

export const setupRoutes = (app: Express, db: Db): void => {
  serve(app, db, api.listBatches, async ({ query, trx }) => {
    const closed = (query as { closed?: string } | undefined)?.closed === 'yes';
    const rows = await trx
      .selectFrom('batches')
      .select('id')
      .where('closed_at', closed ? 'is not' : 'is', null)
      .orderBy('due_at')
      .limit(200)
      .execute();
    const out = [];
    for (const row of rows) out.push(boardRow(await loadBatch(trx, row.id)));
    return out;
  });

  serve(app, db, api.createBatch, async ({ body, by, trx }) => {
    const { name, customer, quantity, spares, tolerance, dueAt, machineId, blankId } = body;
    const recipe = await trx
      .selectFrom('recipes')
      .select('id')
      .where('machine_id', '=', machineId)
      .orderBy('name')
      .limit(1)
      .executeTakeFirst();
    const setup = freshSetup(name);
    const row = await trx
      .insertInto('batches')
      .values({
        name,
        customer,
        quantity,
        spares,
        tolerance_mm: tolerance,
        due_at: dueAt ? new Date(dueAt) : null,
        machine_id: machineId,
        blank_id: blankId,
        recipe_id: recipe?.id ?? null,
        fixture_revision_id: null,
        closed_at: null,
        setup: JSON.stringify({
          ...setup,
          hold: { ...setup.hold, extent: { kind: 'count', count: Math.min(quantity, 60) } },
        }),
        roster_columns: '[]',
        updated_by: by,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    await record(trx, {
      by,
      kind: 'batch',
      batchId: row.id,
      summary: `Batch begun: ${name}, ${quantity} pieces within ${tolerance} mm`,
    });
    return { id: row.id };
  });

  serve(app, db, api.getBatch, ({ params, trx }) => loadBatch(trx, params.id));

  serve(app, db, api.updateBatch, async ({ params, body, by, trx }) => {
    const changed = await changedSince(trx, params.id, 'batch', body.version);
    if (changed) throw stale(changed.by, changed.at);
    const version = await touch(trx, params.id, by);
    const last = await trx
      .selectFrom('pieces')
      .select((e) => e.fn.max('ordinal').as('n'))
      .where('batch_id', '=', params.id)
      .executeTakeFirst();
    if (Number(last?.n ?? 0) > body.quantity)
      throw refused({
        code: 'already-burned',
        message: `Piece ${Number(last?.n)} is already on the machine or done; the batch cannot shrink below it.`,
        field: 'quantity',
      });
    await trx
      .updateTable('batches')
      .set({
        name: body.name,
        customer: body.customer,
        quantity: body.quantity,
        spares: body.spares,
        tolerance_mm: body.tolerance,
        due_at: body.dueAt ? new Date(body.dueAt) : null,
      })
      .where('id', '=', params.id)
      .execute();
    await record(trx, {
      by,
      kind: 'batch',
      batchId: params.id,
      summary: `Batch changed: ${body.name}, ${body.quantity} pieces, ${body.spares} spares, within ${body.tolerance} mm`,
      detail: { part: 'batch', version },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.saveSection, async ({ params, body, by, trx }) => {
    const version = await touch(trx, params.id, by);
    const changed = await changedSince(trx, params.id, body.section, body.version);
    if (changed) throw stale(changed.by, changed.at);
    const row = await trx
      .selectFrom('batches')
      .select(['setup', 'machine_id'])
      .where('id', '=', params.id)
      .executeTakeFirstOrThrow();
    if (body.section === 'long' || body.section === 'lettering') await mustBeUnburned(trx, params.id);
    if (body.section === 'back' && body.value.recipeId) await provedOn(trx, body.value.recipeId, row.machine_id);
    const before = row.setup[body.section];
    await trx
      .updateTable('batches')
      .set({ setup: JSON.stringify({ ...row.setup, [body.section]: body.value }) })
      .where('id', '=', params.id)
      .execute();
    await record(trx, {
      by,
      kind: 'setup',
      batchId: params.id,
      summary: `${SECTION_WORDS[body.section]} changed`,
      detail: { part: body.section, version },
      undo: { kind: 'section', section: body.section, before },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.chooseRecipe, async ({ params, body, by, trx }) => {
    const version = await touch(trx, params.id, by);
    const changed = await changedSince(trx, params.id, 'recipe', body.version);
    if (changed) throw stale(changed.by, changed.at);
    const before = await trx
      .selectFrom('batches')
      .select(['recipe_id', 'machine_id'])
      .where('id', '=', params.id)
      .executeTakeFirstOrThrow();
    const recipe = body.recipeId ? await provedOn(trx, body.recipeId, before.machine_id) : null;
    await trx.updateTable('batches').set({ recipe_id: body.recipeId }).where('id', '=', params.id).execute();
    await record(trx, {
      by,
      kind: 'setup',
      batchId: params.id,
      summary: recipe ? `Recipe ${recipe.name} chosen` : 'Recipe taken off',
      detail: { part: 'recipe', version },
      undo: { kind: 'recipe', recipeId: before.recipe_id },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.saveFixture, async ({ params, by, trx }) => {
    await saveFixture(trx, params.id, by);
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.useFixture, async ({ params, body, by, trx }) => {
    const version = await touch(trx, params.id, by);
    const batch = await loadBatch(trx, params.id);
    if (batch.pieces.some((p) => p.state === 'loaded'))
      throw refused({
        code: 'load-open',
        message: 'A load is on the machine. Judge its pieces before the board is changed.',
      });
    const revision = body.revisionId
      ? await trx
          .selectFrom('fixture_revisions as r')
          .innerJoin('fixtures as f', 'f.id', 'r.fixture_id')
          .select(['r.hold', 'r.revision', 'f.name', 'f.blank_id'])
          .where('r.id', '=', body.revisionId)
          .executeTakeFirst()
      : null;
    if (body.revisionId && !revision) throw notFound('This board');
    if (revision && revision.blank_id !== batch.blank.id)
      throw refused({ code: 'other-blank', message: `${revision.name} was cut for another blank.` });
    await trx
      .updateTable('batches')
      .set({
        fixture_revision_id: body.revisionId,
        setup: JSON.stringify(revision ? { ...batch.setup, hold: revision.hold } : batch.setup),
      })
      .where('id', '=', params.id)
      .execute();
    await record(trx, {
      by,
      kind: 'setup',
      batchId: params.id,
      summary: revision
        ? `Board ${revision.name} r${revision.revision} taken from the Shelf`
        : 'Board opened for changes',
      detail: { part: 'fixture', version },
      undo: { kind: 'fixture', revisionId: batch.fixture?.id ?? null },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.undo, async ({ params, by, trx }) => {
    await touch(trx, params.id, by);
    const last = await latestUndoable(trx, params.id);
    if (!last?.undo) throw refused({ code: 'nothing-to-undo', message: 'There is nothing to take back.' });
    await applyUndo(trx, params.id, last.undo, by);
    await trx.updateTable('events').set({ undone_at: new Date() }).where('id', '=', last.id).execute();
    await record(trx, {
      by,
      kind: 'undo',
      batchId: params.id,
      summary: `Taken back: ${last.summary}`,
      detail:
        last.undo.kind === 'section'
          ? {
              part: last.undo.section,
              version: (
                await trx.selectFrom('batches').select('version').where('id', '=', params.id).executeTakeFirstOrThrow()
              ).version,
            }
          : {},
    });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.takeReading, async ({ params, body, by, trx }) => {
    await touch(trx, params.id, by);
    await mustHaveMarks(trx, params.id);
    await keepReading(trx, params.id, by, body);
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.takeReadings, async ({ params, body, by, trx }) => {
    await touch(trx, params.id, by);
    await mustHaveMarks(trx, params.id);
    for (const r of body.readings) await keepReading(trx, params.id, by, { ...r, source: 'typed', purpose: 'place' });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.dropReading, async ({ params, by, trx }) => {
    await touch(trx, params.id, by);
    const row = await trx
      .updateTable('mark_readings')
      .set({ removed_at: new Date() })
      .where('id', '=', params.reading)
      .where('batch_id', '=', params.id)
      .where('removed_at', 'is', null)
      .returning('mark')
      .executeTakeFirst();
    if (!row) throw notFound('This reading');
    await record(trx, {
      by,
      kind: 'reading',
      batchId: params.id,
      summary: `Reading of mark ${row.mark} taken out`,
      undo: { kind: 'reading-dropped', id: params.reading },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.tick, async ({ params, body, by, trx }) => {
    await touch(trx, params.id, by);
    const before = await trx
      .selectFrom('step_ticks')
      .select('step')
      .where('batch_id', '=', params.id)
      .where('step', '=', params.step)
      .executeTakeFirst();
    if ((before !== undefined) !== body.done) {
      if (body.done)
        await trx.insertInto('step_ticks').values({ batch_id: params.id, step: params.step, by }).execute();
      else
        await trx.deleteFrom('step_ticks').where('batch_id', '=', params.id).where('step', '=', params.step).execute();
      await record(trx, {
        by,
        kind: 'step',
        batchId: params.id,
        summary: `Step ${params.step} ${body.done ? 'done' : 'opened again'}`,
        undo: { kind: 'tick', step: params.step, done: !body.done },
      });
    }
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.saveRoster, async ({ params, body, by, trx }) => {
    await touch(trx, params.id, by);
    const before = await loadBatch(trx, params.id);
    if (before.pieces.length > 0 && body.rows.length < Math.max(...before.pieces.map((p) => p.ordinal)))
      throw refused({
        code: 'already-burned',
        message: 'Pieces beyond the end of this list are already burned. Keep those rows.',
        field: 'roster',
      });
    await writeRoster(trx, params.id, body.columns, body.rows);
    if (before.setup.lettering.lines.length === 0) {
      const usable = body.columns.filter((c) => !/^(slot|no|nr|#)$/i.test(c)).slice(0, 2);
      const lettering = {
        ...before.setup.lettering,
        lines: usable.map((column, i) => ({ column, alphabet: 'b612-bold', capHeight: i === 0 ? 5 : 3 })),
      };
      await trx
        .updateTable('batches')
        .set({ setup: JSON.stringify({ ...before.setup, lettering }) })
        .where('id', '=', params.id)
        .execute();
    }
    await record(trx, {
      by,
      kind: 'roster',
      batchId: params.id,
      summary: `Roster brought in: ${body.rows.length} rows, columns ${body.columns.join(', ').slice(0, 120)}`,
      undo: { kind: 'roster', columns: before.columns, rows: before.roster },
    });
    return loadBatch(trx, params.id);
  });
};
