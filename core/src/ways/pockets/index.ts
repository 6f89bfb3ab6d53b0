import { clearanceTotal, freshBoard, loosePocket } from '../../holding';
import { heldAs } from '../../setup';
import { pocketBatch, POCKET_BOARD, pocketSteps } from '../flat';
import type { Way } from '../way';

/** Pockets with clearance in a board: pieces lie in them with a little float. */
export const pockets: Way = {
  ...POCKET_BOARD,
  id: 'pockets',
  words: 'pockets: drop in, quick to fill',
  comes: ['loose'],
  good: 'Many alike, again and again: drop in, no thought to each.',
  fresh: (name) => ({
    way: 'pockets',
    choice: { ...freshBoard(name), clearance: { school: 'loose' } },
    found: {},
  }),
  reckon: (input, options) => {
    const { choice } = heldAs(input, 'pockets');
    return pocketBatch(input, options, {
      board: choice,
      pocketOf: (blank, sizes) => loosePocket(blank, sizes, choice.clearance),
      room: { mm: clearanceTotal(choice.clearance), words: 'the clearance' },
      lies: 'loose',
    });
  },
  steps: (input, r) => pocketSteps(input, r, heldAs(input, 'pockets').choice),
};
