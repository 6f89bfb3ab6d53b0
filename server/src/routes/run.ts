import { api } from '@bistre/contract';
import { listed } from '@bistre/core';
import type { Express } from 'express';
import { loadBatch } from '../batches';
import { beginChange, markChanged, record } from '../changes/change';
import { judge } from '../changes/verdicts';
import { giveSerials, useSerials } from '../changes/serials';
import type { Trx } from '../db/connect';
import { notFound, refused } from '../http/problem';
import { serve, type Room } from '../http/serve';

const nextNumber = async (trx: Trx, batchId: string): Promise<number> => {
  const last = await trx
    .selectFrom('pieces')
    .select((e) => e.fn.max('load').as('n'))
    .where('batch_id', '=', batchId)
    .executeTakeFirst();
  return Number(last?.n ?? 0) + 1;
};

/** Loads and verdicts. */
const loadRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.startLoad, {
    ahead: ({ params, reckon }) => reckon('fillLoad', params.id),
    then: async ({ params, by, trx }, { stamp, fill }) => {
      await beginChange(trx, params.id, by, { stamp });
      const load = await nextNumber(trx, params.id);
      await trx
        .insertInto('pieces')
        .values(
          fill.map((f) => ({
            batch_id: params.id,
            ordinal: f.ordinal,
            load,
            slot: f.slot,
            state: 'loaded' as const,
            cause: null,
            dx_mm: null,
            dy_mm: null,
            yaw_rad: null,
            by,
          })),
        )
        .execute();
      const serials = await useSerials(trx, params.id);
      await record(trx, {
        by,
        kind: 'load',
        batchId: params.id,
        summary: `Load ${load} filled: ${fill.length} ${fill.length === 1 ? 'piece, the first' : 'pieces'}${serials.length > 0 ? `; ${listed(serials)}` : ''}`,
        detail: { load, slots: fill.length },
      });
      return loadBatch(trx, params.id);
    },
  });

  serve(app, room, api.judgePieces, {
    ahead: ({ params, body, reckon }) => reckon('verdictsOf', { id: params.id, pieces: body.pieces }),
    then: async ({ params, body, by, trx }, { stamp, leaves }) => {
      const version = await beginChange(trx, params.id, by, { stamp });
      await judge(trx, params.id, body.pieces, leaves, by, version);
      await giveSerials(trx, params.id);
      return loadBatch(trx, params.id);
    },
  });

  serve(app, room, api.approveFirst, async ({ params, body, by, trx }) => {
    await beginChange(trx, params.id, by);
    const batch = await loadBatch(trx, params.id);
    if (body.approved && !batch.pieces.some((p) => p.state === 'done'))
      throw refused({ code: 'no-first', message: 'Judge the first piece done before it is approved.' });
    const outside = batch.pieces.find((p) => p.state === 'done' && p.cause);
    if (body.approved && outside && !body.sure)
      throw refused({
        code: 'first-outside',
        message: `The first piece is out of tolerance; it was passed because: ${outside.cause}. Say once more that the rest may come like it.`,
      });
    await trx.updateTable('batches').set({ first_approved: body.approved }).where('id', '=', params.id).execute();
    await record(trx, {
      by,
      kind: 'first piece',
      batchId: params.id,
      summary: body.approved
        ? `First piece approved${outside ? ', out of tolerance' : ''}`
        : 'Approval of the first piece taken back',
      // The approval builds on the verdicts there are.
      parts: ['approval', ...batch.pieces.filter((p) => p.state === 'done').map((p) => `piece:${p.id}`)],
    });
    return loadBatch(trx, params.id);
  });
};

const putbackRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.addPutback, async ({ params, body, by, trx }) => {
    await beginChange(trx, params.id, by);
    const batch = await trx
      .selectFrom('batches')
      .select('machine_id')
      .where('id', '=', params.id)
      .executeTakeFirstOrThrow();
    await trx
      .insertInto('putbacks')
      .values({ batch_id: params.id, machine_id: batch.machine_id, ...body, restored_at: null, restored_by: null })
      .execute();
    await record(trx, {
      by,
      kind: 'putback',
      batchId: params.id,
      summary: `${body.setting} changed from ${body.was} to ${body.now}: to be put back`,
    });
    return loadBatch(trx, params.id);
  });

  serve(app, room, api.restorePutback, async ({ params, body, by, trx }) => {
    await beginChange(trx, params.id, by);
    const row = await trx
      .updateTable('putbacks')
      .set({ restored_at: body.restored ? new Date() : null, restored_by: body.restored ? by : null })
      .where('id', '=', params.putback)
      .where('batch_id', '=', params.id)
      .returningAll()
      .executeTakeFirst();
    if (!row) throw notFound('This setting');
    // It stands in the machine once, whoever changed it.
    if (body.restored)
      await trx
        .updateTable('putbacks')
        .set({ restored_at: new Date(), restored_by: by })
        .where('machine_id', '=', row.machine_id)
        .where('setting', '=', row.setting)
        .where('restored_at', 'is', null)
        .execute();
    await record(trx, {
      by,
      kind: 'putback',
      batchId: params.id,
      summary: body.restored ? `${row.setting} put back to ${row.was}` : `${row.setting} is not put back after all`,
    });
    return loadBatch(trx, params.id);
  });
};

const closeRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.closeBatch, async ({ params, body, by, trx }) => {
    await beginChange(trx, params.id, by);
    const batch = await loadBatch(trx, params.id);
    const open = batch.putbacks.filter((p) => p.restoredAt === null);
    if (open.length > 0)
      throw refused({
        code: 'not-put-back',
        message: `${open[0]!.setting} is still at ${open[0]!.now}; put it back to ${open[0]!.was} first.`,
        field: 'close',
      });
    if (batch.pieces.some((p) => p.state === 'loaded'))
      throw refused({
        code: 'load-open',
        message: 'A load is still on the machine. Judge its pieces first.',
        field: 'run',
      });
    const done = batch.pieces.filter((p) => p.state === 'done').length;
    const scrap = batch.pieces.filter((p) => p.state === 'scrap').length;
    await trx
      .updateTable('batches')
      .set({ closed_at: new Date(), closed_by: by })
      .where('id', '=', params.id)
      .execute();
    await record(trx, {
      by,
      kind: 'closed',
      batchId: params.id,
      summary: `Batch closed: ${done} of ${batch.quantity} done, ${scrap} scrapped${body?.reason ? `, its placement doubted: ${body.reason}` : ''}${batch.setup.close.notes ? `. ${batch.setup.close.notes.slice(0, 200)}` : ''}`,
    });
    return loadBatch(trx, params.id);
  });

  serve(app, room, api.reopenBatch, async ({ params, body, by, trx }) => {
    const row = await trx
      .selectFrom('batches')
      .select(['closed_at', 'away_at'])
      .where('id', '=', params.id)
      .forUpdate()
      .executeTakeFirst();
    if (!row) throw notFound('This batch');
    if (row.away_at) throw refused({ code: 'put-away', message: 'This batch is put away. Bring it back first.' }, 409);
    if (!row.closed_at) throw refused({ code: 'open', message: 'This batch is open already.' }, 409);
    await trx.updateTable('batches').set({ closed_at: null, closed_by: null }).where('id', '=', params.id).execute();
    await markChanged(trx, params.id, by);
    await record(trx, { by, kind: 'closed', batchId: params.id, summary: `Batch opened again: ${body.reason}` });
    return loadBatch(trx, params.id);
  });
};

export const runRoutes = (app: Express, room: Room): void => {
  loadRoutes(app, room);
  putbackRoutes(app, room);
  closeRoutes(app, room);
};
