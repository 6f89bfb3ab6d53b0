import { clearanceTotal, loosePocket } from '../../holding';
import { pocketBatch, POCKET_BOARD } from '../flat';
import type { Way } from '../way';

/** Pockets with clearance in a board: pieces lie in them with a little float. */
export const pockets: Way = {
  ...POCKET_BOARD,
  id: 'pockets',
  reckon: (input, options) =>
    pocketBatch(input, options, {
      pocketOf: (blank, sizes, { clearance }) => loosePocket(blank, sizes, clearance),
      room: ({ clearance }) => ({ mm: clearanceTotal(clearance), words: 'the clearance' }),
      lies: 'loose',
    }),
};
