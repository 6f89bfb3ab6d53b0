import type { Effect } from './plan';

/** What a look at a cell says beside its grade: too little, right, or too much burned. */
export const TELLS = ['weak', 'right', 'strong'] as const;
export type Tell = (typeof TELLS)[number];

/** One person's look at one cell. */
export interface CellScore {
  readonly cell: number;
  /** 0 useless to 10 as wanted. */
  readonly grade: number;
  readonly tell: Tell;
  readonly by: string;
}

/** Best grade. */
export const BEST = 10;
/** At and above it a cell would be taken for the customer's piece; the shop's own word on the scale. */
export const GOOD_ENOUGH = 7;

/** What can be said of a cut by pushing at it, and what it is worth. */
export const CUT_STATES = [
  { id: 'not through', grade: 0, tell: 'weak' },
  { id: 'must be pushed', grade: 5, tell: 'weak' },
  { id: 'falls out', grade: 10, tell: 'right' },
  { id: 'burned back', grade: 4, tell: 'strong' },
] as const satisfies readonly { id: string; grade: number; tell: Tell }[];
export type CutState = (typeof CUT_STATES)[number]['id'];

/** Whether cells of an effect are pushed at, or looked at. */
export const isPushed = (effect: Effect): boolean => effect === 'cut';

/** Where two people differ by more than this, both are asked to look again, grades. */
export const FAR_APART = 3;

/** What people said of one cell, taken together. */
export interface CellVerdict {
  readonly cell: number;
  readonly grade: number;
  /** Most of them; where they are as many, the milder word of the two. */
  readonly tell: Tell;
  readonly looks: readonly CellScore[];
  readonly apart: boolean;
}

/** Verdicts by cell, in the order of the cells: everybody's word counts alike. */
export const verdictsOf = (scores: readonly CellScore[]): CellVerdict[] => {
  const cells = new Map<number, CellScore[]>();
  for (const s of scores) cells.set(s.cell, [...(cells.get(s.cell) ?? []), s]);
  return [...cells]
    .sort(([a], [b]) => a - b)
    .map(([cell, looks]) => {
      const grades = looks.map((s) => s.grade);
      const tells = looks.reduce((sum, s) => sum + TELLS.indexOf(s.tell) - 1, 0);
      return {
        cell,
        grade: grades.reduce((a, b) => a + b, 0) / grades.length,
        tell: TELLS[Math.round(tells / looks.length) + 1]!,
        looks,
        apart: Math.max(...grades) - Math.min(...grades) > FAR_APART,
      };
    });
};
