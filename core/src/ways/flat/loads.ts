import { ok, type Problem, type Result } from '../../result';
import { nextLoad } from '../../runs';
import type { BatchInput, BatchReckoning } from '../../setup';
import type { Fill, Way } from '../way';

/** A load fills the pockets of a board that is saved. */
export const savedBoard = ({ fixture }: BatchInput, { board }: BatchReckoning): Problem | null =>
  fixture && board
    ? null
    : { code: 'no-board', message: 'Save the board to the Shelf first: a load fills its pockets.', field: 'hold' };

/** Work that lies by itself needs a plan of where it lies, and nothing that is saved. */
export const planned = (_: BatchInput, { board, boardProblem }: BatchReckoning): Problem | null =>
  board
    ? null
    : (boardProblem ?? { code: 'no-plan', message: 'There is nothing to lay on the bed yet.', field: 'hold' });

/** The pieces that wait, in their order, as many as there is place for. */
export const nextPieces = (
  input: BatchInput,
  r: BatchReckoning,
  firstApproved = input.firstApproved,
): Result<readonly Fill[]> =>
  ok(
    nextLoad({
      quantity: input.quantity,
      spares: input.spares,
      capacity: r.board?.slots.length ?? 1,
      firstApproved,
      pieces: input.pieces,
    }),
  );

/** What was put on the places of this load as it was reckoned. */
export const asReckoned = (r: BatchReckoning): Result<readonly Fill[]> =>
  ok(r.run.openLoad === null ? r.onTheBoard.map(({ slot, ordinal }) => ({ ordinal, slot: slot.slot })) : []);

/** Every mark of the board or sheet. */
export const allMarks = ({ board }: BatchReckoning): Result<readonly number[]> =>
  ok((board?.marks ?? []).map((m) => m.id));

/** A piece with some of its segments burned is not done. */
export const segmentsLeft = ({ own: { long } }: BatchReckoning): Problem | null =>
  long && !long.burned
    ? {
        code: 'segments-left',
        message: `Segment ${long.current} of ${long.plan?.segments.length ?? 1} is not burned yet.`,
        field: 'place',
      }
    : null;

/** Loads of pieces that wait on a board that stays. */
export const BOARD_LOADS: Pick<Way, 'ready' | 'next' | 'marks' | 'unburned' | 'leaves' | 'corrects'> = {
  ready: savedBoard,
  next: (input, r) => nextPieces(input, r),
  marks: allMarks,
  unburned: () => null,
  leaves: () => 'nothing',
  corrects: 'this laying',
};
