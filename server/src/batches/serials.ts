import { sql } from 'kysely';
import type { BatchDocument } from '@bistre/contract';
import type { Trx } from '../db/connect';

/** Numbers that the pieces of a batch have now, by roster line: of a scrapped blank the next one’s. */
export const serialsOf = async (trx: Trx, batchId: string): Promise<BatchDocument['serials']> => {
  const { rows } = await sql<{ contentId: string; ordinals: number[]; numbers: number[] }>`
    select content_id as "contentId", array_agg(ordinal order by ordinal) as ordinals,
      array_agg(number::float8 order by ordinal) as numbers
    from serial_numbers s
    where batch_id = ${batchId} and attempt = (select count(*) from pieces p
      where p.batch_id = s.batch_id and p.ordinal = s.ordinal and p.state = 'scrap')
    group by content_id order by content_id`.execute(trx);
  return rows.map(({ contentId, ordinals, numbers }) => {
    const by = new Map(ordinals.map((o, i) => [o, numbers[i]!]));
    return { contentId, numbers: Array.from({ length: Math.max(...ordinals) }, (_, i) => by.get(i + 1) ?? null) };
  });
};
