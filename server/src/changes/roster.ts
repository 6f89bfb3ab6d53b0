import type { Trx } from '../db/connect';

/** Puts a roster in the place of the one there is. */
export const writeRoster = async (
  trx: Trx,
  batchId: string,
  columns: readonly string[],
  rows: readonly Record<string, string>[],
): Promise<void> => {
  await trx.deleteFrom('roster_rows').where('batch_id', '=', batchId).execute();
  for (let i = 0; i < rows.length; i += 1_000) {
    await trx
      .insertInto('roster_rows')
      .values(
        rows
          .slice(i, i + 1_000)
          .map((fields, k) => ({ batch_id: batchId, ordinal: i + k + 1, fields: JSON.stringify(fields) })),
      )
      .execute();
  }
  await trx
    .updateTable('batches')
    .set({ roster_columns: JSON.stringify(columns) })
    .where('id', '=', batchId)
    .execute();
};
