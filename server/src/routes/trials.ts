import { randomUUID } from 'node:crypto';
import {
  api,
  machineOf,
  recipeSpec,
  type BlankSpec,
  type SpoiledRow,
  TRIAL_FILES,
  type TrialDocument,
  type TrialSpec,
} from '@bistre/contract';
import {
  burnedOn,
  cellCount,
  cellWords,
  coveredBy,
  familyOf,
  freePlace,
  gridSize,
  judgeFamily,
  liesOn,
  nominalSize,
  partOf,
  placeOf,
  planProblems,
  settingAt,
  testWords,
  trialJob,
  type Machine,
} from '@bistre/core';
import type { Express } from 'express';
import { sql } from 'kysely';
import { alphabet, LABELS } from '../alphabets';
import { listTrials, loadMachine, loadRecipe, loadTrial } from '../batches';
import { record } from '../changes/change';
import { createThing, mustBeThere, saveThing } from '../changes/shelf-things';
import type { Trx } from '../db/connect';
import { HttpProblem, notFound, refused } from '../http/problem';
import { goneSignal, serve, type Room } from '../http/serve';
import { keepPhotograph, smallPhotograph } from '../photographs';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;
/** Trials that follow each other, at most. */
const LONGEST_LINE = 20;

const labels = () => alphabet(LABELS)!;

const machineOfTrial = async (trx: Trx, id: string): Promise<Machine> => machineOf(await loadMachine(trx, id));

/** Refuses what cannot be burned: numbers the machine does not take, no room on the piece, a place that is burned already. */
const mustFit = async (trx: Trx, id: string | null, machineId: string, spec: TrialSpec): Promise<void> => {
  const machine = await machineOfTrial(trx, machineId);
  const [problem] = planProblems(spec, machine);
  if (problem) throw refused({ ...problem, field: `spec.${problem.field}` });
  const size = gridSize(spec, labels());
  const bare = freePlace(spec.piece, size, []);
  if (!bare.ok) throw refused({ ...bare.problem, field: 'spec.piece.width' });
  const place = coveredBy(spec, labels());
  const others = (await listTrials(trx)).filter((t) => t.id !== id);
  const older = burnedOn(spec.piece.name, others, labels());
  const under = liesOn(place, older);
  if (under) {
    const free = freePlace(spec.piece, size, older.map((o) => o.taken)); // prettier-ignore
    throw refused({
      code: 'burned-already',
      message: `There ${under.name} was burned on ${spec.piece.name} already. ${free.ok ? `It has a free place at ${free.value.x.toFixed(1)}, ${free.value.y.toFixed(1)} mm.` : free.problem.message}`,
      field: 'spec.onPiece.x',
    });
  }
  if (spec.onPiece.x + size.width > spec.piece.width + 1e-6 || spec.onPiece.y + size.height > spec.piece.height + 1e-6)
    throw refused({
      code: 'beside-the-piece',
      message: `The grid takes ${size.width.toFixed(1)} × ${size.height.toFixed(1)} mm; from ${spec.onPiece.x.toFixed(1)}, ${spec.onPiece.y.toFixed(1)} it would leave ${spec.piece.name} (${spec.piece.width} × ${spec.piece.height} mm).`,
      field: 'spec.onPiece.x',
    });
  const job = trialJob(spec, '', machine, labels());
  if (!job.ok) throw refused({ ...job.problem, field: 'spec.onBed.x' });
};

const mustNotBeBurned = ({ name, burned, scores }: TrialDocument): void => {
  if (burned || scores.length > 0)
    throw refused(
      {
        code: 'burned',
        message: `${name} was burned as it was planned: it stays so. Plan another trial for other numbers.`,
      },
      409,
    );
};

/** A trial and those it follows, over the same two numbers. */
const family = async (trx: Trx, trial: TrialDocument): Promise<TrialDocument[]> => {
  const all = [trial];
  for (let at = trial; at.follows && all.length < LONGEST_LINE;) {
    at = await loadTrial(trx, at.follows);
    all.push(at);
  }
  return familyOf(trial, all);
};

const cellOf = (trial: TrialDocument, cell: number): void => {
  const count = cellCount(trial.spec);
  if (cell >= count)
    throw refused({ code: 'no-cell', message: `${trial.name} has ${count} cells, from 1 to ${count}.`, field: 'cell' });
};

