// Keeps server and database running: what dies is started again, after a pause that grows while it keeps dying.
import { setTimeout as pause } from 'node:timers/promises';
import { say } from './say.mjs';
import { startServer, stopChild } from './server.mjs';

/** First pause, longest pause, and how long something must run to count as well again, ms. */
const PAUSE = { first: 1_000, longest: Number(process.env.BISTRE_LONGEST_PAUSE ?? 30_000), well: 60_000 };
/** How often it is looked whether the database is there, ms. */
const LOOK = 1_000;

/** A pause that doubles with every fall in a row. */
const pauses = () => {
  let [next, last] = [PAUSE.first, 0];
  return () => {
    const now = Date.now();
    if (now - last > PAUSE.well + next) next = PAUSE.first;
    const wait = next;
    next = Math.min(PAUSE.longest, 2 * next);
    last = now;
    return wait;
  };
};

const seconds = (ms) => `${Math.round(ms / 1000)} s`;

/**
 * Starts the server and keeps it and its database running.
 *
 * @param settings the server's environment for a port
 * @param cluster the database, where it is ours; null where it is somebody else's
 * @returns the address and `stop()`; resolves once the first start is ready, rejects when that fails
 */
export const keepRunning = async (settings, cluster) => {
  let stopping = false;
  let child = null;
  const start = () => startServer(settings, { onSpawn: (spawned) => (child = spawned) });
  const nextServer = pauses();
  const again = async (how) => {
    while (!stopping) {
      const wait = nextServer();
      say(`The server stopped (${how}). What was shown as saved is safe. Starting it again in ${seconds(wait)} …`);
      await pause(wait);
      if (stopping) return;
      try {
        mind((await start()).child);
        return;
      } catch (error) {
        how = error.message.split('\n')[0];
      }
    }
  };
  const mind = (running) =>
    running.on('exit', (code, signal) => {
      if (!stopping) void again(signal ?? `code ${code}`);
    });
  const stop = async () => {
    stopping = true;
    await stopChild(child);
  };
  let first;
  try {
    first = await start();
  } catch (error) {
    await stop();
    throw error;
  }
  mind(first.child);
  const nextDatabase = pauses();
  const look = async () => {
    while (!stopping && cluster) {
      await pause(LOOK, undefined, { ref: false });
      if (stopping || cluster.alive()) continue;
      const wait = nextDatabase();
      say(`The database stopped. What was shown as saved is safe. Starting it again in ${seconds(wait)} …`);
      await pause(wait);
      if (stopping) return;
      try {
        cluster.start();
        say('The database runs again.');
      } catch (error) {
        say(error.message);
      }
    }
  };
  void look();
  return { address: first.address, stop };
};
