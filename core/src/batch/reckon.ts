import type { BatchInput, BatchReckoning, ReckonOptions } from '../setup';
import { wayOf } from '../ways';

/**
 * Everything that follows from a batch's setup, in one pure computation: the browser's worker, the
 * server's files, the setup sheet and the tests all read this.
 */
export const reckonBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning =>
  wayOf(input).reckon(input, options);
