import { Link } from 'react-router';
import { api } from '@bistre/contract';
import type { BatchHandle } from '../data/use-batch';
import { useRecipes } from '../data/queries';
import { Select } from './fields';
import { Finding } from './Part';
import { recipeOptions } from './recipe-options';

/** Which recipe of its machine a batch is burned by; the one that its blank was burned with last is one touch away. */
export const RecipeChoice = ({ handle }: { handle: BatchHandle }) => {
  const { batch } = handle;
  const { machine, recipe, recipeBefore } = batch;
  const { data: recipes } = useRecipes();
  const choose = (recipeId: string): void =>
    void handle.act(api.chooseRecipe, { body: { recipeId: recipeId === '' ? null : recipeId } });
  return (
    <>
      <Select
        label={`Recipe for ${machine.name}`}
        value={recipe?.id ?? ''}
        options={recipeOptions(recipes ?? [], machine.id, 'none yet', batch.blank.spec.material)}
        onChange={choose}
      />
      {!recipe && recipeBefore && (
        <div className="mt-2">
          <Finding tone="attention">
            This blank was last burned with <b>{recipeBefore.name}</b>, in {recipeBefore.batch}. Is it the same
            material?{' '}
            <button className="link" onClick={() => choose(recipeBefore.id)}>
              Use it again
            </button>
          </Finding>
        </div>
      )}
      {recipes && !recipes.some((r) => r.machineId === machine.id) && (
        <Finding tone="attention">
          {machine.name} has no recipe.{' '}
          <Link className="link" to="/shelf/recipes/new">
            Put one on the Shelf.
          </Link>
        </Finding>
      )}
    </>
  );
};
