import { closeSteps, rosterStep, withShopSteps, type BatchInput, type BatchReckoning, type Step } from '../setup';
import { wayOf } from '../ways';

/** The names that are missing, before the first thing that is run. */
const withRoster = (steps: readonly Step[], input: BatchInput): Step[] => {
  if (!wayOf(input).names(input) || input.roster.length >= input.quantity) return [...steps];
  const run = steps.findIndex((s) => s.station === 'run');
  return run < 0 ? [...steps] : [...steps.slice(0, run), rosterStep(input), ...steps.slice(run)];
};

/** The Do and Check steps of all stations as one sequence, with this setup's own numbers and the shop's own steps. */
export const benchSteps = (input: BatchInput, r: BatchReckoning): Step[] => {
  const way = wayOf(input);
  const steps = [...withRoster(way.steps(input, r), input), ...closeSteps(input, way.putAway(r))];
  return withShopSteps(steps, input.shopSteps ?? [], way.route(input));
};
