import { sql } from 'kysely';
import { carriedOver, needsOf, suited } from '@bistre/core';
import type {
  BatchDocument,
  BlankDocument,
  DriveDocument,
  FeederDocument,
  MachineDocument,
  RecipeDocument,
  Setup,
} from '@bistre/contract';
import { approvalOf } from './approval';
import { artRecipesIn, artworksOf, withShapes } from './artworks';
import { handedOut } from './handed-out';
import { serialsOf } from './serials';
import { shopStepsOf } from './shop-steps';
import { latestUndoable } from '../changes/undoable';
import type { Trx } from '../db/connect';
import { leftElsewhere } from './left-elsewhere';
import { proofOf } from './trials';
import { notFound } from '../http/problem';

const iso = (date: Date): string => date.toISOString();
/** The latest feeds that make a feeder's calibration: a belt wears, old ones say less. */
const CALIBRATING_FEEDS = 12;
const isoOrNull = (date: Date | null): string | null => (date ? date.toISOString() : null);

export const loadBlank = async (trx: Trx, id: string): Promise<BlankDocument> => {
  const row = await trx.selectFrom('blanks').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound('This blank');
  const samples = await trx
    .selectFrom('blank_samples')
    .selectAll()
    .where('blank_id', '=', id)
    .where('removed_at', 'is', null)
    .orderBy('seq')
    .execute();
  const used = await trx
    .selectFrom('batches')
    .select('name')
    .where('blank_id', '=', id)
    .where('away_at', 'is', null)
    .orderBy('name')
    .execute();
  return {
    id,
    name: row.name,
    version: row.version,
    spec: row.spec,
    usedBy: used.map((b) => b.name),
    samples: samples.map((s) => ({ id: s.id, dimension: s.dimension, value: s.value_mm, at: iso(s.at), by: s.by })),
  };
};

export const loadMachine = async (trx: Trx, id: string): Promise<MachineDocument> => {
  const row = await trx.selectFrom('machines').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound('This machine');
  const changes = await trx
    .selectFrom('machine_changes')
    .select(['id', 'what', 'note', 'at', 'by'])
    .where('machine_id', '=', id)
    .where('removed_at', 'is', null)
    .orderBy('at', 'desc')
    .limit(100)
    .execute();
  return {
    id,
    name: row.name,
    version: row.version,
    profile: row.profile,
    changes: changes.map((c) => ({ ...c, at: iso(c.at) })),
  };
};

export const loadRecipe = async (trx: Trx, id: string): Promise<RecipeDocument> => {
  const row = await trx.selectFrom('recipes').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound('This recipe');
  const { name, version, machine_id: machineId, spec } = row;
  return { id, name, version, machineId, spec, proof: await proofOf(trx, row) };
};

export const loadDrive = async (trx: Trx, id: string): Promise<DriveDocument | null> => {
  const row = await trx.selectFrom('drives').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) return null;
  const rings = await trx
    .selectFrom('rings as r')
    .innerJoin('blanks as b', 'b.id', 'r.blank_id')
    .select(['r.overlap_mm', 'r.correction', 'r.at', 'b.name'])
    .where('r.drive_id', '=', id)
    .where('r.removed_at', 'is', null)
    .orderBy('r.seq', 'desc')
    .limit(100)
    .execute();
  return {
    id,
    name: row.name,
    version: row.version,
    spec: row.spec,
    history: rings.map((r) => ({ blankName: r.name, overlap: r.overlap_mm, correction: r.correction, at: iso(r.at) })),
  };
};

/** A feeder with the long feeds that calibrate it, oldest first. */
export const loadFeeder = async (trx: Trx, id: string): Promise<FeederDocument | null> => {
  const row = await trx.selectFrom('feeders').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) return null;
  const readings = await trx
    .selectFrom('feed_readings')
    .selectAll()
    .where('feeder_id', '=', id)
    .where('removed_at', 'is', null)
    .orderBy('seq', 'desc')
    .limit(CALIBRATING_FEEDS)
    .execute();
  return {
    id,
    name: row.name,
    version: row.version,
    spec: row.spec,
    readings: readings.reverse().map((r) => ({
      id: r.id,
      commanded: r.commanded_mm,
      measured: r.measured_mm,
      missed: r.missed_mm,
      at: iso(r.at),
      by: r.by,
    })),
  };
};

