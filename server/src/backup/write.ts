import { createHash, type Hash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { open, rename, rm } from 'node:fs/promises';
import { finished } from 'node:stream/promises';
import { createGzip, type Gzip } from 'node:zlib';
import pg from 'pg';
import { to as copyTo } from 'pg-copy-streams';
import { FORMAT, type Footer, type Header, type TableHead } from './format';

/** Tables of the migrations themselves: they are made anew, not copied. */
const OWN = ['kysely_migration', 'kysely_migration_lock'];

export const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;

/** The tables of a schema, each after those that it refers to. */
const tablesInOrder = async (client: pg.Client, schema: string): Promise<string[]> => {
  const { rows: tables } = await client.query<{ name: string }>(
    `select c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
     where n.nspname = $1 and c.relkind = 'r' order by c.relname`,
    [schema],
  );
  const { rows: refers } = await client.query<{ from: string; to: string }>(
    `select a.relname as from, b.relname as to from pg_constraint k
     join pg_class a on a.oid = k.conrelid join pg_class b on b.oid = k.confrelid
     join pg_namespace n on n.oid = a.relnamespace where k.contype = 'f' and n.nspname = $1 and a.oid <> b.oid`,
    [schema],
  );
  const done: string[] = [];
  let left = tables.map((t) => t.name).filter((t) => !OWN.includes(t));
  while (left.length > 0) {
    const ready = left.filter((t) => refers.every((r) => r.from !== t || done.includes(r.to)));
    if (ready.length === 0) throw new Error(`the tables ${left.join(', ')} refer to each other in a circle`);
    done.push(...ready);
    left = left.filter((t) => !ready.includes(t));
  }
  return done;
};

const columnsOf = async (client: pg.Client, schema: string, table: string): Promise<string[]> => {
  const { rows } = await client.query<{ name: string }>(
    `select column_name as name from information_schema.columns
     where table_schema = $1 and table_name = $2 and is_generated = 'NEVER' order by ordinal_position`,
    [schema, table],
  );
  return rows.map((r) => r.name);
};

/** The query whose rows stand in a backup: all columns, in the order of the primary key, so that a copy can be compared. */
const rowsOf = async (client: pg.Client, schema: string, { table, columns }: TableHead): Promise<string> => {
  const { rows } = await client.query<{ name: string }>(
    `select a.attname as name from pg_index i join pg_attribute a on a.attrelid = i.indrelid and a.attnum = any(i.indkey)
     where i.indisprimary and i.indrelid = $1::regclass order by array_position(i.indkey::int[], a.attnum::int)`,
    [`${quoted(schema)}.${quoted(table)}`],
  );
  const order = rows.length > 0 ? ` order by ${rows.map((r) => quoted(r.name)).join(', ')}` : '';
  return `copy (select ${columns.map(quoted).join(', ')} from ${quoted(schema)}.${quoted(table)}${order}) to stdout`;
};

/** Rows and checksum of a table as it stands, and its rows to whoever wants them. */
export const copyOut = async (
  client: pg.Client,
  schema: string,
  head: TableHead,
  take: (chunk: Buffer) => Promise<void> = () => Promise.resolve(),
): Promise<{ rows: number; sha256: string }> => {
  const hash = createHash('sha256');
  const stream = client.query(copyTo(await rowsOf(client, schema, head)));
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    hash.update(chunk);
    await take(chunk);
  }
  return { rows: stream.rowCount ?? 0, sha256: hash.digest('hex') };
};

const newestMigration = async (client: pg.Client, schema: string): Promise<string> => {
  const { rows } = await client.query<{ name: string }>(
    `select name from ${quoted(schema)}.kysely_migration order by name desc limit 1`,
  );
  if (!rows[0]) throw new Error('the database has no shape yet: there is nothing to back up');
  return rows[0].name;
};

/** Writes to the packed file and to the checksum of the whole. */
class Out {
  private readonly whole: Hash = createHash('sha256');
  private readonly gzip: Gzip = createGzip({ level: 6 });
  private readonly written: Promise<void>;
  private failure: Error | null = null;

  constructor(part: string) {
    const disk = createWriteStream(part, { mode: 0o600 });
    const failed = (error: Error): void => {
      this.failure ??= error;
      this.gzip.destroy();
      disk.destroy();
    };
    this.gzip.on('error', failed);
    disk.on('error', failed);
    this.written = finished(this.gzip.pipe(disk));
    // Awaited at the end; said before that by whatever is put next.
    this.written.catch(failed);
  }

  async put(bytes: Buffer | string): Promise<void> {
    this.whole.update(bytes);
    if (!this.failure && !this.gzip.write(bytes))
      await new Promise<void>((done) => {
        const go = (): void => {
          this.gzip.off('drain', go).off('close', go);
          done();
        };
        this.gzip.on('drain', go).on('close', go);
      });
    if (this.failure) throw this.failure;
  }

  digest(): string {
    return this.whole.digest('hex');
  }

  /** Ends the file; resolves when everything is written. */
  async end(bytes: string): Promise<void> {
    this.gzip.end(bytes);
    await this.written.catch(() => undefined);
    if (this.failure) throw this.failure;
  }

  giveUp(): void {
    this.gzip.destroy();
  }
}

/**
 * Writes everything in a database into one packed file, as it stands at one moment while work goes on. The file
 * is there under its name only when it is whole and on the disk.
 *
 * @returns what its end says: rows and checksums by table
 */
export const writeBackup = async (
  url: string,
  file: string,
  { schema = 'public', now = new Date() }: { schema?: string; now?: Date } = {},
): Promise<Footer> => {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 10_000 });
  client.on('error', () => undefined);
  await client.connect();
  const part = `${file}.part`;
  const out = new Out(part);
  try {
    await client.query('begin isolation level repeatable read read only');
    const tables = await tablesInOrder(client, schema);
    const header: Header = {
      bistre: 'backup',
      format: FORMAT,
      schema: await newestMigration(client, schema),
      at: now.toISOString(),
      tables,
    };
    await out.put(`${JSON.stringify(header)}\n`);
    const ends: Record<string, { rows: number; sha256: string }> = {};
    for (const table of tables) {
      const head: TableHead = { table, columns: await columnsOf(client, schema, table) };
      await out.put(`${JSON.stringify(head)}\n`);
      ends[table] = await copyOut(client, schema, head, (chunk) => out.put(chunk));
      await out.put('\\.\n');
    }
    const footer: Footer = { end: true, tables: ends, sha256: out.digest() };
    await out.end(`${JSON.stringify(footer)}\n`);
    const handle = await open(part, 'r');
    await handle.sync();
    await handle.close();
    await rename(part, file);
    return footer;
  } catch (error) {
    out.giveUp();
    await rm(part, { force: true });
    throw error;
  } finally {
    await client.end().catch(() => undefined);
  }
};
