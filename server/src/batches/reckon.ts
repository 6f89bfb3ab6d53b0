import { alphabetsIn, reckonBatch, type BatchInput, type BatchReckoning } from '@bistre/core';
import { batchInput, type BatchDocument } from '@bistre/contract';
import { alphabetsFor, LABELS } from '../alphabets';

/** Reckons a batch as the browser does; `pieces` is the size of the simulation behind the budget. */
export const reckonDocument = (
  batch: BatchDocument,
  pieces = 20_000,
): { input: BatchInput; reckoning: BatchReckoning } => {
  const input = batchInput(batch);
  return {
    input,
    reckoning: reckonBatch(input, {
      now: new Date(),
      alphabets: alphabetsFor(alphabetsIn(input.setup)),
      labels: LABELS,
      simulatedPieces: pieces,
    }),
  };
};
