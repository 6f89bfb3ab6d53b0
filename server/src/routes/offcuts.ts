import { api } from '@bistre/contract';
import type { Express } from 'express';
import { loadBatch } from '../batches';
import { beginChange, record } from '../changes/change';
import { serve, type Room } from '../http/serve';

/** Offcuts that are kept: put on the Shelf from a batch, listed; put away when they are used up. */
export const offcutRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.listOffcuts, async ({ trx }) => {
    const rows = await trx
      .selectFrom('offcuts as o')
      .leftJoin('batches as b', 'b.id', 'o.batch_id')
      .selectAll('o')
      .select('b.name as from')
      .where('o.away_at', 'is', null)
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

  serve(app, room, api.keepOffcuts, async ({ params, body, by, trx }) => {
    await beginChange(trx, params.id, by);
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
};
