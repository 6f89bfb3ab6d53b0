// npm run backup [FILE]: everything into one file, while Bistre runs or not.
import { spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { openData } from './lib/data.mjs';
import { ensureBuilt, ensurePackages } from './lib/install.mjs';
import { complain, root } from './lib/say.mjs';

try {
  ensurePackages();
  ensureBuilt();
  const { url, backups, close } = await openData({ alone: false });
  const given = process.argv.slice(2).find((a) => !a.startsWith('--'));
  const name = `bistre-${new Date().toISOString().slice(0, 19).replaceAll(':', '')}.backup.gz`;
  const file = given ? resolve(process.env.INIT_CWD ?? '.', given) : join(backups, name);
  if (!given) mkdirSync(backups, { recursive: true, mode: 0o700 });
  const { status } = spawnSync(process.execPath, [join(root, 'server/dist/backup.mjs'), file], {
    stdio: 'inherit',
    env: { ...process.env, DATABASE_URL: url },
  });
  close();
  process.exitCode = status ?? 1;
} catch (error) {
  complain(error);
  process.exitCode = 1;
}
