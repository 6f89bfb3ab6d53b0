import pg from 'pg';
import { Kysely, Migrator, PostgresDialect, type Transaction } from 'kysely';
import { migrations } from './migrations';
import type { Database } from './schema';

pg.types.setTypeParser(pg.types.builtins.INT8, Number);

export type Db = Kysely<Database>;
export type Trx = Transaction<Database>;

/** How long PostgreSQL may take over one statement, wait for a lock, and leave a transaction idle, ms. */
const LIMITS = { statement: 30_000, lock: 10_000, idle: 60_000, connect: 5_000 } as const;

/** What a pool's statements are limited to; a migration may take as long as it needs. */
type Limits = 'limited' | 'reading' | 'unlimited';

const OPTIONS: Readonly<Record<Limits, string>> = {
  limited: `-c statement_timeout=${LIMITS.statement} -c lock_timeout=${LIMITS.lock} -c idle_in_transaction_session_timeout=${LIMITS.idle}`,
  reading: `-c statement_timeout=${LIMITS.statement} -c default_transaction_read_only=on`,
  unlimited: '',
};

/**
 * A pool to one PostgreSQL database. A connection that breaks, at rest or while it is used, is replaced and never
 * fatal.
 *
 * @param schema the schema whose tables are meant, where it is not the usual one
 */
export const connect = (url: string, max = 10, limits: Limits = 'limited', schema?: string): Db => {
  const pool = new pg.Pool({
    connectionString: url,
    max,
    connectionTimeoutMillis: LIMITS.connect,
    keepAlive: true,
    options: `${OPTIONS[limits]}${schema ? ` -c search_path=${schema}` : ''}`.trim(),
  });
  pool.on('error', () => undefined);
  pool.on('connect', (client) => void client.on('error', () => undefined));
  return new Kysely<Database>({ dialect: new PostgresDialect({ pool }) });
};

/** A small pool that PostgreSQL itself lets only read. */
export const connectToRead = (url: string): Db => connect(url, 2, 'reading');

/** One view of the database for several questions; nothing can be written in it. */
export const reading = <T>(db: Db, job: (trx: Trx) => Promise<T>): Promise<T> =>
  db.transaction().setIsolationLevel('repeatable read').setAccessMode('read only').execute(job);

/** The names of this release's migrations, in order. */
export const SCHEMAS = Object.keys(migrations).sort();

/**
 * Brings a database to this release's shape, or to an earlier one's.
 *
 * @param to name of the last migration that is wanted; the newest when left out
 * @returns the migrations that were applied
 * @throws Error when a step fails; nothing of it stays
 */
export const migrate = async (url: string, to?: string, schema = 'public'): Promise<string[]> => {
  const db = connect(url, 1, 'unlimited', schema);
  try {
    const migrator = new Migrator({
      db,
      provider: { getMigrations: () => Promise.resolve({ ...migrations }) },
      migrationTableSchema: schema,
    });
    const { error, results } = await (to ? migrator.migrateTo(to) : migrator.migrateToLatest());
    if (error) throw error instanceof Error ? error : new Error('the database could not be migrated', { cause: error });
    return (results ?? []).map((r) => r.migrationName);
  } finally {
    await db.destroy();
  }
};
