// npm run reset-demo: puts the demo shop back, after asking.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { dataFolder, ensureBuilt, ensurePackages, root, startCluster } from './lib.mjs';

const sure = process.argv.includes('--yes');
if (!sure) {
  const ask = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await ask.question(
    'Every batch, reading and run in this Bistre will be lost. Type "reset" to go on: ',
  );
  ask.close();
  if (answer.trim() !== 'reset') {
    process.stdout.write('Nothing was changed.\n');
    process.exit(0);
  }
}
ensurePackages();
ensureBuilt();
const cluster = process.env.DATABASE_URL ? null : await startCluster(dataFolder());
const url = process.env.DATABASE_URL ?? cluster.database('bistre');
const { status } = spawnSync(process.execPath, [join(root, 'server/dist/reset-demo.mjs')], {
  stdio: 'inherit',
  env: { ...process.env, DATABASE_URL: url },
});
cluster?.stop();
process.exit(status ?? 1);
