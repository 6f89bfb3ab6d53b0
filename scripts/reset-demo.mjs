// npm run reset-demo: puts the demo shop back, after asking.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { openData } from './lib/data.mjs';
import { ensureBuilt, ensurePackages } from './lib/install.mjs';
import { complain, root, say } from './lib/say.mjs';

const agreed = async () => {
  if (process.argv.includes('--yes')) return true;
  const ask = createInterface({ input: process.stdin, output: process.stdout });
  // No answer, where nobody can give one, is a no.
  const none = new Promise((done) => ask.once('close', () => done('')));
  const question = ask.question('Every batch, reading and run in this Bistre will be lost. Type "reset" to go on: ');
  const answer = await Promise.race([question, none]);
  ask.close();
  return answer.trim() === 'reset';
};

try {
  if (await agreed()) {
    ensurePackages();
    ensureBuilt();
    const { url, close } = await openData({ alone: false });
    const { status } = spawnSync(process.execPath, [join(root, 'server/dist/reset-demo.mjs')], {
      stdio: 'inherit',
      env: { ...process.env, DATABASE_URL: url },
    });
    close();
    process.exitCode = status ?? 1;
  } else say('Nothing was changed.');
} catch (error) {
  complain(error);
  process.exitCode = 1;
}
