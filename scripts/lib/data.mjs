// The database of the data folder for a tool: the one that runs, or started for as long as the tool needs it.
import { startCluster } from './cluster.mjs';
import { dataFolder, lockFolder, openFolder } from './folder.mjs';

/**
 * @param alone whether the tool must have the folder for itself; otherwise a running Bistre is used as it is
 * @returns the database's address, the folder's backups, and `close()`
 */
export const openData = async ({ alone }) => {
  const backups = process.env.BISTRE_BACKUPS;
  if (process.env.DATABASE_URL)
    return { url: process.env.DATABASE_URL, backups: backups ?? dataFolder(), close: () => undefined };
  const opened = openFolder(dataFolder());
  let lock = null;
  try {
    lock = await lockFolder(opened.folder);
  } catch (error) {
    if (alone) throw error;
  }
  const cluster = await startCluster(opened.folder, opened.cluster);
  return {
    url: cluster.database('bistre'),
    backups: backups ?? opened.backups,
    close: () => {
      // What was running already stays so.
      if (!lock) return;
      cluster.stop();
      lock.free();
    },
  };
};
