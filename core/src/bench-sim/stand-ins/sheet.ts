import { flatten } from '../../geometry';
import { pieceGround, tracedOutline, tracedPieces } from '../../holding';
import { heldAs } from '../../setup';
import { layBoard, printSheet } from '../machine';
import { partOfSheet } from '../run';
import { BOARD, staysUntil } from './lying';
import type { StandIn } from './stand-in';

const lay: StandIn['lay'] = (seed, { input, reckoning }) => printSheet(layBoard(seed, input.machine, reckoning.board!));

/** A sheet as a printer made it, laid somewhere on the bed. */
export const sheet: StandIn = {
  ...BOARD,
  axes: undefined,
  stands: staysUntil(lay, () => true),
  lay,
  seating: ({ reckoning }) => partOfSheet(reckoning.sizes),
  printed: ({ input, reckoning }, slot) => {
    const settings = heldAs(input, 'sheet').choice;
    const ground = settings.traced
      ? tracedOutline(tracedPieces(settings.traced)[slot - 1]!)[0]!
      : pieceGround(input.blank, reckoning.sizes, settings)[0]!;
    return flatten(ground, 0.02);
  },
};
