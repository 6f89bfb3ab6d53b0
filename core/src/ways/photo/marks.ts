import { addFill, Moves, slowedTo } from '../../burn';
import { contoursBox, flatten } from '../../geometry';
import { fail, ok, type Problem, type Result } from '../../result';
import { bedProgram, heldAs, type BatchInput, type BatchReckoning, type Drawing, NO_STOCK_RECIPE } from '../../setup';
import { photoMarkContours } from './reckon';

/** Marks that are printed, or on the bed already, are not burned. */
export const marksAreBurned = (input: BatchInput): Problem | null =>
  heldAs(input, 'photo').choice.marksOn === 'bed'
    ? null
    : {
        code: 'not-burned',
        message: 'These marks are not burned: they are printed, or on the bed already.',
        field: 'hold.photo.marksOn',
      };

/** The camera's marks, filled, where the machine's own coordinates say they are. */
export const photoMarksGcode = (input: BatchInput, r: BatchReckoning): Result<Generator<string>> => {
  if (!r.own.photo) return fail('no-camera', 'This batch is not placed by a photograph.', 'hold');
  if (!input.stockRecipe) return NO_STOCK_RECIPE;
  const moves = new Moves();
  const { acceleration, bed } = input.machine;
  for (const mark of r.own.photo.marks) {
    const contours = photoMarkContours([mark]);
    const { minX, maxX } = contoursBox(contours);
    // Near the bed's edges there is little room to run up: a mark is burned as slowly as that asks.
    const setting = slowedTo(input.stockRecipe.engrave, acceleration, Math.min(minX, bed.width - maxX));
    addFill(
      moves,
      contours.map((c) => flatten(c)),
      setting,
      acceleration,
    );
  }
  return bedProgram(input, moves, {
    title: `camera marks of ${input.machine.name}`,
    mend: {
      words: 'Put the marks further in from the bed’s edges: each needs room to run up beside it.',
      field: 'hold.photo.inset',
    },
    notes: [
      `${r.own.photo.marks.length} marks, ${heldAs(input, 'photo').choice.inset} mm from the bed's edges, on white paper`,
    ],
  });
};

/** The camera's marks as a drawing of the whole bed. */
export const markDrawing = (input: BatchInput, { own: { photo } }: BatchReckoning): Result<Drawing> =>
  photo
    ? ok({
        title: `camera marks of ${input.machine.name}`,
        passes: [{ name: 'marks', kind: 'fill', contours: photoMarkContours(photo.marks) }],
        sheet: input.machine.bed,
      })
    : fail('no-camera', 'This batch is not placed by a photograph.', 'hold');