/** The last load that was judged before the marks were read as they are; 0 where none was. */
const laidAfter = (
  readings: readonly { readonly purpose: string; readonly at: Date }[],
  pieces: readonly { readonly load: number; readonly at: Date }[],
): number => {
  const last = readings.findLast((r) => r.purpose === 'place');
  return last ? pieces.reduce((most, p) => (p.at < last.at ? Math.max(most, p.load) : most), 0) : 0;
};

/**
 * Rings of one drive with one blank, whatever batch they were burned for, oldest first. A ring counts
 * against the drive as it was entered then: when its rollers are measured anew, their corrections
 * are carried over to the new entry.
 */
const loadRings = async (trx: Trx, drive: DriveDocument, blankId: string): Promise<BatchDocument['rings']> => {
  const rows = await trx
    .selectFrom('rings')
    .selectAll()
    .where('drive_id', '=', drive.id)
    .where('blank_id', '=', blankId)
    .where('removed_at', 'is', null)
    .orderBy('seq')
    .execute();
  const now = { id: drive.id, name: drive.name, ...drive.spec };
  return rows.map((r) => ({
    id: r.id,
    batchId: r.batch_id,
    overlap: r.overlap_mm,
    circumference: r.circumference_mm,
    correction: r.correction * carriedOver(now, r.nominal_steps_per_mm),
    readingError: r.reading_error_mm,
    diameter: r.piece_diameter_mm,
    at: iso(r.at),
    by: r.by,
  }));
};

const loadRevision = async (trx: Trx, id: string): Promise<BatchDocument['fixture']> => {
  const row = await trx
    .selectFrom('fixture_revisions as r')
    .innerJoin('fixtures as f', 'f.id', 'r.fixture_id')
    .select([
      'r.id',
      'r.fixture_id',
      'r.revision',
      'r.held',
      'r.beside',
      'r.basis',
      'r.saved_at',
      'r.saved_by',
      'f.name',
    ])
    .where('r.id', '=', id)
    .executeTakeFirst();
  return row
    ? {
        id: row.id,
        fixtureId: row.fixture_id,
        name: row.name,
        revision: row.revision,
        held: row.held,
        beside: row.beside,
        basis: row.basis,
        savedAt: iso(row.saved_at),
        savedBy: row.saved_by,
      }
    : null;
};

/** A batch's roster in one text: twenty thousand rows one by one would hold the thread up. */
const loadRoster = async (trx: Trx, id: string): Promise<Record<string, string>[]> => {
  const { rows } = await sql<{ roster: string | null }>`
    select json_agg(fields order by ordinal)::text as roster from roster_rows where batch_id = ${id}`.execute(trx);
  return rows[0]?.roster ? (JSON.parse(rows[0].roster) as Record<string, string>[]) : [];
};

