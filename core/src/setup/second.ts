import { engravings, type Machine } from '../burn';
import { fromUniform } from '../budget';
import type { Mm } from '../units';
import type { BatchInput } from './input';

/**
 * How far a second source's beam may lie from where it is said to, standard per axis: a dot of each source is burned and
 * read, each with the eye's error and the head's own way back.
 */
export const secondDoubt = ({ eye, repeatability }: Pick<Machine, 'eye' | 'repeatability'>): Mm =>
  Math.SQRT2 * Math.hypot(eye, fromUniform(repeatability));

/** That doubt where a recipe that burns the pieces goes by a second source; undefined where none does. */
export const secondInBudget = ({ machine, recipe, backRecipe, artRecipes = [] }: BatchInput): Mm | undefined =>
  [recipe, backRecipe, ...artRecipes].some((r) => r && [...engravings(r), r.cut].some((s) => s.source === 'second'))
    ? secondDoubt(machine)
    : undefined;
