import { reckonBoard, reckonPocket, type HoldSettings } from '../../holding';
import { plannedLoads } from '../../runs';
import type { BatchInput, BatchReckoning, ReckonOptions } from '../../setup';
import type { Mm } from '../../units';
import { existingPocket } from './parts';
import { begin, engravedBox, follow, NO_LABELS, type Own } from './reckon';

/** What is true of loads on a board: one piece first, then as many as it holds. */
export const LOADS: Own = { firstAlone: true, planned: plannedLoads };

/**
 * Everything that follows for pieces in the pockets of a board.
 *
 * @param room how much larger a pocket is than the size allowed for, in total, mm
 */
export const pocketBatch = (
  input: BatchInput,
  options: ReckonOptions,
  room: (hold: HoldSettings) => Mm,
): BatchReckoning => {
  const begun = begin(input, options, false);
  const { hold, sizes, labels } = begun;
  const wanted = reckonPocket(input.blank, sizes, hold);
  // A board that exists keeps its pockets, whatever the samples say since.
  const pocket = input.fixture ? existingPocket(input, sizes, wanted, input.fixture.basis, room(hold)) : wanted;
  const made = labels
    ? reckonBoard(input.blank, sizes, pocket, hold, input.machine, input.fixture?.revision ?? 1, labels)
    : NO_LABELS;
  const board = made.ok ? made.value : null;
  return follow(
    input,
    options,
    begun,
    {
      wanted,
      pocket,
      artBox: engravedBox(input, begun),
      made,
      board,
      aimed: board,
      // Focus lies on the blank; a board's marks are on the board.
      marksAt: hold.boardThickness - sizes.thickness.mean,
      turns: true,
    },
    LOADS,
  );
};
