// npm run test:long: what takes too long for every change: 20,000 hostile requests, 30 kills each of server and
// database during a job, and the closed loops with all their cases.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { ensurePostgres } from './lib/cluster.mjs';
import { ensureBuilt, ensurePackages } from './lib/install.mjs';
import { complain, root } from './lib/say.mjs';

try {
  ensurePackages();
  ensurePostgres();
  ensureBuilt();
  const { throwAway } = await import('./test-servers.mjs');
  const bistre = await throwAway('long', { server: false });
  const jest = (...args) =>
    spawnSync(join(root, 'node_modules/.bin/jest'), args, {
      cwd: root,
      stdio: 'inherit',
      env: {
        ...process.env,
        DATABASE_URL: bistre.url,
        BISTRE_FUZZ: process.env.BISTRE_FUZZ ?? '20000',
        BISTRE_LONG: 'yes',
      },
    }).status === 0;
  const good = [jest('server/src/http/fuzz'), jest('--testMatch', '**/*.long.ts'), jest('core/src')];
  await bistre.stop();
  process.exitCode = good.every(Boolean) ? 0 : 1;
} catch (error) {
  complain(error);
  process.exitCode = 1;
}
