import { BOARD, boardPlaced, boardState, dropIn, onBoard, pocketBatch, POCKETS } from '../flat';
import type { Way } from '../way';

/** Roomy pockets: every piece is pushed to one corner. */
export const fence: Way = {
  ...BOARD,
  id: 'fence',
  reckon: (input, options) => pocketBatch(input, options, (hold) => hold.pushRoom),
  stations: {
    hold: (input, r) => boardState(input, r, 'save the board to the Shelf and cut it'),
    place: boardPlaced,
  },
  steps: (input, r) => onBoard(input, r, { ...POCKETS, trial: [], fit: dropIn }),
};
