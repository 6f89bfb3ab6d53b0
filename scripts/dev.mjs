// npm run dev: database, server that restarts on change, and pages with hot reload.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { openData } from './lib/data.mjs';
import { ensureBuilt, ensurePackages } from './lib/install.mjs';
import { complain, endWithNpm, root } from './lib/say.mjs';
import { freePort, stopChild } from './lib/server.mjs';

const run = async () => {
  ensurePackages();
  ensureBuilt();
  const { url, backups, close } = await openData({ alone: true });
  const port = await freePort(4174);
  const env = { ...process.env, DATABASE_URL: url, BISTRE_BACKUPS: backups, PORT: String(port) };
  const server = join(root, 'server');
  const children = [
    spawn(process.execPath, ['build.mjs', '--watch'], { cwd: server, stdio: 'inherit' }),
    spawn(process.execPath, ['--watch', '--enable-source-maps', 'dist/main.mjs'], {
      cwd: server,
      stdio: 'inherit',
      env,
    }),
    spawn(join(root, 'node_modules/.bin/vite'), [], {
      cwd: join(root, 'web'),
      stdio: 'inherit',
      env: { ...process.env, BISTRE_API: `http://localhost:${port}` },
    }),
  ];
  let stopping = null;
  const stop = () =>
    (stopping ??= Promise.all(children.map(stopChild)).then(() => {
      close();
      process.exit(0);
    }));
  endWithNpm(() => void stop());
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop());
  for (const child of children) child.on('exit', () => void stop());
};

run().catch((error) => {
  complain(error);
  process.exit(1);
});
