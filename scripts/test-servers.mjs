// A throw-away Bistre for tests, benchmarks and pictures: own cluster, own port, demo shop loaded.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { startCluster } from './lib/cluster.mjs';
import { scratchFolder } from './lib/folder.mjs';
import { ensureBuilt } from './lib/install.mjs';
import { startServer, stopChild } from './lib/server.mjs';

export const throwAway = async (name, { demo = true, server = true, env = {} } = {}) => {
  const folder = scratchFolder(name);
  const cluster = await startCluster(folder, join(folder, 'postgres'), { durable: false, createdb: true });
  const url = cluster.database('bistre');
  let child;
  let address = '';
  let settings = {};
  const launch = async () => {
    ({ child, address } = await startServer(settings, { quiet: true, onSpawn: (spawned) => (child = spawned) }));
  };
  /** Ends the server as a power cut would; the database stays. */
  const kill = () =>
    new Promise((done) => {
      child.on('exit', done);
      child.kill('SIGKILL');
    });
  /** Starts it again at the same address. */
  const again = async () => {
    settings = { ...settings, PORT: new URL(address).port };
    await launch();
  };
  const stop = async () => {
    await stopChild(child);
    cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  };
  try {
    if (server) {
      ensureBuilt();
      settings = {
        DATABASE_URL: url,
        PORT: '0',
        BISTRE_LOG: 'error',
        BISTRE_BACKUPS: join(folder, 'backups'),
        ...(demo ? {} : { BISTRE_EMPTY: '1' }),
        ...env,
      };
      await launch();
    }
  } catch (error) {
    await stop();
    throw error;
  }
  return { address, url, cluster, stop, kill, again };
};
