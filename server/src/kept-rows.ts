import type { BatchRow } from '@bistre/contract';
import { stampsOf } from './batches';
import type { Db } from './db/connect';
import { THREADS } from './work/limits';
import type { Workers } from './work/pool';

const MOST_KEPT = 500;
const kept = new Map<string, { readonly key: string; readonly row: Promise<BatchRow | null> }>();

/** A batch's line as it was reckoned for a key, or is just being reckoned for somebody else. */
const rowOf = (id: string, key: string, reckon: Workers['reckon']): Promise<BatchRow | null> => {
  const before = kept.get(id);
  if (before?.key === key) return before.row;
  if (kept.size >= MOST_KEPT) kept.delete(kept.keys().next().value!);
  const row = reckon('boardRow', id);
  kept.set(id, { key, row });
  row.catch(() => {
    if (kept.get(id)?.row === row) kept.delete(id);
  });
  return row;
};

/**
 * Lines of the Board. A line is kept while what it was reckoned from stays as it is, for that day, since
 * calibrations grow stale by days; the others are reckoned in threads, once for all who ask.
 *
 * @param reckon not to be given up when one asker goes: others may wait for the same line
 */
export const boardRows = async (db: Db, ids: readonly string[], reckon: Workers['reckon']): Promise<BatchRow[]> => {
  const today = new Date().toDateString();
  const stamps = await stampsOf(db, ids);
  const left = ids.filter((id) => stamps.has(id));
  const rows = new Map<string, BatchRow | null>();
  const take = async (): Promise<void> => {
    for (let id = left.shift(); id !== undefined; id = left.shift())
      rows.set(id, await rowOf(id, `${today} ${stamps.get(id)!}`, reckon));
  };
  // One line at a time in each thread, so that others who wait get their turn between two.
  await Promise.all(Array.from({ length: THREADS.reckon }, take));
  return ids.flatMap((id) => rows.get(id) ?? []);
};
