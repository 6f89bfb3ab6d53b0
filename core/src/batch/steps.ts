import { closeSteps, type BatchInput, type BatchReckoning, type Step } from '../setup';
import { wayOf } from '../ways';

/** The Do and Check steps of all stations as one sequence, with this setup's own numbers. */
export const benchSteps = (input: BatchInput, r: BatchReckoning): Step[] => {
  const way = wayOf(input);
  return [...way.steps(input, r), ...closeSteps(input, way.putAway(r))];
};
