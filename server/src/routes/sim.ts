import { api, PHOTO } from '@bistre/contract';
import type { Express } from 'express';
import { loadBatch } from '../batches';
import { beginChange, mustStayOpen, record } from '../changes/change';
import { layAnew } from '../changes/verdicts';
import { measureThing } from '../changes/shelf-things';
import type { Db, Trx } from '../db/connect';
import { notFound } from '../http/problem';
import { goneSignal, serve, type Room } from '../http/serve';
import { followOn, keepThrown } from '../simulation';
import type { Left } from '../work/left';

/** Keeps what a job of the simulated bench left, when nothing else moved it meanwhile. */
export const keepLeft = async <T>(
  trx: Trx,
  batchId: string,
  by: string,
  { value, state, version, said }: Left<T>,
): Promise<T> => {
  await mustStayOpen(trx, batchId);
  await followOn(trx, batchId, state, version);
  if (said) await record(trx, { by, kind: 'simulated', batchId, summary: said });
  return value;
};

const photoRoute = (app: Express, db: Db, workers: Room['workers']): void => {
  app.get(PHOTO, async (request, response) => {
    const { id } = request.params;
    if (!/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(id)) throw notFound('This batch');
    const asked = Number(request.query.shot ?? 0);
    const shot = Number.isInteger(asked) ? Math.abs(asked) % 1000 : 0;
    const { value, state } = await workers.reckon('takePhotograph', { id, shot }, goneSignal(response));
    await db.transaction().execute((trx) => keepThrown(trx, id, state));
    response
      .set({
        'content-type': 'image/png',
        'content-disposition': 'attachment; filename="bed.png"',
        'cache-control': 'no-store',
      })
      .send(Buffer.from(value));
  });
};

/** The simulated bench, reckoned in threads: what it hides never reaches the pages. */
export const simRoutes = (app: Express, room: Room): void => {
  photoRoute(app, room.db, room.workers);
  serve(app, room, api.simView, {
    ahead: ({ params, reckon }) => reckon('viewBench', params.id),
    then: (_call, seen) => Promise.resolve(seen),
  });
  serve(app, room, api.simDo, {
    ahead: ({ params, body, reckon }) => reckon('actOnBench', { id: params.id, act: body }),
    then: async ({ params, body, by, trx }, left) => {
      const seen = await keepLeft(trx, params.id, by, left);
      if (body.act === 'lay') await layAnew(trx, params.id, by);
      return seen;
    },
  });
  serve(app, room, api.simMeasure, {
    ahead: ({ params, body, reckon }) => reckon('measureOnBench', { id: params.id, ...body }),
    then: (_call, value) => Promise.resolve({ value }),
  });
  serve(app, room, api.simRun, {
    ahead: ({ params, reckon }) => reckon('runOnBench', params.id),
    then: ({ params, by, trx }, left) => keepLeft(trx, params.id, by, left),
  });

  serve(app, room, api.pointerFromSim, {
    ahead: ({ params, reckon }) => reckon('pointerOnBench', params.id),
    then: async ({ params, by, trx }, { x, y }) => {
      await beginChange(trx, params.id, by);
      const { machine } = await loadBatch(trx, params.id);
      await measureThing(trx, 'machines', machine.id, {
        ...machine.profile,
        // Scrap for a test dot lies in focus; a second height that was measured before is measured anew when wanted.
        pointerOffset: { x, y, height: 0, second: null, measuredAt: new Date().toISOString() },
      });
      await record(trx, {
        by,
        kind: 'calibration',
        batchId: params.id,
        subjectId: machine.id,
        summary: `Pointer offset of ${machine.name} measured: ${x.toFixed(2)}, ${y.toFixed(2)} mm`,
      });
      return loadBatch(trx, params.id);
    },
  });
};
