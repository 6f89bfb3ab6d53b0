import type { BatchRow } from '@bistre/contract';
import { batchRow } from '../board-row';
import { loadWhole } from '../batches';
import { freshBoard, type FreshBoard } from '../changes/fixture';
import { reading, type Db } from '../db/connect';
import { burnCup, setCup, viewCup } from './cup';
import { ringOf, settingOf } from './drive';
import { fillLoad, marksOf, stepsOf, verdictsOf } from './run';
import { actOnBench, measureOnBench, pointerOnBench, runOnBench, takePhotograph, viewBench } from './sim';
import { stamped } from './stamped';
import { burnTrialOnBench, writeTrialFile } from './trial';

/**
 * What threads reckon for the routes. A job reads the database and answers; it never writes. What a write rests
 * on comes with its stamp, which the write compares.
 */
export const jobs = {
  /** A batch's line of the Board. */
  boardRow: async (db: Db, id: string): Promise<BatchRow> => batchRow(await reading(db, (trx) => loadWhole(trx, id))),
  freshBoard: async (db: Db, id: string): Promise<{ stamp: string; board: FreshBoard }> => {
    const { stamp, batch } = await stamped(db, id);
    return { stamp, board: freshBoard(batch) };
  },
  fillLoad,
  verdictsOf,
  stepsOf,
  marksOf,
  ringOf,
  settingOf,
  viewBench,
  actOnBench,
  measureOnBench,
  pointerOnBench,
  runOnBench,
  takePhotograph,
  viewCup,
  setCup,
  burnCup,
  burnTrialOnBench,
  writeTrialFile,
};
export type Jobs = typeof jobs;
