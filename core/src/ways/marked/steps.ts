import {
  pinSteps,
  recipeSteps,
  runSteps,
  standSteps,
  type BatchInput,
  type BatchReckoning,
  type Step,
} from '../../setup';
import { lyingFlat, materialStep, placeSteps, takenThenPlaced } from '../flat';

/** A piece with marks of its own is taken, laid and aimed at, then burned; so is the next. */
export const markedSteps = (input: BatchInput, r: BatchReckoning): Step[] => {
  const open = r.run.openLoad;
  const piece = r.onTheBoard[0]?.ordinal ?? '';
  const run = runSteps(input, r, {
    title: open === null ? `Take the ${input.firstApproved ? 'next' : 'first'} piece` : `Burn piece ${piece}`,
    detail: 'Its own marks were read on this very piece. The rest is held until the first is approved.',
  });
  return [
    ...(r.board
      ? [materialStep('Is this material safe to burn?', 'It is engraved'), ...standSteps(r), ...pinSteps(input, r)]
      : []),
    ...recipeSteps(input),
    ...takenThenPlaced(
      r,
      run,
      placeSteps(
        input,
        r,
        lyingFlat(`Lay ${open === null ? 'a piece' : `piece ${piece}`} on the bed`, 'Focus on the piece'),
      ),
    ),
  ];
};
