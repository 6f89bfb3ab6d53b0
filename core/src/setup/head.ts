import { lensLowered } from '../burn';
import type { HeadClearance } from '../holding';
import type { BatchInput } from './input';

/** The head as it goes over the pieces: lower by as much as a recipe that burns them brings its lens below focus. */
export const headOver = ({
  machine,
  recipe,
  backRecipe,
  artRecipes = [],
}: Pick<BatchInput, 'machine' | 'recipe' | 'backRecipe' | 'artRecipes'>): HeadClearance => ({
  nozzleGap: machine.nozzleGap,
  headRadius: machine.headRadius,
  focusRange: machine.focusRange,
  lowered: Math.max(0, ...[recipe, backRecipe, ...artRecipes].map((r) => (r ? lensLowered(r) : 0))),
});
