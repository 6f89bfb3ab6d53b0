import { blankOutline, linesRoom, pegBoard, plainPlace } from '../../holding';
import { heldAs, type BatchInput, type BatchReckoning, type ReckonOptions } from '../../setup';
import { begin, boardFor, engravedBox, follow, LOADS, NO_LABELS } from '../flat';
import { laidToLines, pegsAsThings, seatOf, seatWarnings } from './seat';

/** Everything that follows for pieces against two pegs and witness lines. */
export const pegsBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
  const begun = begin(input, options, false);
  const { sizes, labels, beside } = begun;
  const held = heldAs(input, 'pegs');
  const { choice } = held;
  const pocket = { ...plainPlace(sizes), ...linesRoom(blankOutline(input.blank, sizes), choice.peg) };
  const artBox = engravedBox(input, begun);
  const laid = seatOf(input, held, sizes, artBox);
  const lines = laid.ok ? laid.value.lines : null;
  const made = !labels
    ? NO_LABELS
    : laid.ok
      ? pegBoard(boardFor(input, begun, pocket, labels), choice, laid.value.lines, choice.peg)
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
      things: board && lines ? pegsAsThings(choice, board, lines, beside.stand?.height ?? 0) : [],
      ...(laid.ok ? { usable: laid.value.usable } : {}),
    },
    {
      ...LOADS,
      also: laid.ok ? laid.value : {},
      budget: () => ({ laid: lines && laidToLines(held, lines) }),
      first: seatWarnings(input, held, sizes),
    },
  );
};
