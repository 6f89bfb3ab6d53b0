import { blankOutline, linesRoom, pegBoard, plainPlace } from '../../holding';
import type { BatchInput, BatchReckoning, ReckonOptions } from '../../setup';
import { begin, boardFor, engravedBox, follow, LOADS, NO_LABELS } from '../flat';
import { laidToLines, pegsAsThings, seatOf, seatWarnings } from './seat';

/** Everything that follows for pieces against two pegs and witness lines. */
export const pegsBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
  const begun = begin(input, options, false);
  const { hold, sizes, labels } = begun;
  const pocket = { ...plainPlace(sizes), ...linesRoom(blankOutline(input.blank, sizes), hold.lines.peg) };
  const artBox = engravedBox(input, begun);
  const laid = seatOf(input, hold, sizes, artBox);
  const lines = laid.ok ? laid.value.lines : null;
  const made = !labels
    ? NO_LABELS
    : laid.ok
      ? pegBoard(boardFor(input, begun, pocket, labels), hold, laid.value.lines, hold.lines.peg)
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
      lies: 'against',
      rests: 'on',
      suits: { to: 'outline' },
      // Pieces lie on the board: its marks are their thickness below.
      marksAt: -sizes.thickness.mean,
      turns: true,
      things: board && lines ? pegsAsThings(hold, board, lines) : [],
      ...(laid.ok ? laid.value : {}),
    },
    {
      ...LOADS,
      budget: () => ({ laid: lines && laidToLines(input, hold, lines) }),
      first: seatWarnings(input, hold, sizes),
    },
  );
};
