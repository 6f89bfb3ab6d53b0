import { cornerPocket } from '../../holding';
import { pocketBatch, POCKET_BOARD } from '../flat';
import type { Way } from '../way';

/** Roomy pockets: every piece is pushed to one corner. */
export const fence: Way = {
  ...POCKET_BOARD,
  id: 'fence',
  reckon: (input, options) =>
    pocketBatch(input, options, {
      pocketOf: (blank, sizes, { pushRoom }) => cornerPocket(blank, sizes, pushRoom),
      room: ({ pushRoom }) => ({ mm: pushRoom, words: 'the room to push' }),
      lies: 'against',
    }),
};
