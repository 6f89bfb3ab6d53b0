import { blankOutline, madeOf } from '../../holding';
import { heldAs } from '../../setup';
import { layToPegs, unlikeDrawing } from '../lay';
import { laidSo } from '../run';
import { BOARD, heldOf } from './lying';
import { loadOf, type StandIn } from './stand-in';
import { inPockets } from '../run';

/** Blanks laid to pegs and lines by an eye. */
export const pegs: StandIn = {
  ...BOARD,
  seating: (bench, state) => {
    const { input, reckoning } = bench;
    const seat = reckoning.own.lines;
    if (!seat) return inPockets(heldOf(bench, state));
    const { seed } = state.hidden;
    const outline = blankOutline(input.blank, reckoning.sizes)[0]!;
    const { choice } = heldAs(input, 'pegs');
    return laidSo((slot) =>
      layToPegs(
        seed,
        loadOf(bench),
        slot.slot,
        outline,
        seat,
        reckoning.sizes,
        choice,
        unlikeDrawing(seed),
        madeOf(input.machine),
      ),
    );
  },
};
