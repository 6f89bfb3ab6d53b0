import { mkdir, rm } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { createInterface } from 'node:readline/promises';
import pg from 'pg';
import { backupName, backupsOf } from './keep';
import { BadBackup, type Header } from './format';
import { checkBackup, restoreBackup } from './restore';
import { writeBackup } from './write';

/** `restore FILE [--yes]`: a backup in the place of what is in DATABASE_URL, after asking. */
const url = process.env.DATABASE_URL!;
const folder = process.env.BISTRE_BACKUPS!;

/** How many batches there are; null where there is no data yet. */
const batchesIn = async (): Promise<number | null> => {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 10_000 });
  await client.connect();
  try {
    const { rows } = await client.query<{ there: boolean }>(
      `select to_regclass('public.batches') is not null as there`,
    );
    if (!rows[0]?.there) return null;
    return Number((await client.query<{ n: string }>('select count(*) as n from public.batches')).rows[0]!.n);
  } finally {
    await client.end();
  }
};

const agreed = async (header: Header, batches: number | null): Promise<boolean> => {
  if (batches === null || process.argv.includes('--yes')) return true;
  const ask = createInterface({ input: process.stdin, output: process.stdout });
  // No answer, where nobody can give one, is a no.
  const none = new Promise<string>((done) => ask.once('close', () => done('')));
  const question = ask.question(
    `The backup is of ${header.at.slice(0, 16).replace('T', ' ')} UTC. It takes the place of ${batches} batches and all that belongs to them; a copy of those is kept first. Type "restore" to go on: `,
  );
  const answer = await Promise.race([question, none]);
  ask.close();
  return answer.trim() === 'restore';
};

/** What there is, in a file of its own; earlier such files stay but for the oldest. */
const keepReplaced = async (): Promise<string> => {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const kept = join(folder, backupName('replaced', new Date()));
  await writeBackup(url, kept);
  const all = await backupsOf(folder, 'replaced');
  for (const old of all.slice(0, Math.max(0, all.length - 5))) await rm(old, { force: true });
  return kept;
};

const main = async (): Promise<number> => {
  const given = process.argv.slice(2).find((a) => !a.startsWith('--'));
  if (!given) {
    process.stderr.write('Say which file: npm run restore -- FILE\n');
    return 1;
  }
  const file = resolve(given);
  const { header } = await checkBackup(file);
  const batches = await batchesIn();
  if (!(await agreed(header, batches))) {
    process.stdout.write('Nothing was changed.\n');
    return 0;
  }
  const kept = batches === null ? null : await keepReplaced();
  const { rows, migrated } = await restoreBackup(url, file);
  process.stdout.write(
    `Restored ${rows.batches ?? 0} batches and ${rows.events ?? 0} lines of the log, compared with the file row by row.\n` +
      (migrated.length > 0 ? `Brought to this release: ${migrated.join(', ')}.\n` : '') +
      (kept ? `What was there before is in ${kept}.\n` : ''),
  );
  return 0;
};

main()
  .catch((error: unknown) => {
    process.stderr.write(
      error instanceof BadBackup
        ? `${error.message}\n`
        : `Not restored: ${(error as Error).message}. What was there before is as it was.\n`,
    );
    return 1;
  })
  .then((code) => {
    process.exitCode = code;
  });
