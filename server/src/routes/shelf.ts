import { sql } from 'kysely';
import { api, type BlankDocument, type FixtureDocument, type RecipeDocument } from '@bistre/contract';
import type { Express } from 'express';
import { alphabet, alphabetList } from '../alphabets';
import { loadBlank, loadDrive, loadMachine, loadRecipe } from '../batches';
import { listAway, setAway } from '../changes/away';
import { record } from '../changes/change';
import { createThing, mustBeThere, openBatchOf, saveThing } from '../changes/shelf-things';
import { takeBack } from '../changes/undo';
import { latestUndoable } from '../changes/undoable';
import { HttpProblem, notFound, refused } from '../http/problem';
import { serve, type Room } from '../http/serve';

export const shelfRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.listBlanks, async ({ trx }) => {
    const rows = await trx
      .selectFrom('blanks')
      .select('id')
      .where('away_at', 'is', null)
      .orderBy('name')
      .limit(500)
      .execute();
    const out: BlankDocument[] = [];
    for (const row of rows) out.push(await loadBlank(trx, row.id));
    return out;
  });
  serve(app, room, api.createBlank, ({ body, by, trx }) =>
    createThing(trx, 'blanks', { name: body.name, document: body.spec, by }),
  );
  serve(app, room, api.saveBlank, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'blanks', params.id, { ...body, document: body.spec, by });
    return loadBlank(trx, params.id);
  });
  serve(app, room, api.addSample, async ({ params, body, by, trx }) => {
    const name = await mustBeThere(trx, 'blanks', params.id);
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
      summary: `${name}: ${body.dimension} measured ${body.value.toFixed(2)} mm`,
      parts: [`sample:${row.id}`],
      undo: { kind: 'sample-added', id: row.id },
    });
    return loadBlank(trx, params.id);
  });
  serve(app, room, api.dropSample, async ({ params, by, trx }) => {
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
      parts: [`sample:${params.sample}`],
      undo: { kind: 'sample-dropped', id: params.sample },
    });
    return loadBlank(trx, params.id);
  });
  serve(app, room, api.readOutline, {
    ahead: ({ body, foreign }) => foreign('outline', body),
    then: (_call, outline) => Promise.resolve(outline),
  });

  serve(app, room, api.listMachines, async ({ trx }) => {
    const rows = await trx
      .selectFrom('machines')
      .selectAll()
      .where('away_at', 'is', null)
      .orderBy('name')
      .limit(200)
      .execute();
    return rows.map((r) => ({ id: r.id, name: r.name, version: r.version, profile: r.profile }));
  });
  serve(app, room, api.createMachine, ({ body, by, trx }) =>
    createThing(trx, 'machines', { name: body.name, document: body.profile, by }),
  );
  serve(app, room, api.saveMachine, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'machines', params.id, { ...body, document: body.profile, by });
    return loadMachine(trx, params.id);
  });

  serve(app, room, api.listRecipes, async ({ trx }) => {
    const rows = await trx
      .selectFrom('recipes')
      .select('id')
      .where('away_at', 'is', null)
      .orderBy('name')
      .limit(500)
      .execute();
    const out: RecipeDocument[] = [];
    for (const row of rows) out.push(await loadRecipe(trx, row.id));
    return out;
  });
  serve(app, room, api.createRecipe, ({ body, by, trx }) =>
    createThing(trx, 'recipes', { name: body.name, document: body.spec, by, machineId: body.machineId }),
  );
  serve(app, room, api.saveRecipe, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'recipes', params.id, { ...body, document: body.spec, by });
    return loadRecipe(trx, params.id);
  });

  serve(app, room, api.listDrives, async ({ trx }) => {
    const rows = await trx
      .selectFrom('drives')
      .select('id')
      .where('away_at', 'is', null)
      .orderBy('name')
      .limit(200)
      .execute();
    const out = [];
    for (const row of rows) out.push((await loadDrive(trx, row.id))!);
    return out;
  });
  serve(app, room, api.createDrive, ({ body, by, trx }) =>
    createThing(trx, 'drives', { name: body.name, document: body.spec, by }),
  );
  serve(app, room, api.saveDrive, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'drives', params.id, { ...body, document: body.spec, by });
    return (await loadDrive(trx, params.id))!;
  });

  serve(app, room, api.shelfUndoable, async ({ params, trx }) => {
    const change = await latestUndoable(trx, 'subject_id', params.id);
    return { change: change && { ...change, at: change.at.toISOString() } };
  });
  serve(app, room, api.undoShelf, async ({ params, body, by, trx }) => {
    await takeBack(trx, { subjectId: params.id }, body, by);
    return { ok: true as const };
  });

  serve(app, room, api.listAway, ({ trx }) => listAway(trx));
  serve(app, room, api.setAway, async ({ params, body, by, trx }) => {
    await setAway(trx, params.kind, params.id, body.away, by);
    return { ok: true as const };
  });

  serve(app, room, api.listFixtures, async ({ trx }) => {
    const fixtures = await trx
      .selectFrom('fixtures as f')
      .innerJoin('blanks as b', 'b.id', 'f.blank_id')
      .select(['f.id', 'f.name', 'f.blank_id', 'b.name as blank'])
      .where('f.away_at', 'is', null)
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
          held: r.held,
          beside: r.beside,
          basis: r.basis,
          savedAt: r.saved_at.toISOString(),
          savedBy: r.saved_by,
        })),
      });
    }
    return out;
  });

  serve(app, room, api.listLog, async ({ query, trx }) => {
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
