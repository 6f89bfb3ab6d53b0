import { sql } from 'kysely';
import { api, type BlankDocument, type FixtureDocument, type RecipeDocument } from '@bistre/contract';
import { readDxfOutline, readSvgOutline } from '@bistre/core';
import type { Express } from 'express';
import { alphabet, alphabetList } from '../alphabets';
import { loadBlank, loadDrive, loadMachine, loadRecipe, record } from '../batches';
import type { Db } from '../db/connect';
import { HttpProblem, notFound, refused } from '../http/problem';
import { serve } from '../http/serve';
import { createThing, lastThingChange, openBatchOf, saveThing, undoThing } from '../changes/shelf-things';

export const shelfRoutes = (app: Express, db: Db): void => {
  serve(app, db, api.listBlanks, async ({ trx }) => {
    const rows = await trx.selectFrom('blanks').select('id').orderBy('name').limit(500).execute();
    const out: BlankDocument[] = [];
    for (const row of rows) out.push(await loadBlank(trx, row.id));
    return out;
  });
  serve(app, db, api.createBlank, ({ body, by, trx }) =>
    createThing(trx, 'blanks', { name: body.name, document: body.spec, by }),
  );
  serve(app, db, api.saveBlank, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'blanks', params.id, { ...body, document: body.spec, by });
    return loadBlank(trx, params.id);
  });
  serve(app, db, api.addSample, async ({ params, body, by, trx }) => {
    const blank = await trx.selectFrom('blanks').select('name').where('id', '=', params.id).executeTakeFirst();
    if (!blank) throw notFound('This blank');
    const count = await trx
      .selectFrom('blank_samples')
      .select((e) => e.fn.countAll().as('n'))
      .where('blank_id', '=', params.id)
      .where('dimension', '=', body.dimension)
      .where('removed_at', 'is', null)
      .executeTakeFirstOrThrow();
    if (Number(count.n) >= 500)
      throw refused({
        code: 'too-many-samples',
        message: 'There are 500 readings already; more would not change anything.',
        field: body.dimension,
      });
    const row = await trx
      .insertInto('blank_samples')
      .values({ blank_id: params.id, dimension: body.dimension, value_mm: body.value, by, removed_at: null })
      .returning('id')
      .executeTakeFirstOrThrow();
    await record(trx, {
      by,
      kind: 'sample',
      batchId: await openBatchOf(trx, params.id),
      subjectId: params.id,
      summary: `${blank.name}: ${body.dimension} measured ${body.value.toFixed(2)} mm`,
      undo: { kind: 'sample-added', id: row.id },
    });
    return loadBlank(trx, params.id);
  });
  serve(app, db, api.dropSample, async ({ params, by, trx }) => {
    const row = await trx
      .updateTable('blank_samples')
      .set({ removed_at: new Date() })
      .where('id', '=', params.sample)
      .where('blank_id', '=', params.id)
      .where('removed_at', 'is', null)
      .returning(['dimension', 'value_mm'])
      .executeTakeFirst();
    if (!row) throw notFound('This reading');
    await record(trx, {
      by,
      kind: 'sample',
      batchId: await openBatchOf(trx, params.id),
      subjectId: params.id,
      summary: `${row.dimension} reading ${row.value_mm.toFixed(2)} mm taken out`,
      undo: { kind: 'sample-dropped', id: params.sample },
    });
    return loadBlank(trx, params.id);
  });
  serve(app, db, api.readOutline, ({ body }) => {
    const dxf = /\.dxf$/i.test(body.name) || /^\s*0\s*\r?\n\s*SECTION/.test(body.text.slice(0, 200));
    const result = dxf ? readDxfOutline(body.text, body.wanted) : readSvgOutline(body.text, body.wanted);
    if (!result.ok) return Promise.reject(refused(result.problem));
    const { contours, width, height, unit, notes } = result.value;
    return Promise.resolve({
      contours: contours.map((c) => ({ closed: c.closed, vertices: c.vertices.map((v) => ({ ...v })) })),
      width,
      height,
      unit,
      notes: [...notes],
    });
  });

  serve(app, db, api.listMachines, async ({ trx }) => {
    const rows = await trx.selectFrom('machines').selectAll().orderBy('name').limit(200).execute();
    return rows.map((r) => ({ id: r.id, name: r.name, version: r.version, profile: r.profile }));
  });
  serve(app, db, api.createMachine, ({ body, by, trx }) =>
    createThing(trx, 'machines', { name: body.name, document: body.profile, by }),
  );
  serve(app, db, api.saveMachine, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'machines', params.id, { ...body, document: body.profile, by });
    return loadMachine(trx, params.id);
  });

  serve(app, db, api.listRecipes, async ({ trx }) => {
    const rows = await trx.selectFrom('recipes').select('id').orderBy('name').limit(500).execute();
    const out: RecipeDocument[] = [];
    for (const row of rows) out.push(await loadRecipe(trx, row.id));
    return out;
  });
  serve(app, db, api.createRecipe, ({ body, by, trx }) =>
    createThing(trx, 'recipes', { name: body.name, document: body.spec, by, machineId: body.machineId }),
  );
  serve(app, db, api.saveRecipe, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'recipes', params.id, { ...body, document: body.spec, by });
    return loadRecipe(trx, params.id);
  });

  serve(app, db, api.listDrives, async ({ trx }) => {
    const rows = await trx.selectFrom('drives').select('id').orderBy('name').limit(200).execute();
    const out = [];
    for (const row of rows) out.push((await loadDrive(trx, row.id))!);
    return out;
  });
  serve(app, db, api.createDrive, ({ body, by, trx }) =>
    createThing(trx, 'drives', { name: body.name, document: body.spec, by }),
  );
  serve(app, db, api.saveDrive, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'drives', params.id, { ...body, document: body.spec, by });
    return (await loadDrive(trx, params.id))!;
  });

  serve(app, db, api.shelfUndoable, async ({ params, trx }) => ({
    summary: (await lastThingChange(trx, params.id))?.summary ?? null,
  }));
  serve(app, db, api.undoShelf, async ({ params, by, trx }) => {
    await undoThing(trx, params.id, by);
    return { ok: true as const };
  });

  serve(app, db, api.listFixtures, async ({ trx }) => {
    const fixtures = await trx
      .selectFrom('fixtures as f')
      .innerJoin('blanks as b', 'b.id', 'f.blank_id')
      .select(['f.id', 'f.name', 'f.blank_id', 'b.name as blank'])
      .orderBy('f.name')
      .limit(500)
      .execute();
    const out: FixtureDocument[] = [];
    for (const f of fixtures) {
      const revisions = await trx
        .selectFrom('fixture_revisions')
        .selectAll()
        .where('fixture_id', '=', f.id)
        .orderBy('revision', 'desc')
        .execute();
      const used = await trx
        .selectFrom('batches')
        .innerJoin('fixture_revisions as r', 'r.id', 'batches.fixture_revision_id')
        .select('batches.name')
        .where('r.fixture_id', '=', f.id)
        .execute();
      out.push({
        id: f.id,
        name: f.name,
        blankId: f.blank_id,
        blankName: f.blank,
        usedBy: used.map((u) => u.name),
        revisions: revisions.map((r) => ({
          id: r.id,
          fixtureId: f.id,
          name: f.name,
          revision: r.revision,
          hold: r.hold,
          basis: r.basis,
          savedAt: r.saved_at.toISOString(),
          savedBy: r.saved_by,
        })),
      });
    }
    return out;
  });

  serve(app, db, api.listLog, async ({ query, trx }) => {
    const {
      before,
      batch,
      kind,
      q,
      limit = 50,
    } = (query ?? {}) as { before?: number; batch?: string; kind?: string; q?: string; limit?: number };
    let rows = trx
      .selectFrom('events as e')
      .leftJoin('batches as b', 'b.id', 'e.batch_id')
      .select(['e.id', 'e.at', 'e.by', 'e.kind', 'e.batch_id', 'e.summary', 'e.undone_at', 'b.name'])
      .orderBy('e.id', 'desc')
      .limit(limit + 1);
    if (before !== undefined) rows = rows.where('e.id', '<', before);
    if (batch) rows = rows.where('e.batch_id', '=', batch);
    if (kind) rows = rows.where('e.kind', '=', kind);
    const words = (q ?? '').match(/[\p{L}\p{N}]+/gu);
    if (words)
      rows = rows.where(
        sql<boolean>`to_tsvector('simple', e.summary) @@ to_tsquery('simple', ${words.map((w) => `${w}:*`).join(' & ')})`,
      );
    const found = await rows.execute();
    const page = found.slice(0, limit);
    return {
      rows: page.map((r) => ({
        id: r.id,
        at: r.at.toISOString(),
        by: r.by,
        kind: r.kind,
        batchId: r.batch_id,
        batchName: r.name,
        summary: r.summary,
        undone: r.undone_at !== null,
      })),
      next: found.length > limit ? page[page.length - 1]!.id : null,
    };
  });

  app.get('/api/alphabets', (_request, response) => void response.json(alphabetList()));
  app.get('/api/alphabets/:id', (request, response) => {
    const found = alphabet(request.params.id);
    if (!found) throw new HttpProblem(404, { code: 'not-found', message: 'This alphabet does not ship with Bistre.' });
    response.set('cache-control', 'private, max-age=86400').json(found);
  });
};
