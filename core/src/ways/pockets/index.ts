import { clearanceTotal } from '../../holding';
import { BOARD, boardPlaced, boardState, dropIn, onBoard, pocketBatch, POCKETS } from '../flat';
import type { Way } from '../way';

/** Pockets with clearance in a board: pieces lie in them with a little float. */
export const pockets: Way = {
  ...BOARD,
  id: 'pockets',
  reckon: (input, options) => pocketBatch(input, options, (hold) => clearanceTotal(hold.clearance)),
  stations: {
    hold: (input, r) => boardState(input, r, 'save the board to the Shelf and cut it'),
    place: boardPlaced,
  },
  steps: (input, r) => onBoard(input, r, { ...POCKETS, trial: [], fit: dropIn }),
};
