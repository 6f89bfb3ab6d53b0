import { api } from '@bistre/contract';
import type { Express } from 'express';
import { sql } from 'kysely';
import { serve, type Room } from '../http/serve';

/** Everything that was changed, newest first, by pages. */
export const logRoutes = (app: Express, room: Room): void => {
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
};
