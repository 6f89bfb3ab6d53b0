import { addFill, Moves } from '../../burn';
import { flatten } from '../../geometry';
import { fail, ok, type Result } from '../../result';
import { bedProgram, heldAs, type BatchInput, type BatchReckoning, type Drawing, NO_RECIPE } from '../../setup';
import { photoMarkContours } from './reckon';

/** The camera's marks, filled, where the machine's own coordinates say they are. */
export const photoMarksGcode = (input: BatchInput, r: BatchReckoning): Result<Generator<string>> => {
  if (!r.own.photo) return fail('no-camera', 'This batch is not placed by a photograph.', 'hold');
  if (heldAs(input, 'photo').choice.marksOn !== 'bed')
    return fail(
      'not-burned',
      'These marks are not burned: they are printed, or on the bed already.',
      'hold.photo.marksOn',
    );
  if (!input.recipe) return NO_RECIPE;
  const moves = new Moves();
  for (const mark of r.own.photo.marks)
    addFill(
      moves,
      photoMarkContours([mark]).map((c) => flatten(c)),
      input.recipe.engrave,
      input.machine.acceleration,
    );
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
