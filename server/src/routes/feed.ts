import { api } from '@bistre/contract';
import { checkFeedReading } from '@bistre/core';
import type { Express } from 'express';
import { loadBatch, loadFeeder } from '../batches';
import { beginChange, record } from '../changes/change';
import { createThing, saveThing } from '../changes/shelf-things';
import { notFound, refused } from '../http/problem';
import { serve, type Room } from '../http/serve';

export const feedRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.takeFeed, async ({ params, body, by, trx }) => {
    await beginChange(trx, params.id, by);
    const batch = await loadBatch(trx, params.id);
    if (!batch.feeder) throw refused({ code: 'no-feeder', message: 'Choose a feeder first.', field: 'feed.feederId' });
    const checked = checkFeedReading(body);
    if (!checked.ok) throw refused(checked.problem);
    const row = await trx
      .insertInto('feed_readings')
      .values({
        batch_id: params.id,
        feeder_id: batch.feeder.id,
        commanded_mm: body.commanded,
        measured_mm: body.measured,
        missed_mm: body.missed,
        by,
        removed_at: null,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    await record(trx, {
      by,
      kind: 'calibration',
      batchId: params.id,
      subjectId: batch.feeder.id,
      summary: `${batch.feeder.name} fed ${body.measured.toFixed(2)} mm for ${body.commanded.toFixed(2)} commanded${body.missed === null ? '' : `, back it missed by ${body.missed.toFixed(2)}`}`,
      parts: [`feed:${row.id}`],
      undo: { kind: 'feed-taken', id: row.id },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, room, api.dropFeed, async ({ params, by, trx }) => {
    await beginChange(trx, params.id, by);
    const row = await trx
      .updateTable('feed_readings')
      .set({ removed_at: new Date() })
      .where('id', '=', params.feed)
      .where('removed_at', 'is', null)
      .returning('measured_mm')
      .executeTakeFirst();
    if (!row) throw notFound('This feed');
    await record(trx, {
      by,
      kind: 'calibration',
      batchId: params.id,
      summary: `Feed reading ${row.measured_mm.toFixed(2)} mm taken out`,
      parts: [`feed:${params.feed}`],
      undo: { kind: 'feed-dropped', id: params.feed },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, room, api.listFeeders, async ({ trx }) => {
    const rows = await trx
      .selectFrom('feeders')
      .select('id')
      .where('away_at', 'is', null)
      .orderBy('name')
      .limit(100)
      .execute();
    const out = [];
    for (const row of rows) out.push((await loadFeeder(trx, row.id))!);
    return out;
  });
  serve(app, room, api.createFeeder, ({ body, by, trx }) =>
    createThing(trx, 'feeders', { name: body.name, document: body.spec, by }),
  );
  serve(app, room, api.saveFeeder, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'feeders', params.id, { ...body, document: body.spec, by });
    return (await loadFeeder(trx, params.id))!;
  });
};
