import { mm, worked, type Basis } from '../working';
import type { Source } from './input';

/** A source before its share of the whole is known. */
export type SourcePart = Omit<Source, 'share'>;

/** The rule that a source follows, with its numbers put in, and what it rests on. */
export type SourceRule = readonly [rule: string, substituted: string, basis: Basis];

/**
 * A source of position error with its working, mm. `worst` is three times its standard uncertainty where nothing
 * bounds it; `dof` is infinite where nothing limits it.
 */
export const sourceOf = (
  { dof = Infinity, ...facts }: Omit<SourcePart, 'worst' | 'dof' | 'working'> & Partial<Pick<Source, 'worst' | 'dof'>>,
  [rule, substituted, basis]: SourceRule,
): SourcePart => ({
  worst: 3 * facts.u,
  ...facts,
  dof,
  working: worked(facts.name, rule, substituted, mm(facts.u, 3), basis),
});
