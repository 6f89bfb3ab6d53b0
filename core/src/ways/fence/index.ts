import { pocketBatch, POCKET_BOARD } from '../flat';
import type { Way } from '../way';

/** Roomy pockets: every piece is pushed to one corner. */
export const fence: Way = {
  ...POCKET_BOARD,
  id: 'fence',
  reckon: (input, options) => pocketBatch(input, options, (hold) => hold.pushRoom),
};
