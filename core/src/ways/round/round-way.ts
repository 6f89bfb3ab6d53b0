import { recipeSteps, runSteps, type BatchInput, type BatchReckoning, type RunWords } from '../../setup';
import type { Way } from '../way';
import { roundBatch } from './batch';
import { roundSteps } from './steps';

/** One piece after the other, laid with its feature to the crest. */
const runWords = (input: BatchInput, r: BatchReckoning): RunWords => ({
  title:
    r.run.openLoad === null
      ? `Lay the ${input.firstApproved ? 'next' : 'first'} piece on, zero it`
      : `Burn piece ${r.onTheBoard[0]?.ordinal ?? ''}`,
  detail: 'Feature to the crest, rim at its zero. The rest is held until the first is approved.',
});

/** What is true of round blanks on a drive and in a cradle. */
export const ROUND: Pick<Way, 'route' | 'measures' | 'firstAlone' | 'names' | 'reckon' | 'steps' | 'waits'> = {
  route: () => ['blank', 'drive', 'burn', 'run', 'close'],
  measures: () => true,
  firstAlone: () => true,
  names: ({ setup }) => setup.drive.faces.some((f) => f.content.kind === 'lettering'),
  reckon: roundBatch,
  steps: (input, r) => [
    ...(r.round ? roundSteps(input, r.round) : []),
    ...recipeSteps(input),
    ...runSteps(input, r, runWords(input, r), false),
  ],
  waits: {
    first: () => 'burn the first piece',
    next: () => 'lay the next piece on',
    look: () => 'judge the piece',
  },
};
