import type { BatchDocument } from '@bistre/contract';
import { loadWhole, stampOf } from '../batches';
import { refuseWhenClosed } from '../changes/change';
import { reading, type Db } from '../db/connect';

const dated = (at: string | null): Date | null => (at === null ? null : new Date(at));

/** Refuses a batch that is closed or put away, before anything is reckoned for a change of it. */
export const mustTakeChanges = ({ closedAt, closedBy, awayAt }: BatchDocument): void =>
  refuseWhenClosed({ at: dated(closedAt), by: closedBy }, { at: dated(awayAt), by: null });

/**
 * A batch that is about to be changed, with the stamp of all that it is reckoned from, in one view of the
 * database. Refuses a batch that is closed or put away.
 */
export const stamped = async (db: Db, id: string): Promise<{ stamp: string; batch: BatchDocument }> => {
  const found = await reading(db, async (trx) => ({ stamp: await stampOf(trx, id), batch: await loadWhole(trx, id) }));
  mustTakeChanges(found.batch);
  return found;
};
