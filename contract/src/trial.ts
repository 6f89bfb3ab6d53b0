import { EFFECT_WORDS, EFFECTS, HOLD_KINDS, NUMBER_WORDS, TELLS, TRIAL_NUMBERS } from '@bistre/core';
import { z } from 'zod';
import { id, inRange, line, time, wholeNumber } from './limits';
import { photographInfo } from './shop-step';
import { burnsAfter, burnSetting } from './things';

/** The two numbers that a grid goes through are kept plain: a share of full power, mm/s, mm, passes. */
const axis = (name: string) =>
  z.object({
    number: z
      .enum(TRIAL_NUMBERS)
      .meta({ label: name, options: TRIAL_NUMBERS.map((n) => [n, NUMBER_WORDS[n].name] as const) }),
    levels: z
      .array(
        z
          .number({ error: `${name} must be numbers.` })
          .min(0.001, `${name} must be above nought.`)
          .max(10_000, `${name} must be at most 10000.`),
      ) // prettier-ignore
      .min(1, `${name} has no level.`)
      .max(25, `${name} has more than 25 levels.`),
  });

const spot = (name: string) => z.object({ x: inRange(`${name}, x`, 0, 20_000, 'mm'), y: inRange(`${name}, y`, 0, 20_000, 'mm') }); // prettier-ignore

/** What a person plans of a trial; its title is its name. */
export const trialSpec = z.object({
  material: line('Material', 1, 100),
  effect: z.enum(EFFECTS).meta({ label: 'Effect', options: EFFECTS.map((e) => [e, EFFECT_WORDS[e]] as const) }),
  base: burnSetting,
  after: burnsAfter,
  label: burnSetting,
  columns: axis('Columns go through'),
  rows: axis('Rows go through'),
  cell: z.object({
    width: inRange('Cell width', 1, 100, 'mm'),
    height: inRange('Cell height', 1, 100, 'mm'),
  }),
  gap: inRange('Gap', 0, 50, 'mm'),
  piece: z.object({
    name: line('Piece', 1, 80, { label: 'Piece it is burned on', hint: 'as it is marked, so that its free places are known' }), // prettier-ignore
    width: inRange('Width', 5, 5_000, 'mm'),
    height: inRange('Height', 5, 5_000, 'mm'),
  }),
  onPiece: spot('Grid on the piece'),
  onBed: spot('Piece on the bed'),
});
export type TrialSpec = z.infer<typeof trialSpec>;

/** One person's look at one cell. */
export const cellScore = z.object({
  cell: z.number({ error: 'Which cell must be said.' }).int().min(0, 'There is no such cell.').max(99, 'There is no such cell.'), // prettier-ignore
  grade: inRange('Grade', 0, 10, ''),
  tell: z.enum(TELLS, { error: 'Say whether it was too weak, right or too strong.' }),
});
export const scoreRow = cellScore.extend({ id, by: z.string(), at: time });
export type ScoreRow = z.infer<typeof scoreRow>;

export const trialDocument = z.object({
  id,
  name: z.string(),
  version: z.number().int(),
  machineId: id,
  spec: trialSpec,
  /** The trial whose scores proposed this one. */
  follows: id.nullable(),
  at: time,
  by: z.string(),
  burned: z.object({ at: time, by: z.string(), simulated: z.boolean() }).nullable(),
  photo: photographInfo.nullable(),
  /** Why no file of it that moves the machine is given out as things stand; null where nothing is against it. */
  heldBack: z.string().nullable(),
  /** Every look that stands, oldest first. */
  scores: z.array(scoreRow),
  /** Recipes that name one of its cells as their proof. */
  proves: z.array(z.object({ id, name: z.string(), cell: z.number().int() })),
});
export type TrialDocument = z.infer<typeof trialDocument>;

/** How often, with what, and whether a cell held. */
export const holdTest = z.object({
  kind: z.enum(HOLD_KINDS),
  times: wholeNumber('Times', 1, 10_000),
  with: line('With what', 0, 60),
  holds: z.boolean({ error: 'Say whether it holds.' }),
});
const holdTests = z.array(holdTest).max(6, 'More than 6 tests are not kept.').optional();

/** What a recipe's cell was worth when it was chosen; kept with the recipe. */
export const recipeProof = z.object({
  trialId: id,
  trialName: z.string(),
  cell: z.number().int(),
  at: time,
  by: z.string(),
  grade: z.number(),
  doubt: z.number(),
  /** The setting that was proved. */
  setting: burnSetting,
  /** The burns that followed it. */
  after: burnsAfter,
  /** What was done to see whether it holds. */
  tests: holdTests,
  /** What its effect asks for. */
  effect: z.enum(EFFECTS),
  /** Why it does not stand any more, in words; null while it does. */
  stale: z.string().nullable(),
});
export type RecipeProof = z.infer<typeof recipeProof>;

export const proveBody = z.object({
  cell: cellScore.shape.cell,
  /** A recipe that takes the cell's setting; a new one of the name where none. */
  recipeId: id.nullable(),
  name: line('Name', 0, 80),
  tests: holdTests,
});

/** Spoiled pieces of a flat blank that lie in the shop: what a trial is burned on first. */
export const spoiledRow = z.object({
  blankId: id,
  name: z.string(),
  /** As the blank, or the recipe of the batch that they were spoiled in, calls it. */
  materials: z.array(z.string()),
  width: z.number(),
  height: z.number(),
  count: z.number().int(),
});
export type SpoiledRow = z.infer<typeof spoiledRow>;

/** Files of a trial, by their ending path. */
export const TRIAL_FILES = ['trial.gcode', 'walk.gcode', 'trial.svg'] as const;
export type TrialFile = (typeof TRIAL_FILES)[number];
export const trialFilePath = (trial: string, file: TrialFile): string => `/api/trials/${trial}/files/${file}`;
