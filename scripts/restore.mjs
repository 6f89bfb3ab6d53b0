// npm run restore FILE: a backup in the place of what there is, after asking. Bistre must not run meanwhile.
import { spawnSync } from 'node:child_process';
import { resolve } from 'node:path';
import { openData } from './lib/data.mjs';
import { ensureBuilt, ensurePackages } from './lib/install.mjs';
import { complain, refuse, root } from './lib/say.mjs';

try {
  const given = process.argv.slice(2).find((a) => !a.startsWith('--'));
  if (!given) refuse('Say which file to bring back: npm run restore -- FILE');
  ensurePackages();
  ensureBuilt();
  const { url, backups, close } = await openData({ alone: true });
  const file = resolve(process.env.INIT_CWD ?? '.', given);
  const sure = process.argv.includes('--yes') ? ['--yes'] : [];
  const { status } = spawnSync(process.execPath, [root + '/server/dist/restore.mjs', file, ...sure], {
    stdio: 'inherit',
    env: { ...process.env, DATABASE_URL: url, BISTRE_BACKUPS: backups },
  });
  close();
  process.exitCode = status ?? 1;
} catch (error) {
  complain(error);
  process.exitCode = 1;
}