/** Spoiled pieces by blank, the most first; round work is no flat scrap. */
const spoiledPieces = async (trx: Trx): Promise<SpoiledRow[]> => {
  const { rows } = await sql<{ id: string; name: string; spec: BlankSpec; materials: string[]; count: number }>`
    select b.id, b.name, b.spec, count(*)::int as count,
        array_remove(array_agg(distinct r.spec ->> 'material'), null) as materials
      from pieces p join batches t on t.id = p.batch_id join blanks b on b.id = t.blank_id
        left join recipes r on r.id = t.recipe_id
      where p.state = 'scrap' and b.away_at is null
      group by b.id, b.name, b.spec order by count(*) desc, b.name limit 100`.execute(trx);
  return rows
    .filter(({ spec }) => spec.shape.kind !== 'round')
    .map(({ id, name, spec, materials, count }) => {
      const { length, width } = nominalSize(spec.shape);
      return { blankId: id, name, materials: [...new Set([...(spec.material ? [spec.material] : []), ...materials])], width: length, height: width, count }; // prettier-ignore
    });
};

/** Trials: planned, burned, scored; and the recipes that their cells prove. */
export const trialRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.listSpoiled, ({ trx }) => spoiledPieces(trx));
  serve(app, room, api.listTrials, ({ trx }) => listTrials(trx));
  serve(app, room, api.createTrial, async ({ body, by, trx }) => {
    await mustBeThere(trx, 'machines', body.machineId);
    if (body.follows) await loadTrial(trx, body.follows);
    await mustFit(trx, null, body.machineId, body.spec);
    const made = await createThing(trx, 'trials', { name: body.name, document: body.spec, by, machineId: body.machineId }); // prettier-ignore
    await trx.updateTable('trials').set({ follows: body.follows, by }).where('id', '=', made.id).execute();
    return made;
  });
  serve(app, room, api.saveTrial, async ({ params, body, by, trx }) => {
    const trial = await loadTrial(trx, params.id);
    mustNotBeBurned(trial);
    await mustFit(trx, trial.id, trial.machineId, body.spec);
    await saveThing(trx, 'trials', params.id, { ...body, document: body.spec, by });
    return loadTrial(trx, params.id);
  });

  const burned = async (trx: Trx, trial: TrialDocument, by: string, photoId: string | null, simulated: boolean) => {
    if (photoId && !(await trx.selectFrom('photographs').select('id').where('id', '=', photoId).executeTakeFirst()))
      throw notFound('This photograph');
    await trx
      .updateTable('trials')
      .set({
        ...(photoId ? { photo_id: photoId } : {}),
        ...(trial.burned ? {} : { burned_at: new Date(), burned_by: by, simulated }),
      })
      .where('id', '=', trial.id)
      .execute();
    await record(trx, {
      by,
      kind: 'shelf',
      batchId: null,
      subjectId: trial.id,
      summary: `Trial ${trial.burned ? 'photographed' : `burned${simulated ? ' on the simulated machine' : ''}`}: ${trial.name}, on ${trial.spec.piece.name}`,
    });
    return loadTrial(trx, trial.id);
  };
  serve(app, room, api.burnedTrial, async ({ params, body, by, trx }) => {
    await mustBeThere(trx, 'trials', params.id);
    return burned(trx, await loadTrial(trx, params.id), by, body.photoId, false);
  });
  serve(app, room, api.simulateTrial, {
    ahead: async ({ params, db, by, reckon }) => {
      const { name } = await db.transaction().execute((trx) => loadTrial(trx, params.id));
      const png = Buffer.from(await reckon('burnTrialOnBench', params.id));
      return keepPhotograph(db, await smallPhotograph(png, name), by);
    },
    then: async ({ params, by, trx }, photo) => {
      await mustBeThere(trx, 'trials', params.id);
      const trial = await loadTrial(trx, params.id);
      if (trial.burned) throw refused({ code: 'burned', message: `${trial.name} was burned already.` }, 409);
      return burned(trx, trial, by, photo.id, true);
    },
  });

  serve(app, room, api.scoreCell, async ({ params, body, by, trx }) => {
    await mustBeThere(trx, 'trials', params.id);
    const trial = await loadTrial(trx, params.id);
    cellOf(trial, body.cell);
    if (!trial.burned)
      throw refused({ code: 'not-burned', message: `${trial.name} is not burned yet: there is nothing to look at.`, field: 'cell' }, 409); // prettier-ignore
    // One person has one word on a cell: the later one. Another’s stands beside it.
    const before = await trx
      .updateTable('trial_scores')
      .set({ removed_at: new Date() })
      .where('trial_id', '=', params.id)
      .where('cell', '=', body.cell)
      .where('by', '=', by)
      .where('removed_at', 'is', null)
      .returning('id')
      .executeTakeFirst();
    const row = await trx
      .insertInto('trial_scores')
      .values({ trial_id: params.id, ...body, by, removed_at: null })
      .returning('id')
      .executeTakeFirstOrThrow();
    await record(trx, {
      by,
      kind: 'shelf',
      batchId: null,
      subjectId: params.id,
      summary: `${trial.name}, ${cellWords(trial.spec, body.cell)}: ${body.grade} of 10, ${body.tell === 'right' ? 'right' : `too ${body.tell}`}`,
      parts: [`score:${row.id}`],
      undo: { kind: 'score-taken', id: row.id, instead: before?.id ?? null },
    });
    return loadTrial(trx, params.id);
  });
  serve(app, room, api.dropScore, async ({ params, by, trx }) => {
    const row = await trx
      .updateTable('trial_scores')
      .set({ removed_at: new Date() })
      .where('id', '=', params.score)
      .where('trial_id', '=', params.id)
      .where('removed_at', 'is', null)
      .returning(['cell', 'grade'])
      .executeTakeFirst();
    if (!row) throw notFound('This score');
    const trial = await loadTrial(trx, params.id);
    await record(trx, {
      by,
      kind: 'shelf',
      batchId: null,
      subjectId: params.id,
      summary: `${trial.name}, ${cellWords(trial.spec, row.cell)}: ${row.grade} of 10 taken out`,
      parts: [`score:${params.score}`],
      undo: { kind: 'score-dropped', id: params.score },
    });
    return loadTrial(trx, params.id);
  });

  serve(app, room, api.proveRecipe, async ({ params, body, by, trx }) => {
    await mustBeThere(trx, 'trials', params.id);
    const trial = await loadTrial(trx, params.id);
    cellOf(trial, body.cell);
    const { spec } = trial;
    const machine = await machineOfTrial(trx, trial.machineId);
    const judged = judgeFamily(await family(trx, trial), machine);
    const mine = judged?.tried.find((t) => t.trial === trial.id && t.cell === body.cell);
    if (!judged || !mine)
      throw refused({
        code: 'not-scored',
        message: 'Nobody has looked at this cell yet. Score it first.',
        field: 'cell',
      });
    const fell = (body.tests ?? []).find((t) => !t.holds);
    if (fell)
      throw refused({ code: 'comes-off', message: `Cell ${body.cell + 1} was ${testWords(fell)}. What comes off proves nothing.`, field: 'tests' }); // prettier-ignore
    const { mean, doubt } = judged.fit.at(mine.a, mine.b);
    const { column, row } = placeOf(spec, body.cell);
    const setting = settingAt(spec, column, row);
    const part = partOf(spec.effect);
    const followed = part === 'engrave' ? { after: spec.after ?? [] } : {};
    const proved = { cell: body.cell, at: new Date().toISOString(), by, grade: Math.min(10, Math.max(0, mean)), doubt, setting, ...followed, tests: body.tests ?? [] }; // prettier-ignore
    let id = body.recipeId;
    if (id) {
      await mustBeThere(trx, 'recipes', id);
      const recipe = await loadRecipe(trx, id);
      if (recipe.machineId !== trial.machineId)
        throw refused({ code: 'other-machine', message: `${recipe.name} is a recipe of another machine. A trial proves on its own machine alone.`, field: 'recipeId' }); // prettier-ignore
      await saveThing(trx, 'recipes', id, { name: recipe.name, document: { ...recipe.spec, material: spec.material, [part]: setting }, version: recipe.version, by }); // prettier-ignore
    } else {
      if (!body.name) throw refused({ code: 'no-name', message: 'Name is empty.', field: 'name' });
      id = randomUUID();
      const document = recipeSpec.parse({ material: spec.material, engrave: spec.base, cut: { ...spec.base, power: 0 }, [part]: setting, ...followed, note: '' }); // prettier-ignore
      await createThing(trx, 'recipes', { id, name: body.name, document, by, machineId: trial.machineId });
    }
    await trx.updateTable('recipes').set({ trial_id: trial.id, proved: JSON.stringify(proved) }).where('id', '=', id).execute(); // prettier-ignore
    await record(trx, {
      by,
      kind: 'shelf',
      batchId: null,
      subjectId: id,
      summary: `${trial.name} proves ${(await loadRecipe(trx, id)).name}: ${cellWords(trial.spec, body.cell)}`,
    });
    return { id };
  });

  app.get('/api/trials/:id/files/:file', async (request, response) => {
    const file = TRIAL_FILES.find((f) => f === request.params.file);
    if (!file || !UUID.test(request.params.id))
      throw new HttpProblem(404, { code: 'not-found', message: 'A trial has no such file.' });
    const { name, text } = await room.workers.reckon('writeTrialFile', { id: request.params.id, file }, goneSignal(response)); // prettier-ignore
    response
      .set({
        'content-type': file.endsWith('.svg') ? 'image/svg+xml' : 'text/plain; charset=us-ascii',
        'content-disposition': `attachment; filename="${name.replace(/[^A-Za-z0-9]+/g, '-').toLowerCase()}-${file}"`,
      })
      .send(text);
  });
};
