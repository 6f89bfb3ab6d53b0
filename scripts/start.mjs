// npm start: from a fresh machine to a running Bistre that stays up until it is told to stop.
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { startCluster } from './lib/cluster.mjs';
import { dataFolder, lockFolder, openFolder, remember } from './lib/folder.mjs';
import { ensureBuilt, ensurePackages } from './lib/install.mjs';
import { complain, endWithNpm, refuse, root, run, say } from './lib/say.mjs';
import { freePort } from './lib/server.mjs';
import { keepRunning } from './lib/watch.mjs';

const FIRST_PORT = 4173;
const empty = process.argv.includes('--empty');
const fromBackup = process.argv.includes('--from-backup');

/** What to undo, last first, when the start fails or Bistre is stopped. */
const undo = [];
let leaving = null;
const leave = (code) =>
  (leaving ??= (async () => {
    for (const step of undo.reverse()) {
      try {
        await step();
      } catch (error) {
        complain(error);
        code = 1;
      }
    }
    process.exit(code);
  })());
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void leave(0));

/** The newest copy of a folder's backups. */
const lastBackup = (backups) => {
  const found = (existsSync(backups) ? readdirSync(backups) : [])
    // What a restore replaced is not what is wanted back.
    .filter((f) => f.endsWith('.backup.gz') && !f.startsWith('replaced-'))
    .sort((a, b) => (a.split('-').slice(1).join('-') < b.split('-').slice(1).join('-') ? -1 : 1));
  return found.length > 0
    ? join(backups, found.at(-1))
    : refuse(`There is no copy in ${backups} to bring back. Nothing was changed.`);
};

/** The folder's database; with --from-backup a new one beside it, filled from the last copy. */
const openDatabase = async () => {
  const folder = dataFolder();
  if (!fromBackup) {
    const opened = openFolder(folder);
    const lock = await lockFolder(folder);
    undo.push(lock.free);
    const cluster = await startCluster(folder, opened.cluster);
    undo.push(cluster.stop);
    return { opened, lock, cluster, url: cluster.database('bistre') };
  }
  const backups = join(folder, 'backups');
  const file = lastBackup(backups);
  const lock = await lockFolder(folder);
  undo.push(lock.free);
  const name = `postgres-${new Date().toISOString().slice(0, 19).replaceAll(/[-:T]/g, '')}`;
  const cluster = await startCluster(folder, join(folder, name));
  undo.push(cluster.stop);
  const url = cluster.database('bistre');
  ensureBuilt();
  say(`Bringing ${file} back …`);
  process.stdout.write(
    run(process.execPath, [join(root, 'server/dist/restore.mjs'), file, '--yes'], {
      env: { ...process.env, DATABASE_URL: url, BISTRE_BACKUPS: backups },
    }),
  );
  remember(folder, { cluster: name });
  say('The old database stays where it is, untouched.');
  return { opened: openFolder(folder), lock, cluster, url };
};

/** The folder's port for life, or the next free one for this time when a stranger has it. */
const portOf = async ({ folder, port }) => {
  const asked = process.env.PORT;
  if (asked && !(Number.isInteger(Number(asked)) && Number(asked) > 0 && Number(asked) < 65_536))
    refuse(`PORT is “${asked}”; it must be a whole number from 1 to 65535.`);
  const wanted = asked ? Number(asked) : (port ?? FIRST_PORT);
  const free = await freePort(wanted);
  if (free !== wanted)
    say(`Port ${wanted} is taken by something else; using ${free}${port || asked ? ' this time' : ''}.`);
  if (!port && !asked) remember(folder, { port: free });
  return free;
};

try {
  endWithNpm(() => void leave(0));
  ensurePackages();
  const { opened, lock, cluster, url } = process.env.DATABASE_URL
    ? { url: process.env.DATABASE_URL, cluster: null, opened: null, lock: null }
    : await openDatabase();
  ensureBuilt();
  const settings = {
    DATABASE_URL: url,
    BISTRE_LOG: process.env.BISTRE_LOG ?? 'warn',
    BISTRE_BACKUPS: process.env.BISTRE_BACKUPS ?? opened?.backups ?? join(root, '.bistre', 'backups'),
    ...(opened ? { PORT: String(await portOf(opened)), BISTRE_ONE_PORT: '1' } : {}),
    ...(empty ? { BISTRE_EMPTY: '1' } : {}),
  };
  const { address, stop } = await keepRunning(settings, cluster);
  undo.push(stop);
  lock?.say(address);
} catch (error) {
  complain(error);
  await leave(1);
}
