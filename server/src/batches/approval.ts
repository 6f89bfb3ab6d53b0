import { createHash } from 'node:crypto';
import { shownOtherwise, shownToCustomer, type BatchDocument } from '@bistre/contract';
import type { Trx } from '../db/connect';

/** Differences that a document carries; the rest are counted. */
const TOLD = 12;

/** A short name for all that a customer is shown: two that look the same have the same. */
export const hashOf = (shown: unknown): string => createHash('sha256').update(JSON.stringify(shown)).digest('hex');

/** How a batch stands with its customer: what was approved last, and what is shown otherwise since. */
export const approvalOf = async (
  trx: Trx,
  wanted: boolean,
  batch: Omit<BatchDocument, 'approval'>,
): Promise<BatchDocument['approval']> => {
  const last = await trx
    .selectFrom('approvals')
    .select(['id', 'revision', 'at', 'by', 'signed_by', 'note', 'hash'])
    .where('batch_id', '=', batch.id)
    .where('removed_at', 'is', null)
    .orderBy('revision', 'desc')
    .orderBy('at', 'desc')
    .limit(1)
    .executeTakeFirst();
  if (!last) return { wanted, revision: 1, given: null, differs: [], differences: 0 };
  const given = {
    revision: last.revision,
    at: last.at.toISOString(),
    by: last.by,
    signedBy: last.signed_by,
    note: last.note,
  };
  const now = shownToCustomer(batch);
  if (hashOf(now) === last.hash) return { wanted, revision: last.revision, given, differs: [], differences: 0 };
  const { shown } = await trx.selectFrom('approvals').select('shown').where('id', '=', last.id).executeTakeFirstOrThrow(); // prettier-ignore
  const all = shownOtherwise(shown, now);
  const revision = last.revision + (all.length > 0 ? 1 : 0);
  return { wanted, revision, given, differs: all.slice(0, TOLD), differences: all.length };
};
