import { sql } from 'kysely';
import type { Setup } from '@bistre/contract';
import { loadBatch } from '../batches';
import type { Trx } from '../db/connect';
import { refused } from '../http/problem';
import { record } from './change';

/** Puts a roster in the place of the one there is. */
export const writeRoster = async (
  trx: Trx,
  batchId: string,
  columns: readonly string[],
  rows: readonly Record<string, string>[],
): Promise<void> => {
  await trx.deleteFrom('roster_rows').where('batch_id', '=', batchId).execute();
  // Every column is there by its own: one of a strange name is not looked for elsewhere.
  const whole = rows.map((row) => Object.fromEntries(columns.map((c) => [c, Object.hasOwn(row, c) ? row[c] : ''])));
  await sql`insert into roster_rows (batch_id, ordinal, fields)
    select ${batchId}, ordinality, value from jsonb_array_elements(${JSON.stringify(whole)}::jsonb) with ordinality`.execute(
    trx,
  );
  await trx
    .updateTable('batches')
    .set({ roster_columns: JSON.stringify(columns) })
    .where('id', '=', batchId)
    .execute();
};

/** Past rosters that stay for undo with each batch: two mistakes in a row can be taken back. */
const KEPT_ROSTERS = 2;

/** Forgets how to take older rosters of a batch back: twenty thousand names are not kept for ever. */
const forgetOldRosters = (trx: Trx, batchId: string): Promise<unknown> =>
  sql`update events set undo = null where batch_id = ${batchId} and undo ->> 'kind' = 'roster' and id not in (
    select id from events where batch_id = ${batchId} and undo ->> 'kind' = 'roster' order by id desc limit ${KEPT_ROSTERS}
  )`.execute(trx);

/** Letters that columns of a roster get where nothing is said yet: the first large, the second smaller. */
const lettersFor = (columns: readonly string[]): Setup['lettering']['lines'] =>
  columns
    .filter((c) => !/^(slot|no|nr|#)$/i.test(c))
    .slice(0, 2)
    .map((column, i) => ({ column, alphabet: 'b612-bold', capHeight: i === 0 ? 5 : 3 }));

/**
 * Brings a roster in, with letters for its columns where the batch has none. The caller holds the batch's row.
 *
 * @param version the batch's version that this change makes
 */
export const bringInRoster = async (
  trx: Trx,
  id: string,
  { columns, rows }: { columns: readonly string[]; rows: readonly Record<string, string>[] },
  by: string,
  version: number,
): Promise<void> => {
  const before = await loadBatch(trx, id);
  if (before.pieces.length > 0 && rows.length < Math.max(...before.pieces.map((p) => p.ordinal)))
    throw refused({
      code: 'already-burned',
      message: 'Pieces beyond the end of this list are already burned. Keep those rows.',
      field: 'roster',
    });
  await writeRoster(trx, id, columns, rows);
  const { lettering } = before.setup;
  const lettered = lettering.lines.length === 0;
  if (lettered)
    await trx
      .updateTable('batches')
      .set({ setup: JSON.stringify({ ...before.setup, lettering: { ...lettering, lines: lettersFor(columns) } }) })
      .where('id', '=', id)
      .execute();
  await record(trx, {
    by,
    kind: 'roster',
    batchId: id,
    summary: `Roster brought in: ${rows.length} rows, columns ${columns.join(', ').slice(0, 120)}`,
    parts: lettered ? ['roster', 'lettering'] : ['roster'],
    version,
    undo: {
      kind: 'roster',
      columns: before.columns,
      rows: before.roster,
      ...(lettered ? { lettering } : {}),
    },
  });
  await forgetOldRosters(trx, id);
};
