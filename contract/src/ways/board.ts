import { z } from 'zod';
import { FEWEST_MARKS, MOST_MARKS } from '@bistre/core';
import { CORNERS, inRange, line, oneOf, wholeNumber, yesNo } from '../limits';

/** The name that is engraved on a board or sheet and used for its files. */
export const name = line('Board name', 1, 24);
/** The same on work that has no board. */
export const workName = line('Name of the work', 1, 24);
export const sheetName = line('Name of the sheet', 1, 24);

export const order = z.object({
  corner: oneOf('Slot 1 at', CORNERS),
  first: z.enum(['rows', 'columns']),
  serpentine: z.boolean(),
});
const turned = oneOf('Pieces lie', { auto: 'as fits best', along: 'along the board', across: 'across the board' });
const marks = wholeNumber('Marks', FEWEST_MARKS, MOST_MARKS);
export const boardThickness = inRange('Board thickness', 0.3, 50, 'mm');

/** What is chosen of a board that is cut. */
export const boardChoice = z.object({
  boardThickness,
  wall: inRange('Wall between pockets', 0, 200, 'mm'),
  extent: z.discriminatedUnion('kind', [
    z.object({
      kind: z.literal('board'),
      width: inRange('Board width', 60, 5_000, 'mm'),
      height: inRange('Board height', 40, 5_000, 'mm'),
    }),
    z.object({ kind: z.literal('bed') }),
    z.object({ kind: z.literal('count'), count: wholeNumber('Pockets', 1, 2_000) }),
    z.object({
      kind: z.literal('grid'),
      columns: wholeNumber('Columns', 1, 500),
      rows: wholeNumber('Rows', 1, 500),
    }),
  ]),
  turned,
  notches: oneOf('Finger notches', { one: 'one, front side', both: 'both sides', none: 'none' }),
  notchRadius: inRange('Notch radius', 3, 30, 'mm'),
  slotNumbers: yesNo('Slot numbers in the walls'),
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
