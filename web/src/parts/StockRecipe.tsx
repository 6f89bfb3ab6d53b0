import { useRecipes } from '../data/queries';
import type { BatchHandle } from '../data/use-batch';
import { Select } from './fields';

/** What boards, gauges, pins and cradles are cut with: a recipe of their own material, on this machine. */
export const StockRecipe = ({ handle }: { readonly handle: BatchHandle }) => {
  const { batch, update } = handle;
  const { data: recipes = [] } = useRecipes();
  const { burn } = batch.setup;
  return (
    <Select
      label="Recipe for boards, pins and gauges"
      value={burn.stockRecipeId ?? ''}
      options={[
        ['', 'none yet'],
        ...recipes
          .filter((r) => r.machineId === batch.machine.id)
          .map((r) => [r.id, `${r.name}: ${r.spec.material}`] as const),
      ]}
      onChange={(chosen) => update('burn', { ...burn, stockRecipeId: chosen === '' ? null : chosen })}
    />
  );
};
