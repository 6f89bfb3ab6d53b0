import { createHash } from 'node:crypto';
import { nextStation, stationStates } from '@bistre/core';
import type { BatchDocument, BatchRow } from '@bistre/contract';
import { reckonDocument } from './batches';

const reckonRow = (batch: BatchDocument): BatchRow => {
  const { input, reckoning } = reckonDocument(batch);
  const next = nextStation(stationStates(input, reckoning));
  const { id, name, customer, quantity, spares, tolerance, dueAt, version, closedAt } = batch;
  return {
    id,
    name,
    customer,
    quantity,
    spares,
    tolerance,
    dueAt,
    version,
    closedAt,
    machineId: batch.machine.id,
    machineName: batch.machine.name,
    blankId: batch.blank.id,
    blankName: batch.blank.name,
    station: closedAt ? 'close' : next.id,
    waits: closedAt ? '' : next.waits,
    done: reckoning.run.done,
    budget: reckoning.board || reckoning.round ? reckoning.budget.predicted : null,
    yieldShare: reckoning.run.yield,
    openPutbacks: batch.putbacks.filter((p) => p.restoredAt === null).length,
    outOfDate: [...reckoning.outOfDate],
  };
};

const MOST_KEPT = 500;
const kept = new Map<string, BatchRow>();

/**
 * One line of the Board. Reckoned as the workspace does, so that both show the same figures; kept
 * while the batch stays as it is, for that day, since calibrations grow stale by days.
 */
export const boardRow = (batch: BatchDocument): BatchRow => {
  const key = createHash('sha1').update(new Date().toDateString()).update(JSON.stringify(batch)).digest('base64');
  const before = kept.get(key);
  if (before) return before;
  const row = reckonRow(batch);
  if (kept.size >= MOST_KEPT) kept.delete(kept.keys().next().value!);
  kept.set(key, row);
  return row;
};
