import { api, type DriveDocument } from '@bistre/contract';
import type { Express } from 'express';
import { alphabet, alphabetList } from '../alphabets';
import { listShopSteps, loadBlank, loadDrive, loadMachine, loadRecipe, loadShopStep } from '../batches';
import { listAway, setAway } from '../changes/away';
import { createThing, saveThing } from '../changes/shelf-things';
import { takeBack } from '../changes/undo';
import { latestUndoable } from '../changes/undoable';
import type { Trx } from '../db/connect';
import { HttpProblem } from '../http/problem';
import { serve, type Room } from '../http/serve';

/** What stands on the Shelf and was not put away, by name. */
const listed = async <T>(
  trx: Trx,
  table: 'blanks' | 'drives' | 'machines' | 'recipes',
  load: (trx: Trx, id: string) => Promise<T>,
): Promise<T[]> => {
  const rows = await trx
    .selectFrom(table)
    .select('id')
    .where('away_at', 'is', null)
    .orderBy('name')
    .limit(500)
    .execute();
  const out: T[] = [];
  for (const row of rows) out.push(await load(trx, row.id));
  return out;
};

const driveOf = async (trx: Trx, id: string): Promise<DriveDocument> => (await loadDrive(trx, id))!;

/** What is described on the Shelf: blanks, machines, recipes and drives. */
export const thingRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.listBlanks, ({ trx }) => listed(trx, 'blanks', loadBlank));
  serve(app, room, api.createBlank, ({ body, by, trx }) =>
    createThing(trx, 'blanks', { id: body.id, name: body.name, document: body.spec, by }),
  );
  serve(app, room, api.saveBlank, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'blanks', params.id, { ...body, document: body.spec, by });
    return loadBlank(trx, params.id);
  });
  serve(app, room, api.readOutline, {
    ahead: ({ body, foreign }) => foreign('outline', body),
    then: (_call, outline) => Promise.resolve(outline),
  });
  serve(app, room, api.readSheet, {
    ahead: ({ body, foreign }) => foreign('sheet', body),
    then: (_call, sheet) => Promise.resolve(sheet),
  });

  serve(app, room, api.listMachines, ({ trx }) => listed(trx, 'machines', loadMachine));
  serve(app, room, api.createMachine, ({ body, by, trx }) =>
    createThing(trx, 'machines', { name: body.name, document: body.profile, by }),
  );
  serve(app, room, api.saveMachine, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'machines', params.id, { ...body, document: body.profile, by });
    return loadMachine(trx, params.id);
  });

  serve(app, room, api.listRecipes, ({ trx }) => listed(trx, 'recipes', loadRecipe));
  serve(app, room, api.createRecipe, ({ body, by, trx }) =>
    createThing(trx, 'recipes', { name: body.name, document: body.spec, by, machineId: body.machineId }),
  );
  serve(app, room, api.saveRecipe, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'recipes', params.id, { ...body, document: body.spec, by });
    return loadRecipe(trx, params.id);
  });

  serve(app, room, api.listDrives, ({ trx }) => listed(trx, 'drives', driveOf));
  serve(app, room, api.createDrive, ({ body, by, trx }) =>
    createThing(trx, 'drives', { name: body.name, document: body.spec, by }),
  );
  serve(app, room, api.saveDrive, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'drives', params.id, { ...body, document: body.spec, by });
    return driveOf(trx, params.id);
  });

  serve(app, room, api.listSteps, ({ trx }) => listShopSteps(trx));
  serve(app, room, api.createStep, ({ body, by, trx }) =>
    createThing(trx, 'steps', { id: body.id, name: body.name, document: body.spec, by }),
  );
  serve(app, room, api.saveStep, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'steps', params.id, { ...body, document: body.spec, by });
    return loadShopStep(trx, params.id);
  });
};

/** What is true of all of the Shelf: take back, put away, and the alphabets that ship. */
export const shelfRoutes = (app: Express, room: Room): void => {
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

  app.get('/api/alphabets', (_request, response) => void response.json(alphabetList()));
  app.get('/api/alphabets/:id', (request, response) => {
    const found = alphabet(request.params.id);
    if (!found) throw new HttpProblem(404, { code: 'not-found', message: 'This alphabet does not ship with Bistre.' });
    response.set('cache-control', 'private, max-age=86400').json(found);
  });
};
