import type { BatchRow } from '@bistre/contract';
import { stampsOf } from './batches';
import type { Db } from './db/connect';
import type { Workers } from './work/pool';

const MOST_KEPT = 500;
const kept = new Map<string, { key: string; row: BatchRow }>();

/**
 * Lines of the Board. A line is kept while what it was reckoned from stays as it is, for that day, since
 * calibrations grow stale by days; the others are reckoned in a thread.
 */
export const boardRows = async (db: Db, ids: readonly string[], reckon: Workers['reckon']): Promise<BatchRow[]> => {
  const today = new Date().toDateString();
  const keys = new Map([...(await stampsOf(db, ids))].map(([id, stamp]) => [id, `${today} ${stamp}`]));
  const missing = ids.filter((id) => kept.get(id)?.key !== keys.get(id));
  for (const row of missing.length > 0 ? await reckon('boardRows', missing) : []) {
    if (kept.size >= MOST_KEPT) kept.delete(kept.keys().next().value!);
    kept.set(row.id, { key: keys.get(row.id)!, row });
  }
  return ids.flatMap((id) => kept.get(id)?.row ?? []);
};
