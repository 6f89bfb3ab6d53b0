import pg from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { migrate, SCHEMAS } from '../db/connect';
import { BadBackup, FORMAT, headerOf, readBackup, type Footer, type Header, type TableHead } from './format';
import { copyOut, quoted } from './write';

/** Where data are laid and proved before they take the place of what there is. */
const ASIDE = 'bistre_restoring';

/** Reads a backup to its end and says what it is; refuses a damaged one and one of a newer release by name. */
export const checkBackup = async (file: string): Promise<{ header: Header; footer: Footer }> => {
  const header = await headerOf(file);
  if (header.format > FORMAT || !SCHEMAS.includes(header.schema))
    throw new BadBackup(
      `${file} was written by a newer release of Bistre (${header.schema}; this one knows up to ${SCHEMAS.at(-1)}). Nothing was changed.`,
    );
  return { header, footer: await readBackup(file) };
};

const connected = async (url: string): Promise<pg.Client> => {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 10_000 });
  client.on('error', () => undefined);
  await client.connect();
  return client;
};

/** Fills the tables aside from the file. */
const fill = async (client: pg.Client, file: string): Promise<TableHead[]> => {
  const heads: TableHead[] = [];
  let stream: ReturnType<typeof copyFrom> | null = null;
  let broken: Error | null = null;
  await readBackup(file, {
    table: (head) => {
      heads.push(head);
      stream = client.query(
        copyFrom(`copy ${quoted(ASIDE)}.${quoted(head.table)} (${head.columns.map(quoted).join(', ')}) from stdin`),
      );
      stream.on('error', (error) => (broken = error));
      return Promise.resolve();
    },
    rows: async (rows) => {
      if (broken) throw broken;
      if (!stream!.write(rows)) await new Promise((done) => stream!.once('drain', done).once('error', done));
    },
    tableEnd: async () => {
      if (broken) throw broken;
      const ending = stream!;
      await new Promise<void>((done, fail) => {
        ending.once('finish', () => done());
        ending.once('error', fail);
        ending.end();
      });
    },
  });
  return heads;
};

/** Lets numbers that count themselves go on after the highest there is. */
const goOnCounting = async (client: pg.Client): Promise<void> => {
  const { rows } = await client.query<{ table: string; column: string; sequence: string }>(
    `select c.relname as table, a.attname as column, pg_get_serial_sequence(format('%I.%I', n.nspname, c.relname), a.attname) as sequence
     from pg_class c join pg_namespace n on n.oid = c.relnamespace join pg_attribute a on a.attrelid = c.oid
     where n.nspname = $1 and c.relkind = 'r' and a.attnum > 0 and not a.attisdropped
       and pg_get_serial_sequence(format('%I.%I', n.nspname, c.relname), a.attname) is not null`,
    [ASIDE],
  );
  for (const { table, column, sequence } of rows)
    await client.query(
      `select setval($1, coalesce((select max(${quoted(column)}) from ${quoted(ASIDE)}.${quoted(table)}), 0) + 1, false)`,
      [sequence],
    );
};

/** Copies what was laid aside out again and compares it, row by row, with what the file says. */
const prove = async (client: pg.Client, heads: readonly TableHead[], { tables }: Footer): Promise<void> => {
  for (const head of heads) {
    const found = await copyOut(client, ASIDE, head);
    const meant = tables[head.table];
    if (found.rows !== meant?.rows || found.sha256 !== meant.sha256)
      throw new Error(`${head.table} came back otherwise than it was saved; what was there before stays`);
  }
};

/**
 * Puts a backup in the place of a database's data. It is laid beside them, compared with the file row by row,
 * and brought to this release's shape first; only then do the two change places, at once. Whatever fails
 * before leaves everything as it was.
 *
 * @returns the rows by table, and the migrations that brought them to this release
 * @throws BadBackup when the file is damaged or newer
 */
export const restoreBackup = async (
  url: string,
  file: string,
): Promise<{ rows: Readonly<Record<string, number>>; migrated: readonly string[] }> => {
  const { header, footer } = await checkBackup(file);
  const client = await connected(url);
  try {
    await client.query(`drop schema if exists ${ASIDE} cascade`);
    await client.query(`create schema ${ASIDE}`);
    await migrate(url, header.schema, ASIDE);
    const heads = await fill(client, file);
    await goOnCounting(client);
    await prove(client, heads, footer);
    const migrated = await migrate(url, undefined, ASIDE);
    await client.query('begin');
    await client.query('drop schema if exists public cascade');
    await client.query(`alter schema ${ASIDE} rename to public`);
    await client.query('commit');
    return {
      rows: Object.fromEntries(Object.entries(footer.tables).map(([table, { rows }]) => [table, rows])),
      migrated,
    };
  } catch (error) {
    await client.query('rollback').catch(() => undefined);
    await client.query(`drop schema if exists ${ASIDE} cascade`).catch(() => undefined);
    throw error;
  } finally {
    await client.end().catch(() => undefined);
  }
};
