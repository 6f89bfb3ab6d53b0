import { api, type BatchDocument } from '@bistre/contract';
import {
  cutFromSheet,
  effectiveHold,
  firstIsApproved,
  isFed,
  needsRoster,
  nextLoad,
  nextOnPhoto,
  nextOnStrip,
} from '@bistre/core';
import type { Express } from 'express';
import { loadBatch, record, reckonDocument, touch } from '../batches';
import type { Db, Trx } from '../db/connect';
import { notFound, refused } from '../http/problem';
import { serve } from '../http/serve';

/** Ticks that hold for the next sheet or strip too. */
const KEPT = ['place.home', 'feed.home', 'feed.room', 'feed.material', 'feed.calibrate'];

/** Whether a strip is used up; the next one is laid in and squared anew. */
const stripIsDone = async (trx: Trx, batch: BatchDocument): Promise<boolean> => {
  const { reckoning } = reckonDocument(batch, 200);
  const { feed } = reckoning;
  if (!feed) return true;
  if (!reckoning.long && (feed.strip === 1 || feed.current !== 1 || reckoning.run.finished)) return false;
  await trx
    .updateTable('batches')
    .set({ setup: JSON.stringify({ ...batch.setup, feed: { ...batch.setup.feed, squaring: null, used: [] } }) })
    .where('id', '=', batch.id)
    .execute();
  return true;
};

