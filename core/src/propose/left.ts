import { benchSteps, estimateTime } from '../batch';
import type { BatchInput, BatchReckoning } from '../setup';
import type { Minutes } from '../units';
import { handling, handsOf } from './hands';

/** What a batch still takes of hands and machine. */
export interface WorkLeft {
  readonly hands: Minutes;
  /** Burning alone; null while no file can be reckoned. */
  readonly burning: Minutes | null;
}

/**
 * The work that is left of a batch: its open steps, laying on and taking off what is not done, and the burning of it as
 * it is planned.
 */
export const workLeft = (input: BatchInput, r: BatchReckoning): WorkLeft => {
  if (r.run.finished || input.closedAt) return { hands: 0, burning: 0 };
  const open = benchSteps(input, r).filter((s) => !input.ticks.includes(s.id) && s.takes?.kind !== 'run');
  const { once, load } = handsOf(open, input, r);
  const loads = r.run.loadsLeft + (r.run.openLoad === null ? 0 : 1);
  const pieces = input.quantity - r.run.done;
  const time = estimateTime(input, r);
  return {
    hands: once + Math.max(0, loads - 1) * load + handling(loads, pieces),
    burning: time ? ((time.batch / 60) * pieces) / input.quantity : null,
  };
};
