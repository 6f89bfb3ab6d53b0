// npm start: from a fresh machine to a running Bistre.
import { dataFolder, ensureBuilt, ensurePackages, startCluster, startServer, stopChild } from './lib.mjs';

const empty = process.argv.includes('--empty');
ensurePackages();
let stopDatabase = () => undefined;
let url = process.env.DATABASE_URL;
if (!url) {
  const cluster = await startCluster(dataFolder());
  stopDatabase = cluster.stop;
  url = cluster.database('bistre');
}
ensureBuilt();
let child;
let stopping = false;
const stop = async (code) => {
  if (stopping) return;
  stopping = true;
  await stopChild(child);
  stopDatabase();
  process.exit(code);
};
process.on('SIGINT', () => void stop(0));
process.on('SIGTERM', () => void stop(0));
try {
  const server = await startServer({
    DATABASE_URL: url,
    BISTRE_LOG: process.env.BISTRE_LOG ?? 'warn',
    ...(empty ? { BISTRE_EMPTY: '1' } : {}),
  });
  child = server.child;
  child.on('exit', (code) => void stop(code ?? 1));
} catch (error) {
  process.stderr.write(`${error.message}\n`);
  await stop(1);
}
