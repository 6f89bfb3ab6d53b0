import { shownToCustomer, waitsForCustomer, type api, type BatchDocument, type BodyOf } from '@bistre/contract';
import { hashOf, loadBatch } from '../batches';
import type { Trx } from '../db/connect';
import { refused } from '../http/problem';
import { beginChange, record } from './change';

/** What a proof is drawn from: one who approves it must have seen it as it is. */
const PARTS = ['approval', 'batch', 'roster', 'lettering', 'back', 'faces', 'contents'];

/** Says whether the customer approves the proof before more than the first piece is loaded. */
export const askApproval = async (
  trx: Trx,
  batchId: string,
  { wanted, version }: BodyOf<typeof api.askApproval>,
  by: string,
): Promise<BatchDocument> => {
  const made = await beginChange(trx, batchId, by, { parts: ['approval'], version });
  const { approval } = await loadBatch(trx, batchId);
  await trx.updateTable('batches').set({ approval_wanted: wanted }).where('id', '=', batchId).execute();
  await record(trx, {
    by,
    kind: 'approval',
    batchId,
    summary: wanted ? 'Waits for the customer’s approval of the proof' : 'No approval of the customer is waited for',
    parts: ['approval'],
    version: made,
    undo: { kind: 'approval-wanted', before: approval.wanted },
  });
  return loadBatch(trx, batchId);
};

/**
 * Keeps that the customer approved the proof as it is now, with all that it shows. What somebody approved already, the same
 * one does not approve twice.
 */
export const takeApproval = async (
  trx: Trx,
  batchId: string,
  { version, signedBy, note }: BodyOf<typeof api.takeApproval>,
  by: string,
): Promise<BatchDocument> => {
  const made = await beginChange(trx, batchId, by, { parts: PARTS, version });
  const batch = await loadBatch(trx, batchId);
  const { approval } = batch;
  if (approval.given?.signedBy === signedBy && !waitsForCustomer({ ...approval, wanted: true }))
    throw refused({
      code: 'approved-already',
      message: `${approval.given.signedBy} approved this proof already, as revision ${approval.given.revision}; nothing was changed since.`,
      field: 'signedBy',
    });
  const shown = shownToCustomer(batch);
  const { id } = await trx
    .insertInto('approvals')
    .values({
      batch_id: batchId,
      revision: approval.revision,
      by,
      signed_by: signedBy,
      note,
      shown: JSON.stringify(shown),
      hash: hashOf(shown),
      removed_at: null,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await record(trx, {
    by,
    kind: 'approval',
    batchId,
    summary: `Proof revision ${approval.revision} approved by ${signedBy}${note ? `: ${note}` : ''}`,
    parts: ['approval'],
    version: made,
    undo: { kind: 'approval-taken', id },
  });
  return loadBatch(trx, batchId);
};
