import type { LaidInput } from '../../budget';
import { boardOfOne, gridSeat, reckonLocator, type BlankSizes, type Board, type Locator } from '../../holding';
import type { Alphabet } from '../../lettering';
import { ok, type Result } from '../../result';
import type { BatchInput, Held } from '../../setup';

type AtLocator = Held<'locator'>;

/** The locator board as the place of pieces: its grid on the bed, pieces at its intersections. */
export const locatorOf = (
  input: BatchInput,
  { choice, found }: AtLocator,
  sizes: BlankSizes,
  labels: Alphabet,
): Result<{ readonly locator: Locator; readonly board: Board }> => {
  const { bed } = input.machine;
  const made = reckonLocator(
    { ...choice, ...found },
    bed,
    { length: sizes.length.mean, width: sizes.width.mean },
    choice.boardThickness,
    choice.order,
    labels,
  );
  if (!made.ok) return made;
  const { slots, passes, columns, rows, cell } = made.value;
  return ok({
    locator: made.value,
    board: {
      ...boardOfOne({ length: bed.width, width: bed.height }, choice.name, input.fixture?.revision ?? 1, [], passes),
      thickness: choice.boardThickness,
      pocket: { length: cell.width, width: cell.height },
      columns,
      rows,
      slots,
    },
  });
};

/** What can be wrong with a piece that an eye laid to the grid. */
export const laidToGrid = (
  { choice, found }: AtLocator,
  sizes: BlankSizes,
  { seat, stopError }: Locator,
): LaidInput => ({
  seat: gridSeat({ length: sizes.length.mean, width: sizes.width.mean }),
  eye: choice.eye,
  outline: { error: 0, measured: true },
  returns: { seat, u: stopError, dof: 2 * found.back.length },
});
