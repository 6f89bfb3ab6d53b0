import { api, type BatchDocument, type CupView } from '@bistre/contract';
import {
  correctionInForce,
  letterGcode,
  RING_READING,
  ringGcode,
  ringIsDoubtful,
  turnedGcode,
  type BatchInput,
  type BatchReckoning,
  type OnDrive,
  type RoundShape,
} from '@bistre/core';
import { hideDrive, panelAtFirst, runOnDrive, type DrivePanel, type HiddenDrive } from '@bistre/core/bench-sim';
import type { Express } from 'express';
import { changedSince, loadBatch, record, reckonDocument, touch } from '../batches';
import type { Db, Trx } from '../db/connect';
import { notFound, refused, stale } from '../http/problem';
import { serve } from '../http/serve';

const needDrive = (reckoning: BatchReckoning): OnDrive => {
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

interface CupState {
  readonly hidden: HiddenDrive;
  readonly panel: DrivePanel;
}

const hash = (text: string): number => [...text].reduce((h, c) => (Math.imul(h, 31) + c.charCodeAt(0)) | 0, 7) >>> 0;

const loadCup = async (trx: Trx, batch: BatchDocument, on: OnDrive): Promise<CupState> => {
  const row = await trx.selectFrom('simulations').select('state').where('batch_id', '=', batch.id).executeTakeFirst();
  return (row?.state as CupState | undefined) ?? { hidden: hideDrive(hash(batch.id)), panel: panelAtFirst(on.drive) };
};

const saveCup = async (trx: Trx, batchId: string, state: CupState): Promise<void> => {
  const json = JSON.stringify(state);
  await trx
    .insertInto('simulations')
    .values({ batch_id: batchId, state: json })
    .onConflict((c) => c.column('batch_id').doUpdateSet({ state: json }))
    .execute();
};

const viewOf = (state: CupState, on: OnDrive): CupView => ({
  where: on.control.where,
  unit: on.control.unit,
  typed: on.control.value !== null,
  value: state.panel.value,
  acceleration: state.panel.acceleration,
});

const fileOf = (what: 'ring' | 'letter' | 'piece', input: BatchInput, r: BatchReckoning): string => {
  const made =
    what === 'ring'
      ? ringGcode(input, r)
      : what === 'letter'
        ? letterGcode(input, r)
        : turnedGcode(input, r, input.name);
  if (!made.ok) throw refused(made.problem);
  return typeof made.value === 'string' ? made.value : [...made.value].join('');
};

/** Middle of strokes by their length. */
const middleOf = (strokes: readonly number[]): { x: number; y: number } | null => {
  let [l, x, y] = [0, 0, 0];
  for (let i = 0; i + 3 < strokes.length; i += 4) {
    const [x0, y0, x1, y1] = [strokes[i]!, strokes[i + 1]!, strokes[i + 2]!, strokes[i + 3]!];
    const d = Math.hypot(x1 - x0, y1 - y0);
    l += d;
    x += (d * (x0 + x1)) / 2;
    y += (d * (y0 + y1)) / 2;
  }
  return l === 0 ? null : { x: x / l, y: y / l };
};

/** A drive that is as its rings say; what a piece should look like. */
const asCalibrated = (on: OnDrive): HiddenDrive => ({
  seed: 0,
  rollerScale: on.rings.rings > 0 ? 1 / on.rings.correction : 1,
  frictionScale: 10,
  slip: 0,
  turnFlipped: false,
  headFlipped: false,
  spread: 0,
  runOut: 0,
});

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

  serve(app, db, api.cupView, async ({ params, trx }) => {
    const batch = await loadBatch(trx, params.id);
    const on = needDrive(reckonDocument(batch, 500).reckoning);
    return viewOf(await loadCup(trx, batch, on), on);
  });

  serve(app, db, api.cupSet, async ({ params, body, trx }) => {
    const batch = await loadBatch(trx, params.id);
    const on = needDrive(reckonDocument(batch, 500).reckoning);
    const before = await loadCup(trx, batch, on);
    const state = {
      ...before,
      panel: {
        value: body.value ?? before.panel.value,
        acceleration: body.acceleration ?? before.panel.acceleration,
      },
    };
    await saveCup(trx, params.id, state);
    return viewOf(state, on);
  });

  serve(app, db, api.cupBurn, async ({ params, body, by, trx }) => {
    const batch = await loadBatch(trx, params.id);
    const { input, reckoning } = reckonDocument(batch, 500);
    const on = needDrive(reckoning);
    const state = await loadCup(trx, batch, on);
    await saveCup(trx, params.id, state);
    const file = fileOf(body.what, input, reckoning);
    const setup = {
      machine: input.machine,
      rimFaces: input.setup.drive.rimFaces,
      contactAt: input.setup.drive.contactAt,
      piece: body.what === 'piece' ? (reckoning.onTheBoard[0]?.ordinal ?? 0) : 0,
    };
    const { shape } = reckoning.round!;
    const run = runOnDrive(file, state.hidden, on.drive, shape satisfies RoundShape, { ...setup, panel: state.panel });
    if (!run.ok) throw refused(run.problem);
    const burned = run.value;
    const word = { ring: 'Witness ring', letter: 'F', piece: `Piece ${setup.piece}` }[body.what];
    await record(trx, {
      by,
      kind: 'simulated',
      batchId: params.id,
      summary: `${word} burned on the simulated drive${burned.thrown ? ': the blank left the rollers' : ''}`,
    });
    const plain = {
      ...input,
      setup: { ...input.setup, drive: { ...input.setup.drive, found: { quarters: 0, mirrored: false } as const } },
    };
    const meant =
      body.what === 'piece' && !burned.thrown
        ? runOnDrive(
            fileOf(
              'piece',
              plain,
              reckonDocument(
                {
                  ...batch,
                  setup: { ...batch.setup, drive: { ...batch.setup.drive, found: { quarters: 0, mirrored: false } } },
                },
                500,
              ).reckoning,
            ),
            asCalibrated(on),
            on.drive,
            shape,
            { ...setup, panel: { value: on.control.value ?? 0, acceleration: 1 } },
          )
        : null;
    const [a, b] = [middleOf(burned.strokes), meant?.ok ? middleOf(meant.value.strokes) : null];
    const round = (v: number): number => Math.round(v * 100) / 100;
    return {
      thrown: burned.thrown,
      strokes: burned.strokes.map(round),
      // A rule shows quarters of a millimetre.
      overlap: body.what === 'ring' && !burned.thrown ? Math.round(burned.closing * 4) / 4 : null,
      dx: a && b ? round(a.x - b.x) : null,
      dy: a && b ? round(a.y - b.y) : null,
      lines: burned.lines,
    };
  });
};
