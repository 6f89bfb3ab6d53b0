import { pocketBoard, type Blank, type BlankSizes, type BoardSettings, type Pocket } from '../../holding';
import { plannedLoads } from '../../runs';
import type { BatchInput, BatchReckoning, ReckonOptions } from '../../setup';
import type { Mm } from '../../units';
import { existingPocket } from './parts';
import { begin, boardFor, engravedBox, follow, NO_LABELS, type Own } from './reckon';

/** What is true of loads on a board: one piece first, then as many as it holds. */
export const LOADS: Own = { firstAlone: true, planned: plannedLoads };

/** How the pockets of a board are made. */
export interface Pockets {
  readonly board: BoardSettings;
  /** The pocket for a piece of these sizes. */
  readonly pocketOf: (blank: Blank, sizes: BlankSizes) => Pocket;
  /** How much larger it is than the size allowed for, in total, mm, and what that is called. */
  readonly room: { readonly mm: Mm; readonly words: string };
  readonly lies: 'loose' | 'against';
}

/** Everything that follows for pieces in the pockets of a board. */
export const pocketBatch = (
  input: BatchInput,
  options: ReckonOptions,
  { board: hold, pocketOf, room, lies }: Pockets,
): BatchReckoning => {
  const begun = begin(input, options, false);
  const { sizes, labels } = begun;
  const forSizes = (s: BlankSizes): Pocket => pocketOf(input.blank, s);
  const wanted = forSizes(sizes);
  // A board that exists keeps its pockets, whatever the samples say since.
  const pocket = input.fixture ? existingPocket(forSizes, sizes, wanted, input.fixture.basis, room.mm) : wanted;
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
      suits: { to: 'size', room: room.words },
      // Focus lies on the blank; a board's marks are on the board.
      marksAt: hold.boardThickness - sizes.thickness.mean,
      turns: true,
    },
    LOADS,
  );
};
