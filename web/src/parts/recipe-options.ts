import type { RecipeDocument } from '@bistre/contract';
import { isFor } from '@bistre/core';

/** The recipes of a machine as a list to choose from, those for a material first, and before them none, in these words. */
export const recipeOptions = (
  recipes: readonly RecipeDocument[],
  machineId: string,
  none: string,
  material?: string | null,
): readonly (readonly [string, string])[] => [
  ['', none],
  ...recipes
    .filter((r) => r.machineId === machineId)
    .sort((a, b) => Number(isFor(b.spec, material)) - Number(isFor(a.spec, material)))
    .map((r) => [r.id, `${r.name}: ${r.spec.material}`] as const),
];
