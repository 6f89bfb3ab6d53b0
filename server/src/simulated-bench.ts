import type { BatchDocument } from '@bistre/contract';
import { needsOf, squareFor, wayOf, type BatchInput, type BatchReckoning, type Machine } from '@bistre/core';
import {
  hiddenAxes,
  layBoard,
  squareOnRule,
  STAND_INS,
  type Bench,
  type BenchState,
  type StandIn,
} from '@bistre/core/bench-sim';
import sharp from 'sharp';
import { needBoard } from './batches';
import { refused } from './http/problem';
import { seedOf } from './simulation';

/** Dots along the longer side of the simulated camera's picture. */
const PHOTO_DOTS = 2_400;

export const machineOf = (batch: BatchDocument): Machine => ({
  id: batch.machine.id,
  name: batch.machine.name,
  ...batch.machine.profile,
});

/** A batch as its simulated bench sees it: what chance begins from is named after the batch and its feeder. */
export const benchOf = (batch: BatchDocument, input: BatchInput, reckoning: BatchReckoning): Bench => ({
  input,
  reckoning,
  seeds: { batch: seedOf(batch.id), feeder: seedOf(needsOf(batch.setup.held).feederId ?? batch.id) },
});

/** What stands in for a batch's bench; refuses round work, which lies on the simulated drive. */
export const standInOf = ({ input, reckoning }: Bench): StandIn => {
  const standIn = STAND_INS[wayOf(input).id];
  if (standIn) return standIn;
  needBoard(reckoning);
  throw refused({ code: 'no-bench', message: 'This work does not lie on the bed.', field: 'drive' });
};

/** Pointer and axes belong to the machine: measured for one batch, they hold for the next. */
export const withMachine = (state: BenchState, batch: BatchDocument, standIn: StandIn): BenchState => {
  const seed = seedOf(batch.machine.id);
  const { pointer, lean } = layBoard(seed, machineOf(batch), { width: 100, height: 100 }).hidden;
  const own = standIn.axes ? { axes: hiddenAxes(seed), madeHere: standIn.axes === 'made here' } : {};
  return { ...state, hidden: { ...state.hidden, pointer, lean, ...own } };
};

/** A square that a batch's machine burned, as a rule shows it: along, across and both diagonals, mm. */
export const squareOf = (batch: BatchDocument): ReturnType<typeof squareOnRule> =>
  squareOnRule(squareFor(machineOf(batch).bed), hiddenAxes(seedOf(batch.machine.id)));

/** What the simulated camera over a batch's bed sees, as a PNG; every time it is held a little otherwise. */
export const photographOf = async (bench: Bench, state: BenchState, shot: number): Promise<Uint8Array> => {
  const { photograph } = standInOf(bench);
  if (!photograph)
    throw refused({ code: 'no-camera', message: 'This batch is not placed by a photograph.', field: 'hold' });
  const made = photograph(bench, state, shot, PHOTO_DOTS);
  return sharp(Buffer.from(made.data.buffer), { raw: { width: made.width, height: made.height, channels: 1 } })
    .png({ compressionLevel: 2 })
    .toBuffer();
};
