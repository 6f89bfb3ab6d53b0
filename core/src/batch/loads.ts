import { sizeInWords } from '../working';
import { fail, ok, type Problem, type Result } from '../result';
import type { BatchInput, BatchReckoning, HeldBatch } from '../setup';
import { wayOf, type Fill } from '../ways';
import { CUSTOMER_WAITS } from './stations';

/** What is not set yet, so that nothing is laid on: names that lack, or that do not fit. */
const notSet = (input: BatchInput, { art }: BatchReckoning): Problem | null => {
  const { roster, quantity } = input;
  if (wayOf(input).names(input) && roster.length < quantity)
    return {
      code: 'roster-short',
      message: `The roster has ${roster.length} of ${quantity} rows. Bring in the rest, or change the quantity.`,
      field: 'roster',
    };
  const [first, ...more] = art?.problems ?? [];
  return first
    ? {
        code: 'art-problems',
        message: `${more.length + 1} ${more.length === 0 ? 'piece cannot' : 'pieces cannot'} be set as they are: ${first.message}`,
        field: 'lettering',
      }
    : null;
};

/** What waits for its customer loads no more than its first piece; work without a first piece, none. */
export const customerHolds = (batch: HeldBatch & Pick<BatchInput, 'customerWaits'>, done: number): Problem | null =>
  batch.customerWaits && (done > 0 || !wayOf(batch).firstAlone(batch)) ? CUSTOMER_WAITS : null;

/** What the next load of a batch is filled with, or what stands against it. */
export const nextFill = (input: BatchInput, r: BatchReckoning): Result<readonly Fill[]> => {
  const way = wayOf(input);
  if (r.run.openLoad !== null)
    return fail('load-open', `Load ${r.run.openLoad} is still on the machine. Judge its pieces first.`);
  const problem = customerHolds(input, r.run.done) ?? way.ready(input, r) ?? notSet(input, r);
  if (problem) return { ok: false, problem };
  const fill = way.next(input, r);
  return fill.ok && fill.value.length === 0 ? fail('nothing-waits', 'Every piece is done.') : fill;
};

/** Taking the next load and what its file burns, as the page says it. */
export const loadWords = (input: BatchInput, r: BatchReckoning): { readonly take: string; readonly burned: string } => {
  const way = wayOf(input);
  return { take: way.take(r, way.firstAlone(input) && !input.firstApproved), burned: way.burned(r) };
};

/** What a batch’s board or sheet has for pieces, in words. */
/** What is mounted for a batch, as its setup sheet says it. */
export const mountedInWords = (input: BatchInput, r: BatchReckoning): string => {
  const { mounted } = wayOf(input);
  if (mounted) return mounted(input, r);
  return r.board
    ? `Board ${r.board.name} r${r.board.revision}, ${sizeInWords(r.board)}, ${Number(r.board.thickness.toFixed(2))} mm thick, ${placesInWords(input, r)}.`
    : (r.boardProblem?.message ?? 'No board yet.');
};

export const placesInWords = (input: BatchInput, r: BatchReckoning): string => wayOf(input).places?.(r) ?? 'no places';

/** The marks that a batch's work has as it lies, by number. */
export const marksToRead = (input: BatchInput, r: BatchReckoning): Result<readonly number[]> => wayOf(input).marks(r);

/** What of the open load is not burned yet: nothing of it can be judged as done. */
export const notBurned = (input: BatchInput, r: BatchReckoning): Result<null> => {
  const problem = wayOf(input).unburned(r);
  return problem ? { ok: false, problem } : ok(null);
};

/** What leaves the bed with its marks once the pieces of a load are judged. */
export const leavesBed = (input: BatchInput, r: BatchReckoning): 'nothing' | 'sheet' | 'strip' =>
  input.pieces.some((p) => p.state === 'loaded') ? 'nothing' : wayOf(input).leaves(r);
