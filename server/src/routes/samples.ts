import { api } from '@bistre/contract';
import type { Express } from 'express';
import { loadBlank } from '../batches';
import { record } from '../changes/change';
import { mustBeThere, openBatchOf } from '../changes/shelf-things';
import { notFound, refused } from '../http/problem';
import { serve, type Room } from '../http/serve';

/** What was measured on blanks: a reading at a time, put in and taken out. */
export const sampleRoutes = (app: Express, room: Room): void => {
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
      .values({
        ...(body.id === undefined ? {} : { id: body.id }),
        blank_id: params.id,
        dimension: body.dimension,
        value_mm: body.value,
        by,
        removed_at: null,
      })
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
};
