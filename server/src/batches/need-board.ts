import type { BatchReckoning } from '@bistre/core';
import { refused } from '../http/problem';

/** What lies on the bed; throws why nothing does: it cannot be made as it is set, or the work lies on a drive. */
export const needBoard = ({
  board,
  boardProblem,
  own: { round },
}: BatchReckoning): NonNullable<BatchReckoning['board']> => {
  if (!board)
    throw refused(
      boardProblem ?? {
        code: 'no-board',
        message: round
          ? 'Round work lies on a drive or a cradle: it has no board.'
          : 'There is no board to lay on the bed yet.',
        field: 'hold',
      },
    );
  return board;
};
