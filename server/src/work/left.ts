import type { BatchDocument } from '@bistre/contract';
import { loadWhole } from '../batches';
import { reading, type Db } from '../db/connect';
import { loadSimulation, simulationVersion } from '../simulation';

/** What a job of the simulated bench leaves to be written: how the bench stands now, and a line for the log. */
export interface Left<T> {
  readonly value: T;
  readonly state: unknown;
  /** Version of the state that this follows on. */
  readonly version: number;
  readonly said: string | null;
}

/** A batch and how its simulation was left, in one view of the database. */
export const leftAt = <S>(db: Db, id: string): Promise<{ batch: BatchDocument; version: number; stored: S | null }> =>
  reading(db, async (trx) => ({
    batch: await loadWhole(trx, id),
    version: await simulationVersion(trx, id),
    stored: await loadSimulation<S>(trx, id),
  }));
