import { seeded } from '../../budget';
import { aimingOf, countedToFile } from '../../burn';
import { apply } from '../../geometry';
import { madeOf } from '../../holding';
import { aimingError } from '../../marks';
import { heldAs } from '../../setup';
import { layToGrid, repeatedDot, sinceZero } from '../lay';
import { laidSo } from '../run';
import { BOARD, heldOf } from './lying';
import { inPockets } from '../run';
import { bareBench, loadOf, type StandIn } from './stand-in';

/** A frame on its locator board: the board lies as the frame came to stand for this load. */
export const locator: StandIn = {
  ...BOARD,
  axes: undefined,
  stands: (stored, bench) => {
    const state = stored ?? bareBench(bench);
    const pose = sinceZero(state.hidden.seed, bench.reckoning.run.openLoad ?? 0, heldAs(bench.input, 'locator').choice);
    return bench.reckoning.own.locator ? { ...state, hidden: { ...state.hidden, pose } } : BOARD.stands(stored, bench);
  },
  seating: (bench, state) => {
    const { reckoning, input } = bench;
    const { eye } = heldAs(input, 'locator').choice;
    return reckoning.own.locator
      ? laidSo((slot) =>
          layToGrid(state.hidden.seed, loadOf(bench), slot.slot, reckoning.sizes, eye, madeOf(input.machine)),
        )
      : inPockets(heldOf(bench, state));
  },
  // Where the simulated head stood when zero was set over the grid: as well as pointer, step and eye let it.
  zero: ({ input: { machine }, reckoning: { own } }, { hidden }) => {
    const { sigma } = aimingError(aimingOf(machine));
    const r = seeded(hidden.seed * 53 + 9);
    const zero = own.locator?.zero ?? { x: 0, y: 0 };
    return apply(countedToFile(machine), {
      x: zero.x - hidden.pointer.x + sigma * r.normal(),
      y: zero.y - hidden.pointer.y + sigma * r.normal(),
    });
  },
  repeat: ({ input, reckoning: { own } }, { hidden }, time) =>
    own.locator ? repeatedDot(hidden.seed, time, own.locator, heldAs(input, 'locator').choice) : null,
};
