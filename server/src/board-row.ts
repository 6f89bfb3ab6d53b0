import { nextStation, smallPicture, stationStates, workLeft } from '@bistre/core';
import type { BatchDocument, BatchRow } from '@bistre/contract';
import { reckonDocument } from './batches';

/** One line of the Board, reckoned as the workspace does, so that both show the same figures. */
export const batchRow = (batch: BatchDocument): BatchRow => {
  const { input, reckoning } = reckonDocument(batch);
  const states = stationStates(input, reckoning);
  const next = nextStation(states);
  const { round: onDrive } = reckoning.own;
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
    route: states.map((s) => s.id),
    waits: closedAt ? '' : next.waits,
    done: reckoning.run.done,
    budget: (reckoning.board ?? onDrive) ? reckoning.budget.predicted : null,
    yieldShare: reckoning.run.yield,
    openPutbacks: batch.putbacks.filter((p) => p.restoredAt === null).length,
    outOfDate: [...reckoning.outOfDate],
    way: batch.setup.held.way,
    picture: smallPicture(reckoning),
    work: workLeft(input, reckoning),
  };
};
