import type { LaidInput } from '../../budget';
import {
  boardOfOne,
  gridSeat,
  reckonLocator,
  type BlankSizes,
  type Board,
  type HoldSettings,
  type Locator,
  type LocatorSettings,
} from '../../holding';
import type { Alphabet } from '../../lettering';
import { ok, type Result } from '../../result';
import type { BatchInput } from '../../setup';

/** What is chosen of the board, with how its frame came back: that counts at once, also for one that was saved before. */
const locatorNow = (input: BatchInput, hold: HoldSettings): LocatorSettings => ({
  ...hold.locator,
  back: input.setup.hold.locator.back,
});

/** The locator board as the place of pieces: its grid on the bed, pieces at its intersections. */
export const locatorOf = (
  input: BatchInput,
  hold: HoldSettings,
  sizes: BlankSizes,
  labels: Alphabet,
): Result<{ readonly locator: Locator; readonly board: Board }> => {
  const { bed } = input.machine;
  const made = reckonLocator(
    locatorNow(input, hold),
    bed,
    { length: sizes.length.mean, width: sizes.width.mean },
    hold.boardThickness,
    hold.order,
    labels,
  );
  if (!made.ok) return made;
  const { slots, passes, columns, rows, cell } = made.value;
  return ok({
    locator: made.value,
    board: {
      ...boardOfOne({ length: bed.width, width: bed.height }, hold.name, input.fixture?.revision ?? 1, [], passes),
      thickness: hold.boardThickness,
      pocket: { length: cell.width, width: cell.height },
      columns,
      rows,
      slots,
    },
  });
};

/** What can be wrong with a piece that an eye laid to the grid. */
export const laidToGrid = (
  input: BatchInput,
  hold: HoldSettings,
  sizes: BlankSizes,
  { seat, stopError }: Locator,
): LaidInput => ({
  seat: gridSeat({ length: sizes.length.mean, width: sizes.width.mean }),
  eye: hold.locator.eye,
  outline: { error: 0, measured: true },
  returns: { seat, u: stopError, dof: 2 * locatorNow(input, hold).back.length },
});
