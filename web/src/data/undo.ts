import type { Undoable } from '@bistre/contract';
import { ask } from '../parts/ask';
import { CallFailed } from './api';

/**
 * Takes a named change back. Where the server asks first (somebody else's, or something builds on it), the
 * question is put to the operator, and sent again when it is answered.
 *
 * @returns whether it was taken back
 */
export const takeBack = async (
  { event }: Undoable,
  send: (body: { event: number; sure?: boolean }) => Promise<unknown>,
): Promise<boolean> => {
  try {
    await send({ event });
    return true;
  } catch (error) {
    if (!(error instanceof CallFailed) || error.problem.code !== 'ask-undo') throw error;
    if (!(await ask('Take it back all the same?', error.message, 'Take it back', 'Leave it as it is'))) return false;
    await send({ event, sure: true });
    return true;
  }
};
