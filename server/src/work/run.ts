import type { BatchDocument, BodyOf, api } from '@bistre/contract';
import {
  benchSteps,
  leavesBed,
  marksToRead,
  nextFill,
  notBurned,
  worstCorner,
  type Fill,
  type Result,
} from '@bistre/core';
import { reckonDocument } from '../batches';
import type { Db } from '../db/connect';
import { refused } from '../http/problem';
import { stamped } from './stamped';

const need = <T>(result: Result<T>): T => {
  if (!result.ok) throw refused(result.problem);
  return result.value;
};

/** What the next load of a batch is filled with. Throws what stands against it, in words. */
export const fillLoad = async (db: Db, id: string): Promise<{ stamp: string; fill: readonly Fill[] }> => {
  const { stamp, batch } = await stamped(db, id);
  const { input, reckoning } = reckonDocument(batch, 1_000);
  return { stamp, fill: need(nextFill(input, reckoning)) };
};

type Verdicts = BodyOf<typeof api.judgePieces>['pieces'];

/** A batch as it is once its loaded pieces are judged. */
const judged = (batch: BatchDocument, verdicts: Verdicts): BatchDocument => ({
  ...batch,
  pieces: batch.pieces.flatMap((p) => {
    const verdict = p.state === 'loaded' ? verdicts.find((v) => v.slot === p.slot) : undefined;
    if (!verdict) return [p];
    return verdict.state === 'again' ? [] : [{ ...p, state: verdict.state, cause: verdict.cause }];
  }),
});

/** What verdicts do beside judging: whether the sheet or strip that is done leaves the bed with its marks. */
export const verdictsOf = async (
  db: Db,
  { id, pieces }: { id: string; pieces: Verdicts },
): Promise<{ stamp: string; leaves: 'nothing' | 'sheet' | 'strip' }> => {
  const { stamp, batch } = await stamped(db, id);
  if (pieces.some((p) => p.state === 'done')) {
    const { input, reckoning } = reckonDocument(batch, 200);
    need(notBurned(input, reckoning));
    const passed = pieces.filter((p) => p.state === 'done' && !p.cause?.trim());
    for (const { slot, dx, dy, yaw } of passed) {
      const worst = dx == null ? 0 : worstCorner(reckoning.artBox, dx, dy ?? 0, yaw ?? 0);
      if (worst > batch.tolerance)
        throw refused({
          code: 'out-of-tolerance',
          message: `Slot ${slot} is ${worst.toFixed(2)} mm off at its worst corner; ${batch.tolerance.toFixed(2)} mm are allowed. Scrap it, or say why it passes. Nothing was judged.`,
          field: `slot ${slot}`,
        });
    }
  }
  const { input, reckoning } = reckonDocument(judged(batch, pieces), 200);
  return { stamp, leaves: leavesBed(input, reckoning) };
};

/** Steps that a batch has as it stands. */
export const stepsOf = async (db: Db, id: string): Promise<string[]> => {
  const { batch } = await stamped(db, id);
  const { input, reckoning } = reckonDocument(batch, 200);
  return benchSteps(input, reckoning).map((s) => s.id);
};

/** Marks that a batch's work has as it lies. A panel has none before its first file has cut them. */
export const marksOf = async (db: Db, id: string): Promise<number[]> => {
  const { batch } = await stamped(db, id);
  const { input, reckoning } = reckonDocument(batch, 200);
  return [...need(marksToRead(input, reckoning))];
};
