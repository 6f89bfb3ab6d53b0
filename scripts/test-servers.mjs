// A throw-away Bistre for tests, benchmarks and pictures: own cluster, own port, demo shop loaded.
import { rmSync } from 'node:fs';
import { ensureBuilt, scratchFolder, startCluster, startServer, stopChild } from './lib.mjs';

export const throwAway = async (name, { demo = true, server = true } = {}) => {
  const folder = scratchFolder(name);
  const cluster = await startCluster(folder, { durable: false });
  const url = cluster.database('bistre');
  let child;
  let address = '';
  if (server) {
    ensureBuilt();
    ({ child, address } = await startServer(
      { DATABASE_URL: url, PORT: '0', BISTRE_LOG: 'error', ...(demo ? {} : { BISTRE_EMPTY: '1' }) },
      { quiet: true },
    ));
  }
  return {
    address,
    url,
    cluster,
    stop: async () => {
      await stopChild(child);
      cluster.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
};
