// npm run dev: database, server that restarts on change, and pages with hot reload.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { dataFolder, ensurePackages, freePort, root, startCluster, stopChild } from './lib.mjs';

ensurePackages();
const cluster = process.env.DATABASE_URL ? null : await startCluster(dataFolder());
const url = process.env.DATABASE_URL ?? cluster.database('bistre');
const port = await freePort(4174);
const bin = (name) => join(root, 'node_modules/.bin', name);
const children = [
  spawn(bin('tsx'), ['watch', '--clear-screen=false', 'src/main.ts'], {
    cwd: join(root, 'server'),
    stdio: 'inherit',
    env: { ...process.env, DATABASE_URL: url, PORT: String(port) },
  }),
  spawn(bin('vite'), [], {
    cwd: join(root, 'web'),
    stdio: 'inherit',
    env: { ...process.env, BISTRE_API: `http://localhost:${port}` },
  }),
];
const stop = async () => {
  await Promise.all(children.map(stopChild));
  cluster?.stop();
  process.exit(0);
};
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => void stop());
for (const child of children) child.on('exit', () => void stop());
