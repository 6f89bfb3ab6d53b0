import type { BatchDocument } from '@bistre/contract';
import type { Trx } from '../db/connect';

/** What stands in a machine as other batches left it: of each setting the last change, where it was not this batch’s own. Null: of no batch. */
export const leftElsewhere = async (
  trx: Trx,
  id: string | null,
  machineId: string,
): Promise<BatchDocument['elsewhere']> => {
  const rows = await trx
    .selectFrom('putbacks')
    .innerJoin('batches', 'batches.id', 'putbacks.batch_id')
    .select(['batches.name as batch', 'batch_id', 'setting', 'was', 'now'])
    .distinctOn('setting')
    .where('putbacks.machine_id', '=', machineId)
    .where('restored_at', 'is', null)
    .orderBy('setting')
    .orderBy('putbacks.at', 'desc')
    .execute();
  return rows
    .filter((row) => row.batch_id !== id)
    .map(({ batch, setting, was, now }) => ({ batch, setting, was, now }));
};
