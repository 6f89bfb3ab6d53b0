import { useRecipes } from '../data/queries';
import type { BatchHandle } from '../data/use-batch';
import { Select } from './fields';
import { recipeOptions } from './recipe-options';

/** What boards, gauges, pins and cradles are cut with: a recipe of their own material, on this machine. */
export const StockRecipe = ({ handle }: { readonly handle: BatchHandle }) => {
  const { batch, update } = handle;
  const { data: recipes = [] } = useRecipes();
  const { burn } = batch.setup;
  return (
    <Select
      label="Recipe for boards, pins and gauges"
      value={burn.stockRecipeId ?? ''}
      options={recipeOptions(recipes, batch.machine.id, 'none yet')}
      onChange={(chosen) => update('burn', { ...burn, stockRecipeId: chosen === '' ? null : chosen })}
    />
  );
};