/** The next sheet lies elsewhere: marks and turn of the one that is done say nothing about it. */
const leaveSheet = async (trx: Trx, batch: BatchDocument): Promise<void> => {
  if (!cutFromSheet(effectiveHold(batch).method)) return;
  // What a photograph showed holds until the next one is taken.
  if (effectiveHold(batch).method === 'photo') return;
  if (isFed(batch) && !(await stripIsDone(trx, batch))) return;
  await trx
    .updateTable('mark_readings')
    .set({ removed_at: new Date() })
    .where('batch_id', '=', batch.id)
    .where('removed_at', 'is', null)
    .execute();
  await trx
    .deleteFrom('step_ticks')
    .where('batch_id', '=', batch.id)
    .where((w) =>
      w.or([
        w('step', 'like', 'place.%'),
        w('step', 'like', 'feed.%'),
        w('step', 'like', 'run.segment-%'),
        w('step', 'in', ['hold.print', 'hold.bar']),
      ]),
    )
    .where('step', 'not in', KEPT)
    .execute();
  // A strip that is laid in anew is another one for the simulated feeder; the machine stays as it is.
  if (!isFed(batch)) await trx.deleteFrom('simulations').where('batch_id', '=', batch.id).execute();
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

export const runRoutes = (app: Express, db: Db): void => {
  serve(app, db, api.startLoad, async ({ params, by, trx }) => {
    await touch(trx, params.id, by);
    const batch = await loadBatch(trx, params.id);
    const { input, reckoning } = reckonDocument(batch, 1_000);
    if (batch.closedAt) throw refused({ code: 'closed', message: 'This batch is closed.' });
    if (reckoning.run.openLoad !== null)
      throw refused({
        code: 'load-open',
        message: `Load ${reckoning.run.openLoad} is still on the machine. Judge its pieces first.`,
      });
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
    const fill = reckoning.photo
      ? nextOnPhoto(reckoning)
      : reckoning.feed && !reckoning.long
        ? nextOnStrip(reckoning)
        : nextLoad({
            quantity: batch.quantity,
            spares: batch.spares,
            capacity: reckoning.board?.slots.length ?? 1,
            firstApproved: firstIsApproved(batch),
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
    const load = Math.max(0, ...batch.pieces.map((p) => p.load)) + 1;
    await trx
      .insertInto('pieces')
      .values(
        fill.map((f) => ({
          batch_id: params.id,
          ordinal: f.ordinal,
          load,
          slot: f.slot,
          state: 'loaded' as const,
          cause: null,
          dx_mm: null,
          dy_mm: null,
          yaw_rad: null,
          by,
        })),
      )
      .execute();
    await record(trx, {
      by,
      kind: 'load',
      batchId: params.id,
      summary: `Load ${load} filled: ${fill.length} ${fill.length === 1 ? 'piece, the first' : 'pieces'}`,
      detail: { load, slots: fill.length },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.judgePieces, async ({ params, body, by, trx }) => {
    await touch(trx, params.id, by);
    if (body.pieces.some((p) => p.state === 'done')) mustBeWhole(await loadBatch(trx, params.id));
    for (const verdict of body.pieces) {
      const piece = await trx
        .selectFrom('pieces')
        .selectAll()
        .where('batch_id', '=', params.id)
        .where('slot', '=', verdict.slot)
        .where('state', '=', 'loaded')
        .executeTakeFirst();
      if (!piece)
        throw refused(
          {
            code: 'not-loaded',
            message: `Slot ${verdict.slot} holds no piece that waits to be judged. Another person may have judged it.`,
            field: `slot ${verdict.slot}`,
          },
          409,
        );
      if (verdict.state === 'scrap' && !verdict.cause)
        throw refused({
          code: 'no-cause',
          message: `Say why the piece in slot ${verdict.slot} is scrapped.`,
          field: `slot ${verdict.slot}`,
        });
      if (verdict.state === 'again') await trx.deleteFrom('pieces').where('id', '=', piece.id).execute();
      else {
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
      }
      const measured =
        verdict.dx === null || verdict.dx === undefined
          ? ''
          : `, off by ${verdict.dx.toFixed(2)}, ${(verdict.dy ?? 0).toFixed(2)} mm`;
      const word =
        verdict.state === 'done'
          ? `done${measured}`
          : verdict.state === 'scrap'
            ? `scrapped: ${verdict.cause}${measured}`
            : 'goes back to the roster';
      await record(trx, {
        by,
        kind: verdict.state === 'scrap' ? 'scrap' : 'piece',
        batchId: params.id,
        subjectId: piece.id,
        summary: `Piece ${piece.ordinal} (load ${piece.load}, slot ${piece.slot}) ${word}`,
      });
    }
    const batch = await loadBatch(trx, params.id);
    if (batch.pieces.every((p) => p.state !== 'loaded')) {
      await leaveSheet(trx, batch);
      const done = batch.pieces.filter((p) => p.state === 'done').length;
      await record(trx, {
        by,
        kind: 'run',
        batchId: params.id,
        summary: `Load finished: ${done} of ${batch.quantity} pieces done, ${batch.pieces.filter((p) => p.state === 'scrap').length} scrapped so far`,
      });
    }
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.approveFirst, async ({ params, body, by, trx }) => {
    await touch(trx, params.id, by);
    const batch = await loadBatch(trx, params.id);
    if (body.approved && !batch.pieces.some((p) => p.state === 'done'))
      throw refused({ code: 'no-first', message: 'Judge the first piece done before it is approved.' });
    await trx.updateTable('batches').set({ first_approved: body.approved }).where('id', '=', params.id).execute();
    await record(trx, {
      by,
      kind: 'first piece',
      batchId: params.id,
      summary: body.approved ? 'First piece approved' : 'Approval of the first piece taken back',
    });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.addPutback, async ({ params, body, by, trx }) => {
    await touch(trx, params.id, by);
    const batch = await trx
      .selectFrom('batches')
      .select('machine_id')
      .where('id', '=', params.id)
      .executeTakeFirstOrThrow();
    await trx
      .insertInto('putbacks')
      .values({ batch_id: params.id, machine_id: batch.machine_id, ...body, restored_at: null, restored_by: null })
      .execute();
    await record(trx, {
      by,
      kind: 'putback',
      batchId: params.id,
      summary: `${body.setting} changed from ${body.was} to ${body.now}: to be put back`,
    });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.restorePutback, async ({ params, body, by, trx }) => {
    await touch(trx, params.id, by);
    const row = await trx
      .updateTable('putbacks')
      .set({ restored_at: body.restored ? new Date() : null, restored_by: body.restored ? by : null })
      .where('id', '=', params.putback)
      .where('batch_id', '=', params.id)
      .returningAll()
      .executeTakeFirst();
    if (!row) throw notFound('This setting');
    await record(trx, {
      by,
      kind: 'putback',
      batchId: params.id,
      summary: body.restored ? `${row.setting} put back to ${row.was}` : `${row.setting} is not put back after all`,
    });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.closeBatch, async ({ params, by, trx }) => {
    await touch(trx, params.id, by);
    const batch = await loadBatch(trx, params.id);
    const open = batch.putbacks.filter((p) => p.restoredAt === null);
    if (open.length > 0)
      throw refused({
        code: 'not-put-back',
        message: `${open[0]!.setting} is still at ${open[0]!.now}; put it back to ${open[0]!.was} first.`,
        field: 'close',
      });
    if (batch.pieces.some((p) => p.state === 'loaded'))
      throw refused({
        code: 'load-open',
        message: 'A load is still on the machine. Judge its pieces first.',
        field: 'run',
      });
    const done = batch.pieces.filter((p) => p.state === 'done').length;
    const scrap = batch.pieces.filter((p) => p.state === 'scrap').length;
    await trx.updateTable('batches').set({ closed_at: new Date() }).where('id', '=', params.id).execute();
    await record(trx, {
      by,
      kind: 'closed',
      batchId: params.id,
      summary: `Batch closed: ${done} of ${batch.quantity} done, ${scrap} scrapped${batch.setup.close.notes ? `. ${batch.setup.close.notes.slice(0, 200)}` : ''}`,
    });
    return loadBatch(trx, params.id);
  });
};
