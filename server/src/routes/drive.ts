import { api, type BatchDocument } from '@bistre/contract';
import {
  correctionInForce,
  reckonTravel,
  RING_READING,
  ringIsDoubtful,
  type BatchReckoning,
  type OnDrive,
} from '@bistre/core';
import type { Express } from 'express';
import { changedSince, loadBatch, record, reckonDocument, touch } from '../batches';
import type { Db, Trx } from '../db/connect';
import { notFound, refused, stale } from '../http/problem';
import { serve } from '../http/serve';

export const needDrive = (reckoning: BatchReckoning): OnDrive => {
  const { round } = reckoning;
  if (!round?.on)
    throw refused({ code: 'no-drive', message: round?.problem?.message ?? 'Choose a drive first.', field: 'drive' });
  return round.on;
};

const writeDriveSettings = async (
  trx: Trx,
  batch: BatchDocument,
  change: Partial<BatchDocument['setup']['drive']>,
): Promise<void> => {
  await trx
    .updateTable('batches')
    .set({ setup: JSON.stringify({ ...batch.setup, drive: { ...batch.setup.drive, ...change } }) })
    .where('id', '=', batch.id)
    .execute();
};

/** The last other batch of the same blank on the same drive: what it found out is where this one begins. */
const lastOfThePair = async (
  trx: Trx,
  batch: BatchDocument,
  driveId: string,
): Promise<BatchDocument['setup']['drive'] | null> => {
  const rows = await trx
    .selectFrom('batches')
    .select('setup')
    .where('blank_id', '=', batch.blank.id)
    .where('id', '<>', batch.id)
    .orderBy('updated_at', 'desc')
    .limit(20)
    .execute();
  return rows.find((r) => r.setup.drive.driveId === driveId)?.setup.drive ?? null;
};

/** Puts a changed machine setting on the putback list, once, with the value to return to. */
const keepPutback = async (
  trx: Trx,
  batch: BatchDocument,
  setting: string,
  was: string,
  now: string,
): Promise<void> => {
  const open = batch.putbacks.find((p) => p.setting === setting && p.restoredAt === null);
  if (open) {
    await trx.updateTable('putbacks').set({ now }).where('id', '=', open.id).execute();
    return;
  }
  await trx
    .insertInto('putbacks')
    .values({
      batch_id: batch.id,
      machine_id: batch.machine.id,
      setting,
      was,
      now,
      restored_at: null,
      restored_by: null,
    })
    .execute();
};

export const driveRoutes = (app: Express, db: Db): void => {
  serve(app, db, api.chooseDrive, async ({ params, body, by, trx }) => {
    const version = await touch(trx, params.id, by);
    const changed = await changedSince(trx, params.id, 'drive', body.version);
    if (changed) throw stale(changed.by, changed.at);
    const batch = await loadBatch(trx, params.id);
    const drive = body.driveId
      ? await trx.selectFrom('drives').select(['id', 'name']).where('id', '=', body.driveId).executeTakeFirst()
      : null;
    if (body.driveId && !drive) throw notFound('This drive');
    const known = drive ? await lastOfThePair(trx, batch, drive.id) : null;
    await writeDriveSettings(trx, batch, {
      ...(known ?? { found: null }),
      faces: batch.setup.drive.faces.length > 0 ? batch.setup.drive.faces : (known?.faces ?? []),
      driveId: drive?.id ?? null,
      numberSet: null,
      accelerationSet: null,
    });
    await record(trx, {
      by,
      kind: 'setup',
      batchId: params.id,
      summary: drive
        ? `Drive ${drive.name} chosen${known ? ', set up as for this blank the last time' : ''}`
        : 'Drive taken off',
      detail: { part: 'drive', version },
      undo: { kind: 'section', section: 'drive', before: batch.setup.drive },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.takeRing, async ({ params, body, by, trx }) => {
    await touch(trx, params.id, by);
    const batch = await loadBatch(trx, params.id);
    const { reckoning } = reckonDocument(batch, 500);
    const on = needDrive(reckoning);
    const { circumference } = on.ring;
    if (on.control.value !== null && batch.setup.drive.numberSet === null)
      throw refused({
        code: 'number-not-set',
        message: `Say first that ${on.control.value} ${on.control.unit} stands in the machine: a ring tells only about what it was burned with.`,
        field: 'number',
      });
    if (ringIsDoubtful(circumference, body.overlap) && !body.sure)
      throw refused({
        code: 'ring-doubtful',
        message: `${Math.abs(body.overlap).toFixed(1)} mm is more than a quarter turn. Is it a ${body.overlap > 0 ? 'gap (the line stopped short)' : 'an overlap'} after all, or another unit? Nothing was kept.`,
        field: 'ring',
      });
    const correction = correctionInForce(
      on.drive,
      on.seat.contactDiameter,
      batch.setup.drive.numberSet ?? 0,
      on.control.artScale,
    );
    const row = await trx
      .insertInto('rings')
      .values({
        batch_id: params.id,
        drive_id: on.drive.id,
        blank_id: batch.blank.id,
        overlap_mm: body.overlap,
        circumference_mm: circumference,
        correction,
        nominal_steps_per_mm: reckonTravel(on.drive, on.seat.contactDiameter).stepsPerMm,
        reading_error_mm: body.readingError ?? RING_READING / Math.sqrt(3),
        by,
        removed_at: null,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    const word = body.overlap > 0 ? 'overlaps by' : body.overlap < 0 ? 'stops short by' : 'closes to';
    await record(trx, {
      by,
      kind: 'calibration',
      batchId: params.id,
      subjectId: on.drive.id,
      summary: `Witness ring on ${on.drive.name} ${word} ${Math.abs(body.overlap).toFixed(2)} mm of ${circumference.toFixed(1)}`,
      undo: { kind: 'ring-taken', id: row.id },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.dropRing, async ({ params, by, trx }) => {
    await touch(trx, params.id, by);
    const row = await trx
      .updateTable('rings')
      .set({ removed_at: new Date() })
      .where('id', '=', params.ring)
      .where('removed_at', 'is', null)
      .returning(['overlap_mm'])
      .executeTakeFirst();
    if (!row) throw notFound('This ring');
    await record(trx, {
      by,
      kind: 'calibration',
      batchId: params.id,
      summary: `Ring reading ${row.overlap_mm.toFixed(2)} mm taken out`,
      undo: { kind: 'ring-dropped', id: params.ring },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.setOnMachine, async ({ params, body, by, trx }) => {
    const version = await touch(trx, params.id, by);
    const batch = await loadBatch(trx, params.id);
    const { reckoning } = reckonDocument(batch, 500);
    const on = needDrive(reckoning);
    const number = body.what === 'number';
    const setting = number ? on.control.where : 'rotary axis, acceleration';
    const was = number ? String(on.control.was ?? '') : String(on.drive.axisAcceleration);
    await writeDriveSettings(trx, batch, number ? { numberSet: body.value } : { accelerationSet: body.value });
    await keepPutback(trx, batch, setting, was, String(body.value));
    await record(trx, {
      by,
      kind: 'putback',
      batchId: params.id,
      summary: `${setting} set to ${body.value}; to be put back to ${was}`,
      detail: { part: 'drive', version },
      undo: {
        kind: 'section',
        section: 'drive',
        before: batch.setup.drive,
        putbacks: batch.putbacks
          .filter((p) => p.restoredAt === null)
          .map((p) => ({ setting: p.setting, was: p.was, now: p.now })),
      },
    });
    return loadBatch(trx, params.id);
  });
};
