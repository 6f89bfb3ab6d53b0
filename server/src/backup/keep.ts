import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Logger } from 'pino';
import pg from 'pg';
import { SCHEMAS } from '../db/connect';
import { writeBackup } from './write';

/** How many daily copies are kept, and how old the last may become, ms. */
const DAILY = { kept: 14, every: 86_400_000 } as const;
/** How often it is looked whether a day has gone, ms. */
const LOOK_EVERY = 900_000;

const stamp = (at: Date): string => at.toISOString().slice(0, 19).replaceAll(':', '');

/** A name for a backup: what for, when, and the shape of its data. */
export const backupName = (what: 'daily' | 'before' | 'replaced' | 'bistre', at: Date): string =>
  `${what}-${stamp(at)}.backup.gz`;

/** Copies of a kind in a folder, oldest first. */
export const backupsOf = async (folder: string, what: 'daily' | 'before' | 'replaced'): Promise<string[]> =>
  (await readdir(folder).catch(() => []))
    .filter((f) => f.startsWith(`${what}-`) && f.endsWith('.backup.gz'))
    .sort()
    .map((f) => join(folder, f));

/** The migrations that a database has had; none when it is empty. */
const appliedIn = async (url: string): Promise<string[]> => {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 10_000 });
  client.on('error', () => undefined);
  await client.connect();
  try {
    const { rows } = await client.query<{ there: boolean }>(
      `select to_regclass('public.kysely_migration') is not null as there`,
    );
    if (!rows[0]?.there) return [];
    return (await client.query<{ name: string }>('select name from public.kysely_migration order by name')).rows.map(
      (r) => r.name,
    );
  } finally {
    await client.end();
  }
};

/**
 * Copies the data before migrations change their shape. The copy stays until the next release makes its own.
 *
 * @returns the file; null when nothing changes or there is nothing yet
 * @throws Error when the data are of a newer release: this one would not know them
 */
export const backupBeforeMigration = async (url: string, folder: string, now = new Date()): Promise<string | null> => {
  const applied = await appliedIn(url);
  const newer = applied.filter((name) => !SCHEMAS.includes(name));
  if (newer.length > 0)
    throw new Error(
      `the data were made by a newer release of Bistre (${newer.at(-1)}). Start that release, or restore an older copy with npm run restore`,
    );
  if (applied.length === 0 || applied.length === SCHEMAS.length) return null;
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const file = join(folder, backupName('before', now));
  await writeBackup(url, file, { now });
  for (const old of await backupsOf(folder, 'before')) if (old !== file) await rm(old, { force: true });
  return file;
};

/** Makes the day's copy when the last is older than a day, and keeps the last fourteen. */
export const backupDaily = async (url: string, folder: string, now = new Date()): Promise<string | null> => {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const last = (await backupsOf(folder, 'daily')).at(-1);
  if (last && now.getTime() - (await stat(last)).mtimeMs < DAILY.every) return null;
  const file = join(folder, backupName('daily', now));
  await writeBackup(url, file, { now });
  const all = await backupsOf(folder, 'daily');
  for (const old of all.slice(0, Math.max(0, all.length - DAILY.kept))) await rm(old, { force: true });
  return file;
};

/** Keeps a copy a day while the server runs, the first at once; returns what stops it. */
export const backupOften = (url: string, folder: string, log: Logger): (() => void) => {
  const look = (): void => {
    backupDaily(url, folder).catch((error: unknown) => log.error({ err: String(error) }, 'the daily copy failed'));
  };
  look();
  const timer = setInterval(look, LOOK_EVERY);
  timer.unref();
  return () => clearInterval(timer);
};
