import { contourLength } from '../../geometry';
import { madeOf } from '../../holding';
import { crossContours } from '../../marks';
import { layBoard } from '../machine';
import { inPockets, partOfSheet } from '../run';
import { BOARD, heldOf, staysUntil } from './lying';
import { asPlaced, cutFree, type Bench, type StandIn } from './stand-in';

const isFront = ({ reckoning }: Bench): boolean => reckoning.face.side === 'front';
const unmarked = ({ reckoning }: Bench): boolean => reckoning.board?.marks.length === 0;

/** The first file defines where a panel lies; turned over, it lies elsewhere, unless only its pieces were turned. */
const lay: StandIn['lay'] = (seed, bench) => {
  const { input, reckoning } = bench;
  const laid = layBoard(seed, input.machine, reckoning.board!);
  const { side } = reckoning.face;
  const square = { angle: 0, x: reckoning.boardToBed.e, y: reckoning.boardToBed.f };
  return !isFront(bench) && !unmarked(bench)
    ? { ...laid, side }
    : { ...laid, side, hidden: { ...laid.hidden, pose: square } };
};

/** One sheet, engraved on both faces; its marks are there once its first file has cut them. */
export const panel: StandIn = {
  ...BOARD,
  axes: undefined,
  stands: staysUntil(lay, (state, { reckoning }) => state.side === reckoning.face.side),
  lay,
  marks: (bench) => (isFront(bench) ? [] : bench.reckoning.board!.marks),
  lines: crossContours,
  // The side that is burned last frees the pieces, unless they are turned in their own holes.
  meant: (bench) => (unmarked(bench) === isFront(bench) ? cutFree(bench) : asPlaced(bench)),
  beside: (bench) =>
    isFront(bench)
      ? bench.reckoning.board!.marks.flatMap(crossContours).reduce((sum, c) => sum + contourLength(c), 0)
      : 0,
  // A piece that was turned in its own hole lies in it as in a pocket.
  seating: (bench, state) =>
    !isFront(bench) && unmarked(bench)
      ? inPockets({ ...heldOf(bench, state), made: { ...madeOf(bench.input.machine), place: 0 } })
      : partOfSheet(bench.reckoning.sizes),
};
