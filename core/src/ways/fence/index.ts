import { cornerPocket, freshBoard } from '../../holding';
import { heldAs } from '../../setup';
import { pocketBatch, POCKET_BOARD, pocketSteps } from '../flat';
import type { Way } from '../way';

/** Roomy pockets: every piece is pushed to one corner. */
export const fence: Way = {
  ...POCKET_BOARD,
  id: 'fence',
  words: 'stop corner: no float, one size',
  comes: ['loose'],
  good: 'Sizes that vary: each is pushed to its corner, so only its size is left to doubt.',
  fresh: (name) => ({ way: 'fence', choice: { ...freshBoard(name), pushRoom: 3 }, found: {} }),
  reckon: (input, options) => {
    const { choice } = heldAs(input, 'fence');
    return pocketBatch(input, options, {
      board: choice,
      pocketOf: (blank, sizes) => cornerPocket(blank, sizes, choice.pushRoom),
      room: { mm: choice.pushRoom, words: 'the room to push' },
      lies: 'against',
    });
  },
  steps: (input, r) => pocketSteps(input, r, heldAs(input, 'fence').choice),
};
