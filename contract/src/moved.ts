import { counted, WAYS } from '@bistre/core';
import type { BatchDocument } from './documents';

/** Ticks that hold on any machine: how the board was made, what was measured of the blank. */
export const TICKS_STAY = /^(hold|blank|shop)\./;

/** Findings of a batch as they begin on another machine: what is of the board or the blank stays. */
export const foundThere = ({ setup }: Pick<BatchDocument, 'setup'>): BatchDocument['setup']['held']['found'] => {
  const way = WAYS[setup.held.way];
  const now = setup.held.found as Record<string, unknown>;
  const fresh = Object.entries(way.fresh('').found as Record<string, unknown>);
  return Object.fromEntries(fresh.map(([key, value]) => [key, way.stays?.includes(key) ? now[key] : value])) as BatchDocument['setup']['held']['found']; // prettier-ignore
};

/**
 * What of a batch does not hold on another machine, by name: what was read, found, set and ticked on this one, and the
 * recipes that were made on it. Pieces that are done stay done; the first one there is approved anew.
 */
export const forgottenOnMove = (
  batch: Pick<
    BatchDocument,
    'readings' | 'recipe' | 'backRecipe' | 'stockRecipe' | 'setup' | 'ticks' | 'firstApproved' | 'machine'
  >,
  machineId: string,
): string[] => {
  const { setup } = batch;
  const elsewhere = (recipe: BatchDocument['recipe']): string[] => (recipe && recipe.machineId !== machineId ? [`recipe ${recipe.name}`] : []); // prettier-ignore
  const recipes = [...new Set([batch.recipe, batch.backRecipe, batch.stockRecipe].flatMap(elsewhere))];
  const { corrections = [] } = setup.place;
  const held = WAYS[setup.held.way];
  const found = JSON.stringify(foundThere(batch)) !== JSON.stringify(setup.held.found);
  const ticks = batch.ticks.filter((t) => !TICKS_STAY.test(t.step)).length;
  return [
    ...(batch.readings.length > 0 ? [`${counted(batch.readings.length, 'reading')} of marks`] : []),
    ...(corrections.length > 0 ? [`${counted(corrections.length, 'move')} of the burn`] : []),
    ...(found ? [`what was found of it as it lay: ${held.words}`] : []),
    ...recipes,
    ...(ticks > 0 ? [counted(ticks, 'tick')] : []),
    ...(batch.firstApproved ? ['the approval of the first piece'] : []),
  ];
};
