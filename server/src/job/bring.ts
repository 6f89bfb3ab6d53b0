import { sql } from 'kysely';
import { batchDocument, type JobChoices, type JobRead } from '@bistre/contract';
import { listed } from '@bistre/core';
import { loadBatch } from '../batches';
import { record } from '../changes/change';
import type { Trx } from '../db/connect';
import { refused } from '../http/problem';
import { bytesPath } from './gather';
import { planJob } from './plan';
import type { ReadJob } from './read';
import { BYTES, TABLES, type JobTable, type Row } from './tables';

/** A row with its bytes, which stand beside it in the file under its identifier there. */
const withBytes = (table: JobTable, row: Row, there: Row, files: ReadJob['files']): Row => {
  const columns = Object.keys(BYTES[table] ?? {});
  if (columns.length === 0) return row;
  return {
    ...row,
    ...Object.fromEntries(
      columns.map((column) => {
        const bytes = files.get(bytesPath(table, there, column));
        if (!bytes) throw refused({ code: 'bad-job', message: `${bytesPath(table, there, column)} is missing in the file. Nothing was changed.`, field: 'file' }); // prettier-ignore
        return [column, `\\x${Buffer.from(bytes).toString('hex')}`];
      }),
    ),
  };
};

/** Rows as they are sent at once: a statement of them stays small. */
const AT_ONCE = 2_000;

/** Rows that the database does not take, as a fault of the file: columns there are not, values out of their range. */
const kept = async (table: JobTable, writing: Promise<unknown>): Promise<void> => {
  try {
    await writing;
  } catch (error) {
    // Classes 22, 23 and 42 of SQLSTATE: data, constraints, names [PostgreSQL, Appendix A].
    if (!/^(22|23|42)/.test((error as { code?: string }).code ?? '')) throw error;
    throw refused({ code: 'bad-job', message: `The file is damaged: its ${table.replaceAll('_', ' ')} cannot be kept (${(error as Error).message}). Nothing was changed.`, field: 'file' }); // prettier-ignore
  }
};

const insert = async (trx: Trx, table: JobTable, rows: readonly Row[]): Promise<void> => {
  for (let at = 0; at < rows.length; at += AT_ONCE) {
    const part = rows.slice(at, at + AT_ONCE);
    const columns = sql.join(Object.keys(part[0]!).map((c) => sql.ref(c)));
    await kept(
      table,
      sql`insert into ${sql.table(table)} (${columns})
      select ${columns} from jsonb_populate_recordset(null::${sql.table(table)}, ${JSON.stringify(part)}::jsonb)
      on conflict do nothing`.execute(trx),
    );
  }
};

/** A serial number is there once in a shop: those that are given here already are named. */
const numbersFree = async (trx: Trx, rows: readonly Row[]): Promise<void> => {
  if (rows.length === 0) return;
  const { rows: taken } = await sql<{ number: string; prefix: string; name: string }>`
    select s.prefix, s.number, b.name from serial_numbers s join batches b on b.id = s.batch_id
      join jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as x(prefix text, number bigint) on x.prefix = s.prefix and x.number = s.number
      limit 5`.execute(trx);
  if (taken.length > 0)
    throw refused({
      code: 'numbers-taken',
      message: `Serial numbers of this job are given here already: ${listed(taken.map((t) => `${t.prefix}${t.number} to ${t.name}`))}. A number is given once; nothing was changed.`,
      field: 'file',
    });
};

/**
 * Reads a job in: all of it or nothing. What is here already is used as it is, what is new comes in, and what was asked
 * goes by the answers.
 *
 * @throws HttpProblem 422 while something that differs is not answered, a number is taken, or the rows are no batch
 */
export const bringJob = async (
  trx: Trx,
  name: string,
  { job, files }: ReadJob,
  choices: JobChoices,
  by: string,
): Promise<JobRead> => {
  const { plan, rows, ids } = await planJob(trx, job, choices);
  const open = [...plan.things.filter((t) => t.choices.length > 0 && t.choice === null).map((t) => t.name), ...(plan.batch.state === 'differs' && !plan.batch.choice ? [plan.batch.name] : [])]; // prettier-ignore
  if (open.length > 0)
    throw refused({ code: 'job-asks', message: `Say first what is done with ${listed(open)}: it is here otherwise. Nothing was changed.`, field: 'choices' }); // prettier-ignore
  const id = ids.get(plan.batch.id) ?? plan.batch.id;
  if (plan.batch.state === 'same') return { id, name: plan.batch.name, already: true };
  await numbersFree(trx, rows.serial_numbers ?? []);
  const back = new Map([...ids].map(([there, here]) => [here, there]));
  for (const table of TABLES) {
    const there = (row: Row): Row => ({ ...row, ...('id' in row ? { id: back.get(row['id'] as string) ?? row['id'] } : {}), ...('artwork_id' in row ? { artwork_id: back.get(row['artwork_id'] as string) ?? row['artwork_id'] } : {}) }); // prettier-ignore
    await insert(
      trx,
      table,
      (rows[table] ?? []).map((row) => withBytes(table, row, there(row), files)),
    );
  }
  const { error } = batchDocument.safeParse(await loadBatch(trx, id));
  if (error)
    throw refused({ code: 'bad-job', message: `${name} is no batch that can be shown: ${error.issues[0]?.path.join('.') ?? ''} ${error.issues[0]?.message ?? ''}. Nothing was changed.`, field: 'file' }); // prettier-ignore
  // Of the shop, not of the batch: its own log is as it came.
  await record(trx, { by, kind: 'batch', batchId: null, summary: `Job read in: ${plan.batch.name}, from ${name}` });
  return { id, name: (rows.batches![0]!['name'] as string) ?? plan.batch.name, already: false };
};
