import { sql } from 'kysely';
import type { Setup } from '@bistre/contract';
import { serialText } from '@bistre/core';
import type { Trx } from '../db/connect';
import { refused } from '../http/problem';

type Serial = Extract<NonNullable<Setup['contents']>[number], { kind: 'serial' }>;

const serialsIn = ({ contents }: Pick<Setup, 'contents'>): readonly Serial[] =>
  (contents ?? []).filter((c) => c.kind === 'serial');

/** A piece that needs a number: its roster line, and how many blanks were scrapped for it. */
interface Needs {
  readonly ordinal: number;
  readonly attempt: number;
}

/** Pieces of a batch that are not done, and have no number of a content yet. */
const withoutNumber = async (trx: Trx, batchId: string, contentId: string, quantity: number): Promise<Needs[]> => {
  const { rows } = await sql<Needs>`
    with so_far as (
      select n.ordinal, count(p.id) filter (where p.state = 'scrap')::int as attempt,
        count(p.id) filter (where p.state = 'done') as done
      from generate_series(1, ${quantity}::int) as n (ordinal)
        left join pieces p on p.batch_id = ${batchId} and p.ordinal = n.ordinal
      group by n.ordinal)
    select s.ordinal, s.attempt from so_far s
    where s.done = 0 and not exists (select from serial_numbers k
      where k.batch_id = ${batchId} and k.content_id = ${contentId} and k.ordinal = s.ordinal and k.attempt = s.attempt)
    order by s.ordinal`.execute(trx);
  return rows;
};

const highest = async (
  trx: Trx,
  prefix: string,
  own?: { batchId: string; contentId: string },
): Promise<number | null> => {
  const row = await trx
    .selectFrom('serial_numbers')
    .select((e) => e.fn.max('number').as('n'))
    .where('prefix', '=', prefix)
    .$if(own !== undefined, (q) => q.where('batch_id', '=', own!.batchId).where('content_id', '=', own!.contentId))
    .executeTakeFirst();
  return row?.n === null || row?.n === undefined ? null : Number(row.n);
};

/** Which numbers of a prefix from one on are given already, and to what batch. */
const given = async (trx: Trx, prefix: string, from: number): Promise<ReadonlyMap<number, string>> => {
  const rows = await trx
    .selectFrom('serial_numbers as s')
    .innerJoin('batches as b', 'b.id', 's.batch_id')
    .select(['s.number', 'b.name'])
    .where('s.prefix', '=', prefix)
    .where('s.number', '>=', from)
    .execute();
  return new Map(rows.map((r) => [Number(r.number), r.name]));
};

/** The numbers that pieces get next, one step apart; refused where a person said where to begin and one of them is given. */
const nextNumbers = async (trx: Trx, batchId: string, serial: Serial, count: number): Promise<number[]> => {
  const { prefix, step, first } = serial;
  const own = await highest(trx, prefix, { batchId, contentId: serial.id });
  const last = own ?? (await highest(trx, prefix));
  const from = own === null && (first ?? null) !== null ? first! : last === null ? 1 : last + step;
  const taken = await given(trx, prefix, from);
  const out: number[] = [];
  for (let n = from; out.length < count; n += step) {
    const by = taken.get(n);
    if (by === undefined) out.push(n);
    else if (own === null)
      throw refused(
        {
          code: 'serial-given',
          message: `${serialText(serial, n)} was given to a piece of ${by}. The next free one is ${serialText(serial, (await highest(trx, prefix))! + step)}.`,
          field: 'contents',
        },
        409,
      );
  }
  return out;
};

/** Numbers whose content is gone, or of another prefix now: free again where no piece was ever laid on with them. */
const dropGone = async (trx: Trx, batchId: string, serials: readonly Serial[]): Promise<void> => {
  const kept = await trx
    .selectFrom('serial_numbers')
    .select(['content_id', 'prefix'])
    .select((e) => e.fn.count('used_at').as('used'))
    .where('batch_id', '=', batchId)
    .groupBy(['content_id', 'prefix'])
    .execute();
  for (const { content_id, prefix, used } of kept) {
    const now = serials.find((s) => s.id === content_id);
    if (now?.prefix === prefix) continue;
    if (now && Number(used) > 0)
      throw refused({ code: 'serial-used', message: `Pieces with ${prefix || 'such'} numbers were laid on already. Take this number out, and put in a new one.`, field: 'contents' }, 409); // prettier-ignore
    await trx
      .deleteFrom('serial_numbers')
      .where('batch_id', '=', batchId)
      .where('content_id', '=', content_id)
      .where('used_at', 'is', null)
      .execute();
  }
};

/**
 * Gives every piece of a batch that is still to be burned its serial numbers, and frees those that are not wanted any more.
 * Whatever changes how many there are, what is scrapped or what zones carry calls it, in the same transaction.
 */
export const giveSerials = async (trx: Trx, batchId: string): Promise<void> => {
  const { setup, quantity } = await trx
    .selectFrom('batches')
    .select(['setup', 'quantity'])
    .where('id', '=', batchId)
    .executeTakeFirstOrThrow();
  const serials = serialsIn(setup);
  // One at a time for a prefix, in one order for all.
  for (const prefix of [...new Set(serials.map((s) => s.prefix))].sort())
    await sql`select pg_advisory_xact_lock(hashtextextended(${`serial ${prefix}`}, 0))`.execute(trx);
  await dropGone(trx, batchId, serials);
  for (const serial of serials) {
    const needs = await withoutNumber(trx, batchId, serial.id, quantity);
    if (needs.length === 0) continue;
    const numbers = await nextNumbers(trx, batchId, serial, needs.length);
    await sql`
      insert into serial_numbers (prefix, number, batch_id, content_id, ordinal, attempt)
      select ${serial.prefix}, n, ${batchId}, ${serial.id}, o, a
      from unnest(${numbers}::bigint[], ${needs.map((n) => n.ordinal)}::int[], ${needs.map((n) => n.attempt)}::int[]) as x (n, o, a)`.execute(
      trx,
    );
  }
};

/**
 * Numbers of pieces that are laid on: they may be on a blank from now on, and are never given again.
 * @returns those of the load, as they read on the pieces
 */
export const useSerials = async (trx: Trx, batchId: string): Promise<readonly string[]> => {
  await sql`
    update serial_numbers s set used_at = now() where s.batch_id = ${batchId} and s.used_at is null
      and exists (select from pieces p where p.batch_id = s.batch_id and p.ordinal = s.ordinal and p.state = 'loaded')
      and s.attempt = (select count(*) from pieces p where p.batch_id = s.batch_id and p.ordinal = s.ordinal and p.state = 'scrap')`.execute(
    trx,
  );
  const { setup } = await trx.selectFrom('batches').select('setup').where('id', '=', batchId).executeTakeFirstOrThrow();
  const { rows } = await sql<{ content_id: string; number: string }>`
    select s.content_id, s.number from serial_numbers s join pieces p on p.batch_id = s.batch_id and p.ordinal = s.ordinal
    where s.batch_id = ${batchId} and p.state = 'loaded'
      and s.attempt = (select count(*) from pieces q where q.batch_id = s.batch_id and q.ordinal = s.ordinal and q.state = 'scrap')
    order by s.content_id, p.slot`.execute(trx);
  const by = new Map(serialsIn(setup).map((serial) => [serial.id, serial]));
  return rows.flatMap((r) => (by.has(r.content_id) ? [serialText(by.get(r.content_id)!, Number(r.number))] : []));
};
