import type { api, BodyOf } from '@bistre/contract';
import { afterStrip, type Ordinal, type SlotNumber, type LoadNumber } from '@bistre/core';
import { loadBatch } from '../batches';
import type { Trx } from '../db/connect';
import type { LeftBed, UndoStep } from '../db/schema';
import { refused } from '../http/problem';
import { loadSimulation } from '../simulation';
import { record } from './change';

type Verdict = BodyOf<typeof api.judgePieces>['pieces'][number];

/** Takes out every mark that was read; says which they were. */
export const forgetReadings = async (trx: Trx, batchId: string): Promise<string[]> => {
  const readings = await trx
    .updateTable('mark_readings')
    .set({ removed_at: new Date() })
    .where('batch_id', '=', batchId)
    .where('removed_at', 'is', null)
    .returning('id')
    .execute();
  return readings.map((r) => r.id);
};

/**
 * Work that was laid anew lies elsewhere: its readings and what was walked and read again are forgotten. What of it is
 * burned already stays burned.
 */
export const layAnew = async (trx: Trx, batchId: string, by: string): Promise<void> => {
  const readings = await forgetReadings(trx, batchId);
  const ticks = await trx
    .deleteFrom('step_ticks')
    .where('batch_id', '=', batchId)
    .where('step', 'like', 'place.%')
    .where('step', 'not in', KEPT)
    .returning(['step', 'by'])
    .execute();
  if (readings.length + ticks.length === 0) return;
  await record(trx, {
    by,
    kind: 'reading',
    batchId,
    summary: `Laid anew: ${readings.length} ${readings.length === 1 ? 'reading' : 'readings'} of marks set aside`,
    parts: readings.map((id) => `reading:${id}`),
    undo: { kind: 'laid-anew', left: { readings, ticks, held: null, simulation: null } },
  });
};

/** Ticks that hold for the next sheet or strip too. */
const KEPT = ['place.home', 'feed.home', 'feed.room', 'feed.material', 'feed.calibrate'];

/**
 * The next sheet lies elsewhere: marks and turn of the one that is done say nothing about it. A strip that is
 * laid in anew is squared anew.
 *
 * @returns what came off, so that the verdict that ended the load can be taken back
 */
const leaveBed = async (trx: Trx, batchId: string, leaves: 'sheet' | 'strip'): Promise<LeftBed> => {
  const readings = await forgetReadings(trx, batchId);
  const ticks = await trx
    .deleteFrom('step_ticks')
    .where('batch_id', '=', batchId)
    .where((w) =>
      w.or([
        w('step', 'like', 'place.%'),
        w('step', 'like', 'feed.%'),
        w('step', 'like', 'run.segment-%'),
        w('step', 'in', ['hold.print', 'hold.bar']),
      ]),
    )
    .where('step', 'not in', KEPT)
    .returning(['step', 'by'])
    .execute();
  const left = { readings, ticks };
  if (leaves === 'sheet') {
    const simulation = await loadSimulation<unknown>(trx, batchId);
    await trx.deleteFrom('simulations').where('batch_id', '=', batchId).execute();
    return { ...left, held: null, simulation };
  }
  // A strip that is laid in anew is another one for the simulated feeder; the machine stays as it is.
  const { setup } = await trx.selectFrom('batches').select('setup').where('id', '=', batchId).executeTakeFirstOrThrow();
  await trx
    .updateTable('batches')
    .set({ setup: JSON.stringify({ ...setup, held: afterStrip(setup.held) }) })
    .where('id', '=', batchId)
    .execute();
  return { ...left, held: setup.held, simulation: null };
};

interface LoadedPiece {
  readonly id: string;
  readonly ordinal: Ordinal;
  readonly load: LoadNumber;
  readonly slot: SlotNumber;
}

