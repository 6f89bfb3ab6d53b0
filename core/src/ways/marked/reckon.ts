import { ownBoard, plainPlace } from '../../holding';
import { plannedSheets } from '../../runs';
import { heldAs, type BatchInput, type BatchReckoning, type ReckonOptions } from '../../setup';
import { aimingGrowth, begin, engravedBox, follow, NO_LABELS } from '../flat';

/** Everything that follows for pieces that carry marks of their own. */
export const markedBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
  const begun = begin(input, options, true);
  const { sizes, labels } = begun;
  const { name, own } = heldAs(input, 'marked').choice;
  const pocket = plainPlace(sizes);
  const made = labels ? ownBoard(input.blank, own, name, input.fixture?.revision ?? 1) : NO_LABELS;
  const board = made.ok ? made.value : null;
  return follow(
    input,
    options,
    begun,
    {
      wanted: pocket,
      pocket,
      artBox: engravedBox(input, begun),
      made,
      board,
      aimed: board,
      lies: 'drawn',
      rests: 'alone',
      suits: { to: 'size' },
      stretches: own.stretches,
      madeElsewhere: true,
      marksAt: 0,
      turns: false,
    },
    {
      firstAlone: true,
      planned: plannedSheets,
      budget: (place) => ({ aimingGrowth: own.stretches && board ? aimingGrowth(board, place) : 1 }),
    },
  );
};
