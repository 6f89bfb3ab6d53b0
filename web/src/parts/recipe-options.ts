import type { RecipeDocument } from '@bistre/contract';

/** The recipes of a machine as a list to choose from, and before them none, in these words. */
export const recipeOptions = (
  recipes: readonly RecipeDocument[],
  machineId: string,
  none: string,
): readonly (readonly [string, string])[] => [
  ['', none],
  ...recipes.filter((r) => r.machineId === machineId).map((r) => [r.id, `${r.name}: ${r.spec.material}`] as const),
];
