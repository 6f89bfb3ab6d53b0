import { z } from 'zod';
import { FEWEST_MARKS, MOST_MARKS } from '@bistre/core';
import { inRange, line, wholeNumber } from '../limits';

/** The name that is engraved on a board or sheet and used for its files. */
export const name = line('Board name', 1, 24);

export const order = z.object({
  corner: z.enum(['front-left', 'front-right', 'back-left', 'back-right']),
  first: z.enum(['rows', 'columns']),
  serpentine: z.boolean(),
});
const turned = z.enum(['auto', 'along', 'across']);
const marks = wholeNumber('Marks', FEWEST_MARKS, MOST_MARKS);
export const boardThickness = inRange('Board thickness', 0.3, 50, 'mm');

/** What is chosen of a board that is cut. */
export const boardChoice = z.object({
  boardThickness,
  wall: inRange('Wall', 0, 200, 'mm'),
  extent: z.discriminatedUnion('kind', [
    z.object({
      kind: z.literal('board'),
      width: inRange('Board width', 60, 5_000, 'mm'),
      height: inRange('Board height', 40, 5_000, 'mm'),
    }),
    z.object({ kind: z.literal('bed') }),
    z.object({ kind: z.literal('count'), count: wholeNumber('Pockets', 1, 2_000) }),
  ]),
  turned,
  notches: z.enum(['none', 'one', 'both']),
  notchRadius: inRange('Notch radius', 3, 30, 'mm'),
  slotNumbers: z.boolean(),
  marks,
  order,
  name,
});

/** What is chosen of a sheet that pieces are cut from. */
export const sheetChoice = z.object({ turned, marks, order, name });

/** Nothing is found at the bench. */
export const nothing = z.object({});

/** How a batch is held in one way: what is decided of it, and what was seen at the bench. */
export const way = <W extends string, C extends z.ZodType, F extends z.ZodType>(id: W, choice: C, found: F) =>
  z.object({ way: z.literal(id), choice, found });
