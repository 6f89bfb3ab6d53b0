import { counted, sizeInWords } from '../../working';
import { aimedState, flatFiles, planned, bedClean, BOARD, PROVED, walked } from '../flat';
import { freshOwn } from '../../holding';
import type { Way } from '../way';
import { markedBatch } from './reckon';
import { markedSteps } from './steps';

/** Pieces that carry marks of their own and are aimed at one by one. */
export const marked: Way = {
  ...BOARD,
  looks: false,
  id: 'marked',
  words: 'its own marks: drilled or printed pieces',
  comes: ['marked'],
  good: 'What was drilled or printed elsewhere: the art follows its own marks.',
  fresh: (name) => ({ way: 'marked', choice: { name, own: freshOwn }, found: {} }),
  reckon: markedBatch,
  mounted: (_, { board, boardProblem }) =>
    board
      ? `The piece itself, ${sizeInWords(board)}, by ${counted(board.marks.length, 'mark')} of its own.`
      : (boardProblem?.message ?? 'Nobody said yet where its marks are.'),
  measures: () => false,
  stations: {
    hold: (_, r) =>
      r.board ? PROVED : { state: 'not started', waits: r.boardProblem?.message ?? 'say where the marks are' },
    place: (input, r) => aimedState(input, r, { turns: false, begun: false, then: walked(input) }),
  },
  steps: markedSteps,
  ready: planned,
  take: (_, first) => `Take the ${first ? 'first' : 'next'} piece`,
  leaves: () => 'sheet',
  corrects: 'every sheet',
  files: flatFiles(),
  putAway: bedClean,
};
