import { api, type SectionName, type Setup } from '@bistre/contract';
import { defaultHold, fixtureBasis, reckonBatch } from '@bistre/core';
import type { Express } from 'express';
import { alphabetsFor, LABELS } from '../alphabets';
import { boardRow, changedSince, latestUndoable, loadBatch, record, reckonDocument, touch } from '../batches';
import type { Db, Trx } from '../db/connect';
import type { UndoStep } from '../db/schema';
import { notFound, refused, stale } from '../http/problem';
import { serve } from '../http/serve';

export const freshSetup = (name: string, tall: boolean): Setup => ({
  hold: defaultHold(boardName(name)),
  lettering: {
    zoneId: null,
    gap: tall ? 2 : 1.5,
    narrowest: 0.8,
    smallest: 1.5,
    lines: [],
  },
  place: { school: 'file' },
  burn: { sweep: 'row' },
  close: { notes: '', keep: '' },
});

/** A short name that can be engraved and used for files. */
export const boardName = (name: string): string =>
  name
    .normalize('NFD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .toUpperCase()
    .slice(0, 20) || 'BOARD';

const SECTION_WORDS: Readonly<Record<SectionName, string>> = {
  hold: 'Hold settings',
  lettering: 'Lettering',
  place: 'Placing',
  burn: 'Burn settings',
  close: 'Closing notes',
};

const applyUndo = async (trx: Trx, batchId: string, undo: UndoStep, by: string): Promise<void> => {
  switch (undo.kind) {
    case 'section': {
      const row = await trx.selectFrom('batches').select('setup').where('id', '=', batchId).executeTakeFirstOrThrow();
      await trx
        .updateTable('batches')
        .set({ setup: JSON.stringify({ ...row.setup, [undo.section]: undo.before }) })
        .where('id', '=', batchId)
        .execute();
      return;
    }
    case 'reading-taken':
      await trx.updateTable('mark_readings').set({ removed_at: new Date() }).where('id', '=', undo.id).execute();
      return;
    case 'reading-dropped':
      await trx.updateTable('mark_readings').set({ removed_at: null }).where('id', '=', undo.id).execute();
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
    case 'fixture':
      await trx
        .updateTable('batches')
        .set({ fixture_revision_id: undo.revisionId })
        .where('id', '=', batchId)
        .execute();
  }
};

export const writeRoster = async (
  trx: Trx,
  batchId: string,
  columns: readonly string[],
  rows: readonly Record<string, string>[],
): Promise<void> => {
  await trx.deleteFrom('roster_rows').where('batch_id', '=', batchId).execute();
  for (let i = 0; i < rows.length; i += 1_000) {
    await trx
      .insertInto('roster_rows')
      .values(
        rows
          .slice(i, i + 1_000)
          .map((fields, k) => ({ batch_id: batchId, ordinal: i + k + 1, fields: JSON.stringify(fields) })),
      )
      .execute();
  }
  await trx
    .updateTable('batches')
    .set({ roster_columns: JSON.stringify(columns) })
    .where('id', '=', batchId)
    .execute();
};

/** Saves the board of a batch as a new revision on the Shelf and puts it to use. */
export const saveFixture = async (trx: Trx, id: string, by: string): Promise<void> => {
  const batch = await loadBatch(trx, id);
  const { input } = reckonDocument({ ...batch, fixture: null }, 1_000);
  const fresh = reckonBatch(
    { ...input, fixture: null },
    { now: new Date(), alphabets: alphabetsFor([]), labels: LABELS, simulatedPieces: 1_000 },
  );
  if (!fresh.board) throw refused(fresh.boardProblem!);
  const name = batch.setup.hold.name;
  const existing = await trx.selectFrom('fixtures').selectAll().where('name', '=', name).executeTakeFirst();
  if (existing && existing.blank_id !== batch.blank.id)
    throw refused(
      {
        code: 'name-taken',
        message: `Another blank’s board is already called ${name}. Give this one a name of its own.`,
        field: 'hold.name',
      },
      409,
    );
  const fixture =
    existing ??
    (await trx
      .insertInto('fixtures')
      .values({ name, blank_id: batch.blank.id })
      .returningAll()
      .executeTakeFirstOrThrow());
  const last = await trx
    .selectFrom('fixture_revisions')
    .select((e) => e.fn.max('revision').as('n'))
    .where('fixture_id', '=', fixture.id)
    .executeTakeFirst();
  const revision = Number(last?.n ?? 0) + 1;
  const saved = await trx
    .insertInto('fixture_revisions')
    .values({
      fixture_id: fixture.id,
      revision,
      hold: JSON.stringify(batch.setup.hold),
      basis: JSON.stringify(fixtureBasis(input.blank, fresh.sizes, fresh.pocket)),
      saved_by: by,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await trx.updateTable('batches').set({ fixture_revision_id: saved.id }).where('id', '=', id).execute();
  await trx
    .deleteFrom('step_ticks')
    .where('batch_id', '=', id)
    .where('step', 'in', ['hold.cut', 'hold.fit', 'place.walk'])
    .execute();
  const version = await touch(trx, id, by);
  await record(trx, {
    by,
    kind: 'fixture',
    batchId: id,
    subjectId: fixture.id,
    summary: `Board ${name} r${revision} saved to the Shelf: ${fresh.board.slots.length} pockets of ${fresh.pocket.length.toFixed(2)} × ${fresh.pocket.width.toFixed(2)} mm`,
    detail: { part: 'fixture', version },
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
    const setup = freshSetup(name, false);
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
    const row = await trx.selectFrom('batches').select('setup').where('id', '=', params.id).executeTakeFirstOrThrow();
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
    const recipe = body.recipeId
      ? await trx.selectFrom('recipes').selectAll().where('id', '=', body.recipeId).executeTakeFirst()
      : null;
    if (body.recipeId && !recipe) throw notFound('This recipe');
    if (recipe && recipe.machine_id !== before.machine_id)
      throw refused({
        code: 'other-machine',
        message: `${recipe.name} was proved on another machine.`,
        field: 'recipeId',
      });
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
    const row = await trx
      .insertInto('mark_readings')
      .values({
        batch_id: params.id,
        mark: body.mark,
        x_mm: body.x,
        y_mm: body.y,
        source: body.source,
        purpose: body.purpose,
        by,
        removed_at: null,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    const word = body.purpose === 'reread' ? 'read again' : 'read';
    await record(trx, {
      by,
      kind: 'reading',
      batchId: params.id,
      summary: `Mark ${body.mark} ${word} at ${body.x.toFixed(2)}, ${body.y.toFixed(2)} mm${body.source === 'typed' ? '' : ' on the simulated machine'}`,
      undo: { kind: 'reading-taken', id: row.id },
    });
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
