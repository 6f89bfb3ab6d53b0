import { sql } from 'kysely';
import type { Trx } from '../db/connect';
import { SCHEMAS } from '../db/connect';
import { notFound } from '../http/problem';
import { BYTES, FORMAT, NUMBERED, OF_BATCH, OF_THINGS, ORDER, TABLES, THINGS, UUIDS, type Job, type JobTable, type Row, type Rows } from './tables'; // prettier-ignore

/** Rows of a table as JSON, in their order; columns of bytes and those that the database numbers are left out. */
const rowsOf = async (trx: Trx, table: JobTable, where: ReturnType<typeof sql<boolean>>): Promise<Row[]> => {
  const without = [...Object.keys(BYTES[table] ?? {}), ...(NUMBERED[table] ? [NUMBERED[table]] : [])];
  const order = ORDER[table];
  const { rows } = await sql<{ row: Row }>`
    select to_jsonb(t) - ${without}::text[] as row from ${sql.table(table)} t where ${where}
      order by ${sql.raw(order ?? 'id')}`.execute(trx);
  return rows.map((r) => r.row);
};

/** What is kept of a batch alone; rings and feeds that a drive or feeder was found by count as this batch’s. */
const rowsOfBatch = async (trx: Trx, batch: Row): Promise<Partial<Record<JobTable, Row[]>>> => {
  const id = batch['id'] as string;
  const { choice } = (batch['setup'] as { held: { choice: { driveId?: string | null; feederId?: string | null } } })
    .held;
  const also: Partial<Record<JobTable, ReturnType<typeof sql<boolean>>>> = {
    rings: sql<boolean>`(t.drive_id = ${choice.driveId ?? null} and t.blank_id = ${batch['blank_id'] as string})`,
    feed_readings: sql<boolean>`t.feeder_id = ${choice.feederId ?? null}`,
  };
  const out: Partial<Record<JobTable, Row[]>> = {};
  for (const table of OF_BATCH) {
    const own = sql<boolean>`t.batch_id = ${id}`;
    const where = also[table] ? sql<boolean>`(${own} or ${also[table]})` : own;
    const rows = await rowsOf(trx, table, where);
    // That this very file was written is no part of it.
    const kept = rows.filter((row) => (row['detail'] as { file?: string } | undefined)?.file !== 'job.zip');
    out[table] = kept.map((row) => ({ ...row, batch_id: id }));
  }
  return out;
};

const idsIn = (rows: unknown): string[] => JSON.stringify(rows).match(UUIDS) ?? [];

/**
 * A batch with everything it is made of: its own rows, and every thing of the Shelf, picture and photograph that they
 * name, and that those name in turn.
 *
 * @throws HttpProblem 404 where there is no such batch
 */
export const gatherJob = async (trx: Trx, batchId: string, steps: readonly string[]): Promise<Job> => {
  // Times are the same text wherever they are written.
  await sql`set local time zone 'UTC'`.execute(trx);
  const [batch] = await rowsOf(trx, 'batches', sql<boolean>`t.id = ${batchId}`);
  if (!batch) throw notFound('This batch');
  const found: Record<JobTable, Row[]> = { ...(Object.fromEntries(TABLES.map((t) => [t, []])) as unknown as Record<JobTable, Row[]>), batches: [batch], ...(await rowsOfBatch(trx, batch)) }; // prettier-ignore
  const seen = new Set<string>();
  let fresh = new Set([...idsIn(found), ...steps]);
  while (fresh.size > 0) {
    const ids = [...fresh];
    for (const id of ids) seen.add(id);
    const came: Row[] = [];
    // A revision of a board is named by its own name; its fixture comes with all of them.
    const boards = await rowsOf(trx, 'fixture_revisions', sql<boolean>`t.id = any(${ids}::uuid[])`);
    const all = [...ids, ...boards.map((b) => b['fixture_id'] as string)];
    for (const table of THINGS) {
      const have = new Set(found[table].map((r) => r['id']));
      const rows = await rowsOf(trx, table, sql<boolean>`t.id = any(${all}::uuid[])`);
      const more = rows.filter((r) => !have.has(r['id']));
      found[table].push(...more);
      came.push(...more);
    }
    for (const [table, column] of Object.entries(OF_THINGS) as [keyof typeof OF_THINGS, string][]) {
      const of = found[`${column.replace('_id', '')}s` as JobTable];
      const owners = of.map((r) => r['id'] as string);
      found[table] = await rowsOf(trx, table, sql<boolean>`${sql.ref(`t.${column}`)} = any(${owners}::uuid[])`);
    }
    fresh = new Set([...idsIn(came), ...idsIn(found.fixture_revisions), ...idsIn(found.artwork_revisions)].filter((id) => !seen.has(id))); // prettier-ignore
  }
  for (const table of THINGS) found[table].sort((a, b) => ((a['id'] as string) < (b['id'] as string) ? -1 : 1));
  const rows = Object.fromEntries(TABLES.map((t) => [t, found[t]])) as unknown as Rows;
  return { bistre: 'job', format: FORMAT, schema: SCHEMAS.at(-1)!, batch: batchId, rows };
};

/** Where the bytes of a row stand in the file; paths say what they are of. */
export const bytesPath = (table: JobTable, row: Row, column: string): string => {
  const ending = BYTES[table]![column]!;
  if (table !== 'artwork_revisions') return `${table}/${row['id'] as string}.${ending}`;
  const own = /\.([A-Za-z0-9]{1,5})$/.exec(row['file_name'] as string)?.[1]?.toLowerCase() ?? 'bin';
  return `art/${row['artwork_id'] as string}-r${row['number'] as number}.${column === 'file' ? own : ending}`;
};

/** The bytes of a job’s rows, by path. */
export const bytesOf = async (trx: Trx, { rows }: Job): Promise<Map<string, Buffer>> => {
  const out = new Map<string, Buffer>();
  for (const [table, columns] of Object.entries(BYTES) as [JobTable, Record<string, string>][])
    for (const row of rows[table])
      for (const column of Object.keys(columns)) {
        const own = table === 'artwork_revisions' ? sql<boolean>`artwork_id = ${row['artwork_id'] as string} and number = ${row['number'] as number}` : sql<boolean>`id = ${row['id'] as string}`; // prettier-ignore
        const { rows: found } = await sql<{ bytes: Buffer }>`select ${sql.ref(column)} as bytes from ${sql.table(table)} where ${own}`.execute(trx); // prettier-ignore
        out.set(bytesPath(table, row, column), found[0]!.bytes);
      }
  return out;
};
