import type { Machine } from '../burn';
import type { Alphabet } from '../lettering';
import { gridSize } from './lay';
import { judgeTrials, type Judged, type Tried } from './next';
import { levelText, NUMBER_WORDS, trialRange, type Taken, type TrialAxis, type TrialPlan } from './plan';
import { isPushed, verdictsOf, type CellScore } from './score';

/** A trial with what was said of its cells. */
export interface ScoredTrial {
  readonly id: string;
  readonly name: string;
  readonly spec: TrialPlan;
  readonly scores: readonly CellScore[];
  readonly follows: string | null;
}

/** A cell that was looked at, of one of several trials. */
export interface TriedCell extends Tried {
  readonly trial: string;
  readonly cell: number;
}

/** What a grid covers of its piece, its lettering included. */
export const coveredBy = (spec: TrialPlan, alphabet: Alphabet): Taken => {
  const { width, height } = gridSize(spec, alphabet);
  return [spec.onPiece.x, spec.onPiece.y, width, height];
};

const named = (name: string): string => name.trim().toLowerCase();

/** What burned trials cover of a piece, told by its name. */
export const burnedOn = <T extends { readonly name: string; readonly spec: TrialPlan; readonly burned: unknown }>(
  pieceName: string,
  trials: readonly T[],
  alphabet: Alphabet,
): { readonly name: string; readonly taken: Taken }[] =>
  trials
    .filter((t) => t.burned && named(t.spec.piece.name) === named(pieceName))
    .map((t) => ({ name: t.name, taken: coveredBy(t.spec, alphabet) }));

/** How many cells a grid has. */
export const cellCount = ({ columns, rows }: Pick<TrialPlan, 'columns' | 'rows'>): number =>
  columns.levels.length * rows.levels.length;

/** Column and row of a cell. */
export const placeOf = ({ columns }: Pick<TrialPlan, 'columns'>, cell: number): { column: number; row: number } => ({
  column: cell % columns.levels.length,
  row: Math.floor(cell / columns.levels.length),
});

const said = ({ number, levels }: TrialAxis, i: number): string =>
  `${NUMBER_WORDS[number].name} ${levelText(number, levels[i]!)} ${NUMBER_WORDS[number].unit}`.trim();

/** A cell by its two numbers. @example cellWords(plan, 7) // “speed 200 mm/s, power 45 %” */
export const cellWords = (plan: Pick<TrialPlan, 'columns' | 'rows'>, cell: number): string => {
  const { column, row } = placeOf(plan, cell);
  return `${said(plan.columns, column)}, ${said(plan.rows, row)}`;
};

/**
 * The trials that lead up to one and go through the same two numbers, itself first: their cells say together what is best.
 * @param all trials among which those are that it follows
 */
export const familyOf = <T extends ScoredTrial>(trial: T, all: readonly T[]): T[] => {
  const out: T[] = [];
  for (let at: T | undefined = trial; at && !out.includes(at);) {
    const { columns, rows } = at.spec;
    if (columns.number === trial.spec.columns.number && rows.number === trial.spec.rows.number) out.push(at);
    const before: string | null = at.follows;
    at = all.find((t) => t.id === before);
  }
  return out;
};

/** Every cell that was looked at. */
export const triedOf = (trials: readonly ScoredTrial[]): TriedCell[] =>
  trials.flatMap((t) =>
    verdictsOf(t.scores).map(({ cell, grade, tell }) => {
      const { column, row } = placeOf(t.spec, cell);
      return { trial: t.id, cell, a: t.spec.columns.levels[column]!, b: t.spec.rows.levels[row]!, grade, tell };
    }),
  );

/** What is judged of trials over the same two numbers, and of which cells. */
export interface JudgedTrials extends Judged {
  readonly tried: readonly TriedCell[];
}

/**
 * What the scores of some trials say together; null while nobody has scored a cell.
 * @param family one trial and those it follows, over the same two numbers
 */
export const judgeFamily = (
  family: readonly ScoredTrial[],
  machine: Pick<Machine, 'leastPower' | 'rapidSpeed'>,
): JudgedTrials | null => {
  const tried = triedOf(family);
  if (tried.length === 0) return null;
  const { columns, rows, effect } = family[0]!.spec;
  const asked = ({ number, levels }: TrialAxis) => ({
    number,
    range: trialRange(number, machine),
    levels: Math.max(2, levels.length),
  });
  return { ...judgeTrials(asked(columns), asked(rows), tried, isPushed(effect)), tried };
};