/** What a blank was last burned with on a machine: the recipe of the last batch of it that had one, while it is there. */
const recipeBefore = async (
  trx: Trx,
  batch: { id: string; blank_id: string; machine_id: string },
): Promise<BatchDocument['recipeBefore']> => {
  const row = await trx
    .selectFrom('batches as b')
    .innerJoin('recipes as r', 'r.id', 'b.recipe_id')
    .select(['r.id', 'r.name', 'b.name as batch', 'b.updated_at'])
    .where('b.blank_id', '=', batch.blank_id)
    .where('b.machine_id', '=', batch.machine_id)
    .where('b.id', '!=', batch.id)
    .where('r.away_at', 'is', null)
    .orderBy('b.updated_at', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row ? { id: row.id, name: row.name, batch: row.batch, at: iso(row.updated_at) } : null;
};

/** Recipes that styles of a setup's art are burned by. */
const recipesOfArt = async (trx: Trx, setup: Pick<Setup, 'contents'>): Promise<BatchDocument['artRecipes']> => {
  const out: RecipeDocument[] = [];
  for (const id of artRecipesIn(setup)) out.push(await loadRecipe(trx, id));
  return out;
};

/** The whole of a batch, as the workspace shows it. */
export const loadBatch = async (trx: Trx, id: string): Promise<BatchDocument> => {
  const row = await trx.selectFrom('batches').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound('This batch');
  const readings = await trx
    .selectFrom('mark_readings')
    .selectAll()
    .where('batch_id', '=', id)
    .where('removed_at', 'is', null)
    .orderBy('seq')
    .execute();
  const roster = await loadRoster(trx, id);
  const pieces = await trx
    .selectFrom('pieces')
    .selectAll()
    .where('batch_id', '=', id)
    .orderBy('load')
    .orderBy('slot')
    .execute();
  const ticks = await trx.selectFrom('step_ticks').selectAll().where('batch_id', '=', id).orderBy('at').execute();
  const putbacks = await trx.selectFrom('putbacks').selectAll().where('batch_id', '=', id).orderBy('at').execute();
  const elsewhere = await leftElsewhere(trx, id, row.machine_id);
  const blank = await loadBlank(trx, row.blank_id);
  const { held, fixture } = suited(
    { ...row.setup, fixture: row.fixture_revision_id ? await loadRevision(trx, row.fixture_revision_id) : null },
    blank.spec.shape,
  );
  const { driveId, feederId } = needsOf(held);
  const drive = driveId ? await loadDrive(trx, driveId) : null;
  const rings = drive ? await loadRings(trx, drive, row.blank_id) : [];
  const feeder = feederId ? await loadFeeder(trx, feederId) : null;
  const feeders = await trx.selectFrom('feeders').select(['id', 'name', 'spec']).orderBy('name').limit(100).execute();
  const recipe = row.recipe_id ? await loadRecipe(trx, row.recipe_id) : null;
  const undoable = await latestUndoable(trx, 'batch_id', id);
  const simulated = await trx
    .selectFrom('simulations')
    .select('batch_id')
    .where('batch_id', '=', id)
    .executeTakeFirst();
  const document: Omit<BatchDocument, 'approval'> = {
    handedOut: await handedOut(trx, id, [
      row.blank_id,
      row.machine_id,
      ...[row.recipe_id, driveId, feederId].filter((t) => t !== null),
    ]),
    id,
    name: row.name,
    customer: row.customer,
    quantity: row.quantity,
    spares: row.spares,
    tolerance: row.tolerance_mm,
    dueAt: isoOrNull(row.due_at),
    version: row.version,
    closedAt: isoOrNull(row.closed_at),
    closedBy: row.closed_by,
    awayAt: isoOrNull(row.away_at),
    updatedAt: iso(row.updated_at),
    updatedBy: row.updated_by,
    blank,
    machine: await loadMachine(trx, row.machine_id),
    recipe,
    recipeBefore: row.recipe_id ? null : await recipeBefore(trx, row),
    stockRecipe: row.setup.burn.stockRecipeId ? await loadRecipe(trx, row.setup.burn.stockRecipeId) : null,
    artRecipes: await recipesOfArt(trx, row.setup),
    backRecipe: row.setup.back.recipeId ? await loadRecipe(trx, row.setup.back.recipeId) : null,
    fixture,
    setup: { ...row.setup, held },
    columns: row.roster_columns,
    roster,
    readings: readings.map((r) => ({
      id: r.id,
      mark: r.mark,
      x: r.x_mm,
      y: r.y_mm,
      source: r.source,
      purpose: r.purpose,
      at: iso(r.at),
      by: r.by,
    })),
    pieces: pieces.map((p) => ({
      id: p.id,
      ordinal: p.ordinal,
      load: p.load,
      slot: p.slot,
      state: p.state,
      cause: p.cause,
      dx: p.dx_mm,
      dy: p.dy_mm,
      yaw: p.yaw_rad,
    })),
    laidAfter: laidAfter(readings, pieces),
    firstApproved: row.first_approved,
    ticks: ticks.map((t) => ({ step: t.step, at: iso(t.at), by: t.by })),
    putbacks: putbacks.map((p) => ({
      id: p.id,
      setting: p.setting,
      was: p.was,
      now: p.now,
      restoredAt: isoOrNull(p.restored_at),
    })),
    elsewhere,
    drive,
    rings,
    feeder,
    feeders,
    artworks: await artworksOf(trx, row.setup),
    shopSteps: await shopStepsOf(trx, { blank, machineId: row.machine_id, recipe, way: held.way }),
    serials: await serialsOf(trx, id),
    canUndo: undoable ? { ...undoable, at: iso(undoable.at) } : null,
    simulated: simulated !== undefined,
  };
  return { ...document, approval: await approvalOf(trx, row.approval_wanted, document) };
};

/** A batch with the shapes of its artworks, as it is reckoned: in threads, where large ones hold nobody up. */
export const loadWhole = async (trx: Trx, id: string): Promise<BatchDocument> => {
  const batch = await loadBatch(trx, id);
  return { ...batch, artworks: await withShapes(trx, batch.artworks) };
};
