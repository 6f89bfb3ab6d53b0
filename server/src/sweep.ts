import { sql } from 'kysely';
import type { Logger } from 'pino';
import type { Db } from './db/connect';

/** How long first answers stay for retries, and how long a past roster can be taken back, ms. */
const KEPT = { replies: 86_400_000, rosters: 30 * 86_400_000 } as const;
const EVERY = 3_600_000;

/** Removes what has served: first answers to writes after a day, past rosters kept for undo after thirty. */
export const sweepNow = async (db: Db, now = new Date()): Promise<void> => {
  await db
    .deleteFrom('replies')
    .where('at', '<', new Date(now.getTime() - KEPT.replies))
    .execute();
  await db
    .updateTable('events')
    .set({ undo: null })
    .where('at', '<', new Date(now.getTime() - KEPT.rosters))
    .where(sql<boolean>`undo ->> 'kind' = 'roster'`)
    .execute();
};

/** Sweeps every hour while the server runs; returns what stops it. */
export const sweepOften = (db: Db, log: Logger): (() => void) => {
  const timer = setInterval(() => {
    sweepNow(db).catch((error: unknown) => log.warn({ err: String(error) }, 'not swept'));
  }, EVERY);
  timer.unref();
  return () => clearInterval(timer);
};
