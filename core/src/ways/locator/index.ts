import { freshBoard, freshLocator } from '../../holding';
import {
  bedToLoad,
  heldAs,
  partDrawing,
  partProgram,
  recipeSteps,
  runSteps,
  type BatchInput,
  type BatchReckoning,
  type LoadWords,
} from '../../setup';
import { BOARD, boardState, BY_ITSELF, entered, fillWords, flatFiles, measureStep, NOT_READ, PROVED } from '../flat';
import type { State, Way } from '../way';
import { cutList, gridPart, locatorPart } from './parts';
import { locatorBatch } from './reckon';
import { locatorSteps } from './steps';

const hold = (input: BatchInput, r: BatchReckoning): State => {
  if (!r.own.locator) return boardState(input, r, 'save the board to the Shelf and cut it');
  if (!input.fixture) return entered('save the locator board to the Shelf');
  if (!input.ticks.includes('hold.grid')) return entered('build the board and burn its grid');
  return heldAs(input, 'locator').found.back.length === 0 ? entered('repeat a dot after lifting the frame') : PROVED;
};

/** The head goes back to where zero was set, and the file is counted from there. */
const fromZero: LoadWords = {
  unplaced: () => NOT_READ,
  frame: (input, r) => ({ toFile: bedToLoad(input, r), park: { x: 0, y: 0 } }),
  notes: ({ own: { locator } }) => ({
    first: [`zero: pointer over the grid's ${locator?.zero.x}, ${locator?.zero.y}`],
  }),
};
const { drawings, programs, needs } = flatFiles(fromZero);

/** An open-frame machine on a board with stops: pieces lie at the grid that the machine burned itself. */
export const locator: Way = {
  ...BOARD,
  id: 'locator',
  words: 'locator board: an open frame on stops',
  comes: ['loose', 'long'],
  good: 'Work larger than the bed, under a frame that is lifted onto it.',
  places: ({ board, own: { locator: made } }) =>
    made ? `a grid of ${made.xs.length} × ${made.ys.length} lines` : `${board?.slots.length ?? 0} places`,
  fresh: (name) => {
    const { boardThickness, order } = freshBoard(name);
    return { way: 'locator', choice: { ...freshLocator, name, boardThickness, order }, found: { back: [] } };
  },
  reckon: locatorBatch,
  route: () => BY_ITSELF,
  stations: { hold },
  files: {
    drawings: {
      ...drawings,
      grid: (input, r) => partDrawing(input, 'grid', gridPart(input, r)),
      locator: (input, r) => partDrawing(input, 'locator', locatorPart(input, r)),
    },
    programs: { ...programs, grid: (input, r) => partProgram(input, 'grid', gridPart(input, r)) },
    needs,
    lists: { locator: cutList },
  },
  steps: (input, r) => {
    const { locator: made } = r.own;
    const where = made
      ? `Front left corner of each at its intersection; frame back on its stops, zero at ${made.zero.x}, ${made.zero.y}.`
      : '';
    const run = runSteps(input, r, fillWords(input, r, where), { looks: true });
    return made
      ? locatorSteps(input, made, recipeSteps(input), run)
      : [measureStep(input), ...recipeSteps(input), ...run];
  },
};
