import type { BatchDocument, BodyOf, api } from '@bistre/contract';
import {
  benchSteps,
  cutFromSheet,
  effectiveHold,
  firstIsApproved,
  isFed,
  needsRoster,
  nextLoad,
  nextOnPhoto,
  nextOnStrip,
  panelHolds,
  type BatchInput,
  type BatchReckoning,
} from '@bistre/core';
import { reckonDocument } from '../batches';
import type { Db } from '../db/connect';
import { refused } from '../http/problem';
import { stamped } from './stamped';

/** Pieces that go on next, and where. */
export type Fill = readonly { readonly ordinal: number; readonly slot: number }[];

/** What must be there before anything is laid on: a drive, a plan, or a saved board. */
const mustHold = (batch: BatchDocument, reckoning: BatchReckoning): void => {
  if (reckoning.round) {
    if (!reckoning.round.on && (batch.drive || reckoning.round.problem))
      throw refused({
        code: 'no-drive',
        message: reckoning.round.problem?.message ?? 'Choose a drive first: the piece lies on it.',
        field: 'drive',
      });
  } else if (reckoning.long || reckoning.marked || reckoning.feed || reckoning.photo) {
    if (!reckoning.board)
      throw refused(
        reckoning.boardProblem ?? {
          code: 'no-plan',
          message: 'There is nothing to lay on the bed yet.',
          field: 'hold',
        },
      );
  } else if (!batch.fixture || !reckoning.board)
    throw refused({
      code: 'no-board',
      message: 'Save the board to the Shelf first: a load fills its pockets.',
      field: 'hold',
    });
};

const mustBeSet = (batch: BatchDocument, input: BatchInput, reckoning: BatchReckoning): void => {
  if (needsRoster(input, input.blank.shape) && batch.roster.length < batch.quantity)
    throw refused({
      code: 'roster-short',
      message: `The roster has ${batch.roster.length} of ${batch.quantity} rows. Bring in the rest, or change the quantity.`,
      field: 'roster',
    });
  const bad = reckoning.art?.problems.length ?? 0;
  if (bad > 0)
    throw refused({
      code: 'art-problems',
      message: `${bad} ${bad === 1 ? 'piece cannot' : 'pieces cannot'} be set as they are: ${reckoning.art!.problems[0]!.message}`,
      field: 'lettering',
    });
};

/** What the next load of a batch is filled with. Throws what stands against it, in words. */
export const fillLoad = async (db: Db, id: string): Promise<{ stamp: string; fill: Fill }> => {
  const { stamp, batch } = await stamped(db, id);
  const { input, reckoning } = reckonDocument(batch, 1_000);
  if (reckoning.run.openLoad !== null)
    throw refused({
      code: 'load-open',
      message: `Load ${reckoning.run.openLoad} is still on the machine. Judge its pieces first.`,
    });
  mustHold(batch, reckoning);
  mustBeSet(batch, input, reckoning);
  const fill = reckoning.photo
    ? nextOnPhoto(reckoning)
    : reckoning.feed && !reckoning.long
      ? nextOnStrip(reckoning)
      : nextLoad({
          quantity: batch.quantity,
          spares: batch.spares,
          capacity: reckoning.board?.slots.length ?? 1,
          firstApproved: firstIsApproved(input.blank.shape, batch),
          pieces: batch.pieces,
        });
  if (reckoning.photo && reckoning.photo.asks > 0)
    throw refused({
      code: 'photo-asks',
      message: `${reckoning.photo.asks} of the blanks in the photograph wait for an answer.`,
      field: 'hold.photo',
    });
  if (fill.length === 0)
    throw refused(
      reckoning.photo && !reckoning.run.finished
        ? {
            code: 'photo-used',
            message: 'Every blank of the photograph is burned. Lay more and take another.',
            field: 'hold.photo',
          }
        : { code: 'nothing-waits', message: 'Every piece is done.' },
    );
  return { stamp, fill: fill.map(({ ordinal, slot }) => ({ ordinal, slot })) };
};

/** A piece with one face burned, or some of its segments, is not done. */
const mustBeWhole = (batch: BatchDocument): void => {
  const { reckoning } = reckonDocument(batch, 200);
  if (reckoning.cutOut && !reckoning.feed && !reckoning.photo && reckoning.face.side === 'front')
    throw refused({
      code: 'one-side',
      message: 'Only side one is burned. Turn the sheet over and burn the second file, then judge the pieces.',
      field: 'place',
    });
  if (reckoning.long && !reckoning.long.burned)
    throw refused({
      code: 'segments-left',
      message: `Segment ${reckoning.long.current} of ${reckoning.long.plan?.segments.length ?? 1} is not burned yet.`,
      field: 'place',
    });
};

type Verdicts = BodyOf<typeof api.judgePieces>['pieces'];

/** A batch as it is once its loaded pieces are judged. */
const judged = (batch: BatchDocument, verdicts: Verdicts): BatchDocument => ({
  ...batch,
  pieces: batch.pieces.flatMap((p) => {
    const verdict = p.state === 'loaded' ? verdicts.find((v) => v.slot === p.slot) : undefined;
    if (!verdict) return [p];
    return verdict.state === 'again' ? [] : [{ ...p, state: verdict.state, cause: verdict.cause }];
  }),
});

/** Whether a strip is used up; the next one is laid in and squared anew. */
const stripIsDone = (batch: BatchDocument): boolean => {
  const { reckoning } = reckonDocument(batch, 200);
  const { feed } = reckoning;
  return !feed || reckoning.long !== null || !(feed.strip === 1 || feed.current !== 1 || reckoning.run.finished);
};

/** What verdicts do beside judging: whether the sheet or strip that is done leaves the bed with its marks. */
export const verdictsOf = async (
  db: Db,
  { id, pieces }: { id: string; pieces: Verdicts },
): Promise<{ stamp: string; leaves: 'nothing' | 'sheet' | 'strip' }> => {
  const { stamp, batch } = await stamped(db, id);
  if (pieces.some((p) => p.state === 'done')) mustBeWhole(batch);
  const after = judged(batch, pieces);
  const { method } = effectiveHold(after);
  // What a photograph showed holds until the next one is taken.
  if (after.pieces.some((p) => p.state === 'loaded') || !cutFromSheet(method) || method === 'photo')
    return { stamp, leaves: 'nothing' };
  if (!isFed(after)) return { stamp, leaves: 'sheet' };
  return { stamp, leaves: stripIsDone(after) ? 'strip' : 'nothing' };
};

/** Steps that a batch has as it stands. */
export const stepsOf = async (db: Db, id: string): Promise<string[]> => {
  const { batch } = await stamped(db, id);
  const { input, reckoning } = reckonDocument(batch, 200);
  return benchSteps(input, reckoning).map((s) => s.id);
};

/** Marks that a batch's work has as it lies. A panel has none before its first file has cut them. */
export const marksOf = async (db: Db, id: string): Promise<number[]> => {
  const { batch } = await stamped(db, id);
  const { reckoning } = reckonDocument(batch, 200);
  if (panelHolds(effectiveHold(batch)) && reckoning.face.side === 'front')
    throw refused({
      code: 'no-marks-yet',
      message: 'The marks are cut by the first file. Burn side one and turn the sheet over, then aim.',
      field: 'place',
    });
  return (reckoning.board?.marks ?? []).map((m) => m.id);
};
