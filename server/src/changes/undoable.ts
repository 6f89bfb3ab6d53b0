import type { Undoable } from '@bistre/contract';
import type { Trx } from '../db/connect';

/** The latest change of a batch, or of a thing of the Shelf, that can be taken back. */
export const latestUndoable = async (
  trx: Trx,
  of: 'batch_id' | 'subject_id',
  id: string,
): Promise<(Omit<Undoable, 'at'> & { at: Date }) | null> => {
  let query = trx
    .selectFrom('events')
    .select(['id as event', 'summary', 'by', 'at'])
    .where(of, '=', id)
    .where('undo', 'is not', null)
    .where('undone_at', 'is', null)
    .orderBy('id', 'desc')
    .limit(1);
  if (of === 'subject_id') query = query.where('kind', '=', 'shelf');
  return (await query.executeTakeFirst()) ?? null;
};
