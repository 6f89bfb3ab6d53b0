import type { Setup } from '@bistre/contract';
import { needsOf } from '@bistre/core';
import type { Trx } from '../db/connect';

/**
 * The last batch of a blank on a drive: what it found out is where the next one begins.
 * @param but a batch that is not meant
 */
export const lastOfThePair = async (
  trx: Trx,
  blankId: string,
  driveId: string,
  but: string | null = null,
): Promise<Setup | null> => {
  const rows = await trx
    .selectFrom('batches')
    .select('setup')
    .where('blank_id', '=', blankId)
    .$if(but !== null, (query) => query.where('id', '<>', but!))
    .orderBy('updated_at', 'desc')
    .limit(20)
    .execute();
  return rows.find((r) => needsOf(r.setup.held).driveId === driveId)?.setup ?? null;
};
