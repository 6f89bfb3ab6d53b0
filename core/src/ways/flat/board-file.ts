import { addFill, addLines, Moves, ordered } from '../../burn';
import { flatten, rigid, transformContour, type Transform } from '../../geometry';
import type { Board } from '../../holding';
import type { Result } from '../../result';
import { bedProgram, NO_STOCK_RECIPE, type BatchInput } from '../../setup';

/** The board's cut file as G-code: marks, code and labels first, pockets next, outline last. */
export const boardGcode = (input: BatchInput, board: Board): Result<Generator<string>> => {
  if (!input.stockRecipe) return NO_STOCK_RECIPE;
  const { engrave, cut } = input.stockRecipe;
  // The board is cut with a small rim to the bed's zero.
  const place: Transform = rigid(
    0,
    (input.machine.bed.width - board.width) / 2,
    (input.machine.bed.height - board.height) / 2,
  );
  const moves = new Moves();
  for (const pass of board.passes) {
    const contours = pass.contours.map((c) => transformContour(place, c));
    if (pass.kind === 'fill')
      addFill(
        moves,
        contours.map((c) => flatten(c)),
        engrave,
        input.machine.acceleration,
      );
    else addLines(moves, ordered(contours, { x: 0, y: 0 }), pass.kind === 'cut' ? cut : { ...engrave, passes: 1 });
  }
  return bedProgram(input, moves, {
    title: `${board.name} r${board.revision}`,
    mend: { words: 'Hold fewer at once, or have the board cut elsewhere from its drawing.', field: 'hold' },
    notes: [`board ${board.width} x ${board.height} mm`],
  });
};
