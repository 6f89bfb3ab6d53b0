import { sql } from 'kysely';
import { api, type RunRow } from '@bistre/contract';
import { PART_WORDS } from '@bistre/core';
import type { Express } from 'express';
import { loadMachine } from '../batches';
import { record } from '../changes/change';
import { mustBeThere } from '../changes/shelf-things';
import { notFound } from '../http/problem';
import { serve, type Room } from '../http/serve';

/** Batches of the Shelf’s history that are listed at once. */
const LISTED = 60;

/** What was changed on a machine and when; and the batches that a thing of the Shelf was used by. */
export const machineRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.addMachineChange, async ({ params, body, by, trx }) => {
    const name = await mustBeThere(trx, 'machines', params.id);
    const row = await trx
      .insertInto('machine_changes')
      .values({ machine_id: params.id, what: body.what, note: body.note, at: new Date(body.at), by, removed_at: null })
      .returning('id')
      .executeTakeFirstOrThrow();
    await record(trx, {
      by,
      kind: 'shelf',
      batchId: null,
      subjectId: params.id,
      summary: `${name}: ${PART_WORDS[body.what]} on ${body.at.slice(0, 10)}${body.note ? `, ${body.note}` : ''}`,
      parts: [`machine-change:${row.id}`],
      undo: { kind: 'machine-changed', id: row.id },
    });
    return loadMachine(trx, params.id);
  });
  serve(app, room, api.dropMachineChange, async ({ params, by, trx }) => {
    const row = await trx
      .updateTable('machine_changes')
      .set({ removed_at: new Date() })
      .where('id', '=', params.change)
      .where('machine_id', '=', params.id)
      .where('removed_at', 'is', null)
      .returning(['what', 'at'])
      .executeTakeFirst();
    if (!row) throw notFound('This change');
    await record(trx, {
      by,
      kind: 'shelf',
      batchId: null,
      subjectId: params.id,
      summary: `Taken out: ${PART_WORDS[row.what]} on ${row.at.toISOString().slice(0, 10)}`,
      parts: [`machine-change:${params.change}`],
      undo: { kind: 'machine-change-dropped', id: params.change },
    });
    return loadMachine(trx, params.id);
  });

  serve(app, room, api.listRuns, async ({ params, trx }) => {
    const { rows: known } = await sql`select 1 from (select id from blanks union all select id from machines union all
      select id from recipes union all select id from fixtures) t where id = ${params.id} limit 1`.execute(trx);
    if (known.length === 0) throw notFound('This thing');
    const { rows } = await sql<Omit<RunRow, 'closedAt' | 'updatedAt'> & { closed: Date | null; updated: Date }>`
      select b.id, b.name, m.name as "machineName", b.quantity, r.revision, b.closed_at as closed, b.updated_at as updated,
          (select count(*)::int from pieces p where p.batch_id = b.id and p.state = 'done') as done,
          (select count(*)::int from pieces p where p.batch_id = b.id and p.state = 'scrap') as scrapped
        from batches b join machines m on m.id = b.machine_id
          left join fixture_revisions r on r.id = b.fixture_revision_id
        where b.away_at is null and ${params.id} in (b.blank_id, b.machine_id, b.recipe_id, r.fixture_id)
        order by coalesce(b.closed_at, b.updated_at) desc limit ${LISTED}`.execute(trx);
    return rows.map(({ closed, updated, ...row }) => ({
      ...row,
      closedAt: closed?.toISOString() ?? null,
      updatedAt: updated.toISOString(),
    }));
  });
};
