import pg from 'pg';
import { Kysely, Migrator, PostgresDialect, type Transaction } from 'kysely';
import { migrations } from './migrations';
import type { Database } from './schema';

pg.types.setTypeParser(pg.types.builtins.INT8, Number);

export type Db = Kysely<Database>;
export type Trx = Transaction<Database>;

/** A pool to one PostgreSQL database. A connection that breaks is replaced, not fatal. */
export const connect = (url: string): Db => {
  const pool = new pg.Pool({ connectionString: url, max: 10 });
  pool.on('error', () => undefined);
  return new Kysely<Database>({ dialect: new PostgresDialect({ pool }) });
};

/** Brings the database to this release's shape. Throws when a step fails. */
export const migrate = async (db: Db): Promise<string[]> => {
  const migrator = new Migrator({ db, provider: { getMigrations: () => Promise.resolve({ ...migrations }) } });
  const { error, results } = await migrator.migrateToLatest();
  if (error) throw error instanceof Error ? error : new Error('the database could not be migrated', { cause: error });
  return (results ?? []).map((r) => r.migrationName);
};
