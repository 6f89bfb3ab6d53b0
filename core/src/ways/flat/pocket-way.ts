import type { BoardSettings } from '../../holding';
import type { BatchInput, BatchReckoning, Step } from '../../setup';
import type { Way } from '../way';
import { BOARD, type OwnWords } from './flat-way';
import { boardPlaced, boardState } from './stations';
import { dropIn, onBoard, POCKETS } from './steps';

/** What is true of every board with pockets, snug or roomy: cut, tried with the largest piece, laid by its marks. */
export const POCKET_BOARD: Omit<Way, OwnWords | 'reckon' | 'steps'> = {
  ...BOARD,
  places: ({ board, pocket }) =>
    `${board?.slots.length ?? 0} pockets of ${pocket.length.toFixed(2)} × ${pocket.width.toFixed(2)} mm`,
  stations: {
    hold: (input, r) => boardState(input, r, 'save the board to the Shelf and cut it'),
    place: boardPlaced,
  },
};

/** The steps of a board with pockets. */
export const pocketSteps = (input: BatchInput, r: BatchReckoning, { order }: BoardSettings): Step[] =>
  onBoard(input, r, { ...POCKETS, corner: order.corner, trial: [], fit: dropIn });
