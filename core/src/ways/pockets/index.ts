import { BOARD, boardPlaced, boardState, dropIn, onBoard, POCKETS } from '../flat';
import type { Way } from '../way';

/** Pockets with clearance in a board: pieces lie in them with a little float. */
export const pockets: Way = {
  ...BOARD,
  id: 'pockets',
  stations: {
    hold: (input, r) => boardState(input, r, 'save the board to the Shelf and cut it'),
    place: boardPlaced,
  },
  steps: (input, r) => onBoard(input, r, { ...POCKETS, trial: [], fit: dropIn }),
};
