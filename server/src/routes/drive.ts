import { api, type BatchDocument } from '@bistre/contract';
import { chooseDrive, setOnDrive } from '@bistre/core';
import type { Express } from 'express';
import { lastOfThePair, loadBatch } from '../batches';
import { beginChange, record } from '../changes/change';
import { mustBeThere } from '../changes/shelf-things';
import type { Trx } from '../db/connect';
import { notFound } from '../http/problem';
import { serve, type Room } from '../http/serve';

const writeSetup = async (trx: Trx, batch: BatchDocument, change: Partial<BatchDocument['setup']>): Promise<void> => {
  await trx
    .updateTable('batches')
    .set({ setup: JSON.stringify({ ...batch.setup, ...change }) })
    .where('id', '=', batch.id)
    .execute();
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
    await trx.updateTable('putbacks').set({ now, at: new Date() }).where('id', '=', open.id).execute();
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

export const driveRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.chooseDrive, async ({ params, body, by, trx }) => {
    const version = await beginChange(trx, params.id, by, { parts: ['held', 'faces'], version: body.version });
    const batch = await loadBatch(trx, params.id);
    const name = body.driveId ? await mustBeThere(trx, 'drives', body.driveId) : null;
    const known = body.driveId ? await lastOfThePair(trx, batch.blank.id, body.driveId, batch.id) : null;
    await writeSetup(trx, batch, {
      held: chooseDrive(batch.setup.held, body.driveId, known?.held ?? null),
      faces: batch.setup.faces.length > 0 ? batch.setup.faces : (known?.faces ?? []),
    });
    await record(trx, {
      by,
      kind: 'setup',
      batchId: params.id,
      summary:
        name === null
          ? 'Laid still, in a cradle'
          : `Drive ${name} chosen${known ? ', set up as for this blank the last time' : ''}`,
      parts: ['held', 'faces'],
      version,
      undo: { kind: 'sections', before: { held: batch.setup.held, faces: batch.setup.faces } },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, room, api.takeRing, {
    ahead: ({ params, body, reckon }) =>
      reckon('ringOf', { id: params.id, overlap: body.overlap, sure: body.sure ?? false }),
    then: async ({ params, body, by, trx }, { stamp, ring }) => {
      await beginChange(trx, params.id, by, { stamp });
      const batch = await loadBatch(trx, params.id);
      const row = await trx
        .insertInto('rings')
        .values({
          batch_id: params.id,
          drive_id: ring.driveId,
          blank_id: batch.blank.id,
          overlap_mm: ring.overlap,
          circumference_mm: ring.circumference,
          correction: ring.correction,
          nominal_steps_per_mm: ring.stepsPerMm,
          reading_error_mm: body.readingError ?? ring.readingError,
          piece_diameter_mm: body.diameter ?? null,
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
        subjectId: ring.driveId,
        summary: `Witness ring on ${ring.driveName} ${word} ${Math.abs(body.overlap).toFixed(2)} mm of ${ring.circumference.toFixed(1)}`,
        parts: [`ring:${row.id}`],
        undo: { kind: 'ring-taken', id: row.id },
      });
      return loadBatch(trx, params.id);
    },
  });

  serve(app, room, api.dropRing, async ({ params, by, trx }) => {
    await beginChange(trx, params.id, by);
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
      parts: [`ring:${params.ring}`],
      undo: { kind: 'ring-dropped', id: params.ring },
    });
    return loadBatch(trx, params.id);
  });

  serve(app, room, api.setOnMachine, {
    ahead: ({ params, body, reckon }) => reckon('settingOf', { id: params.id, what: body.what }),
    then: async ({ params, body, by, trx }, { stamp, setting, was }) => {
      const version = await beginChange(trx, params.id, by, { parts: ['held'], version: body.version, stamp });
      const batch = await loadBatch(trx, params.id);
      await writeSetup(trx, batch, {
        held: setOnDrive(
          batch.setup.held,
          body.what === 'number' ? { numberSet: body.value } : { accelerationSet: body.value },
        ),
      });
      await keepPutback(trx, batch, setting, was, String(body.value));
      await record(trx, {
        by,
        kind: 'putback',
        batchId: params.id,
        summary: `${setting} set to ${body.value}; to be put back to ${was}`,
        parts: ['held'],
        version,
        undo: {
          kind: 'section',
          section: 'held',
          before: batch.setup.held,
          putbacks: batch.putbacks
            .filter((p) => p.restoredAt === null)
            .map((p) => ({ setting: p.setting, was: p.was, now: p.now })),
        },
      });
      return loadBatch(trx, params.id);
    },
  });
};
