// npm run bench: every benchmark prints one table, with the reference it is measured against.
import { spawnSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuilt, ensureChromium, ensurePackages, root, say } from './lib.mjs';

ensurePackages();
const { throwAway } = await import('./test-servers.mjs');
const only = process.argv[2];
const bin = (name) => join(root, 'node_modules/.bin', name);
for (const file of readdirSync(join(root, 'bench')).filter(
  (f) => f.endsWith('.bench.ts') && (!only || f.includes(only)),
)) {
  say(`\n── ${file}`);
  const bistre = /log|pages|picture/.test(file) ? await throwAway('bench') : null;
  if (bistre) ensureBuilt();
  const env = {
    ...process.env,
    ...(bistre ? { BISTRE_URL: bistre.address, DATABASE_URL: bistre.url } : {}),
    ...(/pages|picture/.test(file) ? { BISTRE_CHROMIUM: ensureChromium() } : {}),
  };
  spawnSync(bin('tsx'), [join(root, 'bench', file)], { cwd: root, stdio: 'inherit', env });
  await bistre?.stop();
}
