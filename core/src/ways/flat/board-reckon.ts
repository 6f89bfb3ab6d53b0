import { pocketBoard, type Blank, type BlankSizes, type HoldSettings, type Pocket } from '../../holding';
import { plannedLoads } from '../../runs';
import type { BatchInput, BatchReckoning, ReckonOptions } from '../../setup';
import type { Mm } from '../../units';
import { existingPocket } from './parts';
import { begin, boardFor, engravedBox, follow, NO_LABELS, type Own } from './reckon';

/** What is true of loads on a board: one piece first, then as many as it holds. */
export const LOADS: Own = { firstAlone: true, planned: plannedLoads };

/**
 * Everything that follows for pieces in the pockets of a board.
 *
 * @param pocketOf the pocket for a piece of these sizes
 * @param room how much larger it is than the size allowed for, in total, mm, and what that is called
 */
export const pocketBatch = (
  input: BatchInput,
  options: ReckonOptions,
  {
    pocketOf,
    room,
    lies,
  }: {
    readonly pocketOf: (blank: Blank, sizes: BlankSizes, hold: HoldSettings) => Pocket;
    readonly room: (hold: HoldSettings) => { readonly mm: Mm; readonly words: string };
    readonly lies: 'loose' | 'against';
  },
): BatchReckoning => {
  const begun = begin(input, options, false);
  const { hold, sizes, labels } = begun;
  const forSizes = (s: BlankSizes): Pocket => pocketOf(input.blank, s, hold);
  const wanted = forSizes(sizes);
  // A board that exists keeps its pockets, whatever the samples say since.
  const pocket = input.fixture ? existingPocket(forSizes, sizes, wanted, input.fixture.basis, room(hold).mm) : wanted;
  const made = labels ? pocketBoard(boardFor(input, begun, pocket, labels), hold) : NO_LABELS;
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
      lies,
      rests: 'in',
      suits: { to: 'size', room: room(hold).words },
      // Focus lies on the blank; a board's marks are on the board.
      marksAt: hold.boardThickness - sizes.thickness.mean,
      turns: true,
    },
    LOADS,
  );
};