const loadedPiece = async (trx: Trx, batchId: string, slot: SlotNumber): Promise<LoadedPiece> => {
  const piece = await trx
    .selectFrom('pieces')
    .select(['id', 'ordinal', 'load', 'slot'])
    .where('batch_id', '=', batchId)
    .where('slot', '=', slot)
    .where('state', '=', 'loaded')
    .executeTakeFirst();
  if (!piece)
    throw refused(
      {
        code: 'not-loaded',
        message: `Slot ${slot} holds no piece that waits to be judged. Another person may have judged it.`,
        field: `slot ${slot}`,
      },
      409,
    );
  return piece;
};

const keepVerdict = async (trx: Trx, piece: LoadedPiece, verdict: Verdict, by: string): Promise<void> => {
  if (verdict.state === 'scrap' && !verdict.cause)
    throw refused({
      code: 'no-cause',
      message: `Say why the piece in slot ${verdict.slot} is scrapped.`,
      field: `slot ${verdict.slot}`,
    });
  if (verdict.state === 'again') {
    await trx.deleteFrom('pieces').where('id', '=', piece.id).execute();
    return;
  }
  await trx
    .updateTable('pieces')
    .set({
      state: verdict.state,
      cause: verdict.cause,
      dx_mm: verdict.dx ?? null,
      dy_mm: verdict.dy ?? null,
      yaw_rad: verdict.yaw ?? null,
      at: new Date(),
      by,
    })
    .where('id', '=', piece.id)
    .execute();
};

const inWords = ({ state, cause, dx, dy }: Verdict): string => {
  const measured = dx === null || dx === undefined ? '' : `, off by ${dx.toFixed(2)}, ${(dy ?? 0).toFixed(2)} mm`;
  return state === 'done'
    ? `done${measured}${cause ? `, passed ${measured === '' ? 'unmeasured' : 'although out of tolerance'}: ${cause}` : ''}`
    : state === 'scrap'
      ? `scrapped: ${cause}${measured}`
      : 'goes back to the roster';
};

/**
 * Judges loaded pieces of a batch, each with its own line in the log that can be taken back while the load is
 * on. The caller holds the batch's row.
 *
 * @param leaves what leaves the bed when these are the last of their load
 * @param version the batch's version that this change makes
 */
export const judge = async (
  trx: Trx,
  batchId: string,
  verdicts: readonly Verdict[],
  leaves: 'nothing' | 'sheet' | 'strip',
  by: string,
  version: number,
): Promise<void> => {
  const judged: { piece: LoadedPiece; verdict: Verdict }[] = [];
  for (const verdict of verdicts) {
    const piece = await loadedPiece(trx, batchId, verdict.slot);
    await keepVerdict(trx, piece, verdict, by);
    judged.push({ piece, verdict });
  }
  const left = leaves === 'nothing' ? null : await leaveBed(trx, batchId, leaves);
  for (const [i, { piece, verdict }] of judged.entries()) {
    const { id, ordinal, load, slot } = piece;
    const undo: UndoStep = {
      kind: 'verdict',
      id,
      again: verdict.state === 'again' ? { ordinal, load, slot } : null,
      left: i === judged.length - 1 ? left : null,
    };
    await record(trx, {
      by,
      kind: verdict.state === 'scrap' ? 'scrap' : 'piece',
      batchId,
      subjectId: id,
      summary: `Piece ${ordinal} (load ${load}, slot ${slot}) ${inWords(verdict)}`,
      parts: [`piece:${id}`, ...(i === judged.length - 1 && left?.held ? ['held'] : [])],
      version,
      undo,
    });
  }
  const batch = await loadBatch(trx, batchId);
  if (batch.pieces.some((p) => p.state === 'loaded')) return;
  const count = (state: 'done' | 'scrap'): number => batch.pieces.filter((p) => p.state === state).length;
  const outside = batch.pieces.filter((p) => p.state === 'done' && p.cause && p.dx !== null).length;
  await record(trx, {
    by,
    kind: 'run',
    batchId,
    summary: `Load finished: ${count('done')} of ${batch.quantity} pieces done, ${count('scrap')} scrapped so far${outside > 0 ? `, ${outside} out of tolerance` : ''}`,
  });
};
