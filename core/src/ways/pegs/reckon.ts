import { reckonBoard, reckonPocket } from '../../holding';
import {
  cardOff,
  laidBy,
  linesOf,
  turnedOver,
  type BatchInput,
  type BatchReckoning,
  type ReckonOptions,
} from '../../setup';
import { begin, engravedBox, follow, LOADS, NO_LABELS } from '../flat';

/** Everything that follows for pieces against two pegs and witness lines. */
export const pegsBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
  const begun = begin(input, options, false);
  const { hold, sizes, labels } = begun;
  const pocket = reckonPocket(input.blank, sizes, hold);
  const artBox = engravedBox(input, begun);
  const laid = linesOf(input, hold, sizes, artBox);
  const lines = laid.ok ? laid.value.lines : null;
  const revision = input.fixture?.revision ?? 1;
  const made = !labels
    ? NO_LABELS
    : laid.ok
      ? reckonBoard(
          input.blank,
          sizes,
          pocket,
          { ...hold, notches: 'none' },
          input.machine,
          revision,
          labels,
          laid.value.lines,
        )
      : laid;
  const board = made.ok ? made.value : null;
  return follow(
    input,
    options,
    begun,
    {
      wanted: pocket,
      pocket,
      artBox,
      made,
      board,
      aimed: board,
      // Pieces lie on the board: its marks are their thickness below.
      marksAt: -sizes.thickness.mean,
      turns: true,
      ...(laid.ok ? laid.value : {}),
    },
    {
      ...LOADS,
      budget: () => ({ laid: laidBy(input, hold, sizes, { lines, locator: null }) }),
      first: [...turnedOver(input, hold, sizes), ...cardOff(input, hold)],
    },
  );
};
