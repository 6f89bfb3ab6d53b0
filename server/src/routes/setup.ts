import { api, type SectionName } from '@bistre/contract';
import { seamsDiffer, thawed, type MarkReading } from '@bistre/core';
import type { Express } from 'express';
import { sql } from 'kysely';
import { artRecipesIn, loadBatch } from '../batches';
import { askApproval, takeApproval } from '../changes/approval';
import { moveBatch } from '../changes/move';
import { againBatch } from '../changes/again';
import { beginBatch, provedOn } from '../changes/begin';
import { acceptMove } from '../changes/correct';
import { layAnew } from '../changes/verdicts';
import { beginChange, record } from '../changes/change';
import { saveFixture } from '../changes/fixture';
import { bringInRoster } from '../changes/roster';
import { mustBeKept } from '../changes/artworks';
import { giveSerials } from '../changes/serials';
import { mustBeThere } from '../changes/shelf-things';
import { takeBack } from '../changes/undo';
import type { Trx } from '../db/connect';
import { notFound, refused } from '../http/problem';
import { serve, type Room } from '../http/serve';
import { boardRows } from '../kept-rows';

const SECTION_WORDS: Readonly<Record<SectionName, string>> = {
  held: 'Hold settings',
  beside: 'What stands beside the work',
  lettering: 'Lettering',
  back: 'Back of the pieces',
  faces: 'Faces of the blank',
  contents: 'Art in the zones',
  place: 'Placing',
  burn: 'Burn settings',
  looks: 'Faces and defects of pieces',
  close: 'Closing notes',
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

/** A batch that uses a board of the Shelf is held as that board holds. */
const mustSuitBoard = async (trx: Trx, batchId: string, way: string): Promise<void> => {
  const kept = await trx
    .selectFrom('batches as b')
    .innerJoin('fixture_revisions as r', 'r.id', 'b.fixture_revision_id')
    .innerJoin('fixtures as f', 'f.id', 'r.fixture_id')
    .select(['r.held', 'r.revision', 'f.name'])
    .where('b.id', '=', batchId)
    .executeTakeFirst();
  if (kept && kept.held.way !== way)
    throw refused({
      code: 'board-in-use',
      message: `${kept.name} r${kept.revision} is in use. Open it for changes first, then hold the work in another way.`,
      field: 'held',
    });
};

/** Refuses a reading of a mark that the work has not. */
const mustHaveMark = (mark: number, marks: readonly number[]): void => {
  if (marks.includes(mark)) return;
  throw refused({
    code: 'no-such-mark',
    message:
      marks.length === 0
        ? 'This work has no marks to read yet.'
        : `This work has no mark ${mark}; its marks are ${marks.length > 12 ? `${marks[0]} to ${marks.at(-1)}` : marks.join(', ')}. Nothing was kept.`,
    field: 'mark',
  });
};

const keepReading = async (
  trx: Trx,
  batchId: string,
  by: string,
  {
    id,
    mark,
    x,
    y,
    source,
    purpose,
  }: Pick<MarkReading, 'mark' | 'x' | 'y' | 'source' | 'purpose'> & { id?: string | undefined },
): Promise<void> => {
  const row = await trx
    .insertInto('mark_readings')
    .values({
      ...(id === undefined ? {} : { id }),
      batch_id: batchId,
      mark,
      x_mm: x,
      y_mm: y,
      source,
      purpose,
      by,
      removed_at: null,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await record(trx, {
    by,
    kind: 'reading',
    batchId,
    summary: `Mark ${mark} ${purpose === 'reread' ? 'read again' : 'read'} at ${x.toFixed(2)}, ${y.toFixed(2)} mm${source === 'typed' ? '' : ' on the simulated machine'}`,
    parts: [`reading:${row.id}`],
    undo: { kind: 'reading-taken', id: row.id },
  });
};

/** The batch as a whole: the list, a new one, its own fields. */
const batchRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.listBatches, {
    ahead: async ({ query, db }) => {
      const rows = await db
        .selectFrom('batches')
        .select('id')
        .where('closed_at', query?.closed === 'yes' ? 'is not' : 'is', null)
        .where('away_at', 'is', null)
        .orderBy('due_at')
        .limit(200)
        .execute();
      return boardRows(
        db,
        rows.map((r) => r.id),
        room.workers.reckon,
      );
    },
    then: (_call, rows) => Promise.resolve(rows),
  });

  serve(app, room, api.createBatch, ({ body, by, trx }) => beginBatch(trx, body, by));

  serve(app, room, api.againBatch, ({ params, body, by, trx }) => againBatch(trx, params.id, body, by));

  serve(app, room, api.getBatch, ({ params, trx }) => loadBatch(trx, params.id));

  serve(app, room, api.updateBatch, async ({ params, body, by, trx }) => {
    const version = await beginChange(trx, params.id, by, { parts: ['batch'], version: body.version });
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
    const before = await trx
      .selectFrom('batches')
      .select(['name', 'customer', 'quantity', 'spares', 'tolerance_mm', 'due_at'])
      .where('id', '=', params.id)
      .executeTakeFirstOrThrow();
    const { name, customer, quantity, spares, tolerance, dueAt } = body;
    await trx
      .updateTable('batches')
      .set({ name, customer, quantity, spares, tolerance_mm: tolerance, due_at: dueAt ? new Date(dueAt) : null })
      .where('id', '=', params.id)
      .execute();
    await giveSerials(trx, params.id);
    await record(trx, {
      by,
      kind: 'batch',
      batchId: params.id,
      summary: `Batch changed: ${name}, ${quantity} pieces, ${spares} spares, within ${tolerance} mm`,
      parts: ['batch'],
      version,
      undo: {
        kind: 'fields',
        before: {
          name: before.name,
          customer: before.customer,
          quantity: before.quantity,
          spares: before.spares,
          tolerance: before.tolerance_mm,
          dueAt: before.due_at?.toISOString() ?? null,
        },
      },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, room, api.undo, async ({ params, body, by, trx }) => {
    const version = await beginChange(trx, params.id, by);
    await takeBack(trx, { batchId: params.id, version }, body, by);
    await giveSerials(trx, params.id);
    return loadBatch(trx, params.id);
  });
};

/** The documents that an operator chooses: a station's settings, the recipe, the roster. */
const sectionRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.saveSection, async ({ params, body, by, trx }) => {
    const { section } = body;
    const version = await beginChange(trx, params.id, by, { parts: [section], version: body.version });
    const row = await trx
      .selectFrom('batches')
      .select(['setup', 'machine_id'])
      .where('id', '=', params.id)
      .executeTakeFirstOrThrow();
    if (
      section === 'contents' ||
      section === 'lettering' ||
      (section === 'held' && seamsDiffer(row.setup.held, body.value))
    )
      await mustBeUnburned(trx, params.id);
    if (body.section === 'contents') {
      await mustBeKept(trx, { contents: body.value });
      for (const id of artRecipesIn({ contents: body.value })) await provedOn(trx, id, row.machine_id);
    }
    if (body.section === 'faces') await mustBeKept(trx, { faces: body.value });
    if (section === 'held') await mustSuitBoard(trx, params.id, body.value.way);
    if (body.section === 'back' && body.value.recipeId) await provedOn(trx, body.value.recipeId, row.machine_id);
    if (body.section === 'burn' && body.value.stockRecipeId)
      await provedOn(trx, body.value.stockRecipeId, row.machine_id);
    await trx
      .updateTable('batches')
      .set({ setup: sql`setup || jsonb_build_object(${section}::text, ${JSON.stringify(body.value)}::jsonb)` })
      .where('id', '=', params.id)
      .execute();
    if (section === 'contents') await giveSerials(trx, params.id);
    await record(trx, {
      by,
      kind: 'setup',
      batchId: params.id,
      summary: `${SECTION_WORDS[section]} changed`,
      parts: [section],
      version,
      // What was kept before a section could be has none of it.
      undo: { kind: 'section', section, before: row.setup[section] ?? null },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, room, api.moveBatch, ({ params, body, by, trx }) => moveBatch(trx, params.id, body, by));
  serve(app, room, api.askApproval, ({ params, body, by, trx }) => askApproval(trx, params.id, body, by));
  serve(app, room, api.takeApproval, ({ params, body, by, trx }) => takeApproval(trx, params.id, body, by));

  serve(app, room, api.correct, ({ params, body, by, trx }) => acceptMove(trx, params.id, body, by));

  serve(app, room, api.chooseRecipe, async ({ params, body, by, trx }) => {
    const version = await beginChange(trx, params.id, by, { parts: ['recipe'], version: body.version });
    const before = await trx
      .selectFrom('batches')
      .select(['recipe_id', 'machine_id'])
      .where('id', '=', params.id)
      .executeTakeFirstOrThrow();
    const recipe = body.recipeId ? await provedOn(trx, body.recipeId, before.machine_id) : null;
    if (body.recipeId) await mustBeThere(trx, 'recipes', body.recipeId);
    await trx.updateTable('batches').set({ recipe_id: body.recipeId }).where('id', '=', params.id).execute();
    await record(trx, {
      by,
      kind: 'setup',
      batchId: params.id,
      summary: recipe ? `Recipe ${recipe.name} chosen` : 'Recipe taken off',
      parts: ['recipe'],
      version,
      undo: { kind: 'recipe', recipeId: before.recipe_id },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, room, api.saveRoster, async ({ params, body, by, trx }) => {
    const version = await beginChange(trx, params.id, by, { parts: ['roster'], version: body.version });
    await bringInRoster(trx, params.id, body, by, version);
    return loadBatch(trx, params.id);
  });
};

/** Boards of the Shelf: saved from a batch, taken for it, opened for changes. */
const fixtureRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.saveFixture, {
    ahead: ({ params, reckon }) => reckon('freshBoard', params.id),
    then: async ({ params, body, by, trx }, { stamp, board }) => {
      const parts = ['fixture', 'held', 'beside'];
      const version = await beginChange(trx, params.id, by, { parts, version: body.version, stamp });
      await saveFixture(trx, params.id, board, by, version);
      return loadBatch(trx, params.id);
    },
  });

  serve(app, room, api.useFixture, async ({ params, body, by, trx }) => {
    // A board of the Shelf brings its hold settings: they are replaced with it.
    const parts = body.revisionId ? ['fixture', 'held', 'beside'] : ['fixture'];
    const version = await beginChange(trx, params.id, by, { parts, version: body.version });
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
          .select(['r.held', 'r.beside', 'r.revision', 'f.name', 'f.blank_id', 'f.away_at'])
          .where('r.id', '=', body.revisionId)
          .executeTakeFirst()
      : null;
    if (body.revisionId && !revision) throw notFound('This board');
    if (revision?.away_at)
      throw refused({ code: 'put-away', message: `${revision.name} is put away. Bring it back first.` }, 409);
    if (revision && revision.blank_id !== batch.blank.id)
      throw refused({ code: 'other-blank', message: `${revision.name} was cut for another blank.` });
    await trx
      .updateTable('batches')
      .set({
        fixture_revision_id: body.revisionId,
        setup: JSON.stringify(revision ? { ...batch.setup, ...thawed(batch.setup, revision) } : batch.setup),
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
      parts,
      version,
      undo: {
        kind: 'fixture',
        revisionId: batch.fixture?.id ?? null,
        ...(revision ? { before: { held: batch.setup.held, beside: batch.setup.beside } } : {}),
      },
    });
    return loadBatch(trx, params.id);
  });
};

/** What is read and ticked at the bench: it only adds. */
const benchRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.takeReading, {
    ahead: ({ params, reckon }) => reckon('marksOf', params.id),
    then: async ({ params, body, by, trx }, marks) => {
      mustHaveMark(body.mark, marks);
      await beginChange(trx, params.id, by);
      await keepReading(trx, params.id, by, body);
      return loadBatch(trx, params.id);
    },
  });

  serve(app, room, api.takeReadings, {
    ahead: ({ params, reckon }) => reckon('marksOf', params.id),
    then: async ({ params, body, by, trx }, marks) => {
      for (const { mark } of body.readings) mustHaveMark(mark, marks);
      await beginChange(trx, params.id, by);
      for (const r of body.readings) await keepReading(trx, params.id, by, { ...r, source: 'typed', purpose: 'place' });
      return loadBatch(trx, params.id);
    },
  });

  serve(app, room, api.dropReading, async ({ params, by, trx }) => {
    await beginChange(trx, params.id, by);
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
      parts: [`reading:${params.reading}`],
      undo: { kind: 'reading-dropped', id: params.reading },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, room, api.layAnew, async ({ params, by, trx }) => {
    await beginChange(trx, params.id, by);
    await layAnew(trx, params.id, by);
    return loadBatch(trx, params.id);
  });

  serve(app, room, api.tick, {
    ahead: ({ params, body, reckon }) => (body.done ? reckon('stepsOf', params.id) : Promise.resolve([])),
    then: async ({ params, body, by, trx }, steps) => {
      await beginChange(trx, params.id, by);
      const before = await trx
        .selectFrom('step_ticks')
        .select('step')
        .where('batch_id', '=', params.id)
        .where('step', '=', params.step)
        .executeTakeFirst();
      if (!before && !(body.done && steps.includes(params.step))) {
        if (!body.done) return loadBatch(trx, params.id);
        throw refused({
          code: 'no-such-step',
          message: `This batch has no step “${params.step}” as it is set up now. Nothing was ticked.`,
          field: 'step',
        });
      }
      if ((before !== undefined) === body.done) return loadBatch(trx, params.id);
      if (body.done)
        await trx.insertInto('step_ticks').values({ batch_id: params.id, step: params.step, by }).execute();
      else
        await trx.deleteFrom('step_ticks').where('batch_id', '=', params.id).where('step', '=', params.step).execute();
      await record(trx, {
        by,
        kind: 'step',
        batchId: params.id,
        summary: `Step ${params.step} ${body.done ? 'done' : 'opened again'}`,
        parts: [`tick:${params.step}`],
        undo: { kind: 'tick', step: params.step, done: !body.done },
      });
      return loadBatch(trx, params.id);
    },
  });
};

export const setupRoutes = (app: Express, room: Room): void => {
  batchRoutes(app, room);
  sectionRoutes(app, room);
  fixtureRoutes(app, room);
  benchRoutes(app, room);
};
