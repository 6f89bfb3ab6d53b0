import { api } from '@bistre/contract';
import type { Express } from 'express';
import { loadBatch, record } from '../batches';
import type { Db } from '../db/connect';
import { notFound } from '../http/problem';
import { serve } from '../http/serve';

/** Offcuts that are kept: put on the Shelf from a batch, listed, taken off when they are used up. */
export const offcutRoutes = (app: Express, db: Db): void => {
  serve(app, db, api.listOffcuts, async ({ trx }) => {
    const rows = await trx
      .selectFrom('offcuts as o')
      .leftJoin('batches as b', 'b.id', 'o.batch_id')
      .selectAll('o')
      .select('b.name as from')
      .where('o.used_at', 'is', null)
      .orderBy('o.at', 'desc')
      .orderBy('o.name')
      .limit(500)
      .execute();
    return rows.map((r) => ({
      id: r.id,
      name: r.name,
      material: r.material,
      thickness: r.thickness_mm,
      outline: r.outline,
      defects: r.defects,
      from: r.from,
      at: r.at.toISOString(),
      by: r.by,
    }));
  });

  serve(app, db, api.keepOffcuts, async ({ params, body, by, trx }) => {
    const batch = await loadBatch(trx, params.id);
    await trx
      .insertInto('offcuts')
      .values(
        body.offcuts.map((o) => ({
          name: o.name,
          material: o.material,
          thickness_mm: o.thickness,
          outline: JSON.stringify(o.outline),
          defects: JSON.stringify(o.defects),
          batch_id: batch.id,
          by,
          used_at: null,
        })),
      )
      .execute();
    await record(trx, {
      by,
      kind: 'shelf',
      batchId: batch.id,
      summary: `${body.offcuts.length} ${body.offcuts.length === 1 ? 'offcut' : 'offcuts'} kept on the Shelf: ${body.offcuts.map((o) => o.name).join(', ')}`,
    });
    return { kept: body.offcuts.length };
  });

  serve(app, db, api.dropOffcut, async ({ params, by, trx }) => {
    const row = await trx
      .updateTable('offcuts')
      .set({ used_at: new Date() })
      .where('id', '=', params.id)
      .where('used_at', 'is', null)
      .returning('name')
      .executeTakeFirst();
    if (!row) throw notFound('This offcut');
    await record(trx, {
      by,
      kind: 'shelf',
      batchId: null,
      subjectId: params.id,
      summary: `Offcut taken from the Shelf: ${row.name}`,
    });
    return { ok: true as const };
  });
};
