import { recipeSteps, runSteps, type BatchInput, type BatchReckoning } from '../../setup';
import { BOARD, boardState, BY_ITSELF, entered, fillWords, measureStep, PROVED } from '../flat';
import type { State, Way } from '../way';
import { locatorSteps } from './steps';

const hold = (input: BatchInput, r: BatchReckoning): State => {
  if (!r.fixings.locator) return boardState(input, r, 'save the board to the Shelf and cut it');
  if (!input.fixture) return entered('save the locator board to the Shelf');
  if (!input.ticks.includes('hold.grid')) return entered('build the board and burn its grid');
  return input.setup.hold.locator.back.length === 0 ? entered('repeat a dot after lifting the frame') : PROVED;
};

/** An open-frame machine on a board with stops: pieces lie at the grid that the machine burned itself. */
export const locator: Way = {
  ...BOARD,
  id: 'locator',
  route: () => BY_ITSELF,
  stations: { hold },
  steps: (input, r) => {
    const { locator: made } = r.fixings;
    const where = made
      ? `Front left corner of each at its intersection; frame back on its stops, zero at ${made.zero.x}, ${made.zero.y}.`
      : '';
    const run = runSteps(input, r, fillWords(input, r, where));
    return made
      ? locatorSteps(input, made, recipeSteps(input), run)
      : [measureStep(input), ...recipeSteps(input), ...run];
  },
};
