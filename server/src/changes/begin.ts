import type { api, BatchDocument, BlankSpec, BodyOf, RecipeDocument, Setup } from '@bistre/contract';
import { chooseDrive, needsOf, WAYS } from '@bistre/core';
import { artRecipesIn, lastOfThePair, loadBlank, loadRecipe } from '../batches';
import type { Trx } from '../db/connect';
import { refused } from '../http/problem';
import { mustBeKept } from './artworks';
import { record } from './change';
import { freshSetup } from './fresh';
import { bringInRoster } from './roster';
import { giveSerials } from './serials';
import { mustBeThere } from './shelf-things';

/** A recipe by its id; refused when it was proved on another machine. */
export const provedOn = async (trx: Trx, recipeId: string, machineId: string): Promise<RecipeDocument> => {
  const recipe = await loadRecipe(trx, recipeId);
  if (recipe.machineId !== machineId)
    throw refused({
      code: 'other-machine',
      message: `${recipe.name} was proved on another machine.`,
      field: 'recipeId',
    });
  return recipe;
};

/**
 * How a new batch is held; on a drive it begins with what was found of drive and blank before. Refuses a way that does not
 * suit the blank, or that needs what is not on the Shelf.
 */
const heldFrom = async (
  trx: Trx,
  held: Setup['held'],
  blankId: string,
  { shape }: BlankSpec,
): Promise<Setup['held']> => {
  const way = WAYS[held.way];
  if (!way.suits(shape))
    throw refused({
      code: 'bad-way',
      message: `A ${shape.kind} blank is not held so: ${way.words}.`,
      field: 'held.way',
    });
  const { driveId, feederId } = needsOf(held);
  if (driveId) await mustBeThere(trx, 'drives', driveId);
  if (feederId) await mustBeThere(trx, 'feeders', feederId);
  const known = driveId ? await lastOfThePair(trx, blankId, driveId) : null;
  return driveId ? (chooseDrive(held, driveId, known?.held ?? null) as Setup['held']) : held;
};

/**
 * Begins a batch, with how it is held, its art and its names where they came with it; all of it or nothing.
 * @throws what names the field that does not hold
 */
export const beginBatch = async (
  trx: Trx,
  body: BodyOf<typeof api.createBatch>,
  by: string,
): Promise<Pick<BatchDocument, 'id'>> => {
  const { name, customer, quantity, spares, tolerance, dueAt, machineId, blankId } = body;
  const { faces, contents, roster } = body;
  await mustBeThere(trx, 'machines', machineId);
  await mustBeThere(trx, 'blanks', blankId);
  const { spec } = await loadBlank(trx, blankId);
  const held = body.held && (await heldFrom(trx, body.held, blankId, spec));
  const begun = freshSetup(name, spec.shape, quantity, held);
  const setup = { ...begun, faces: faces ?? begun.faces, contents: contents ?? begun.contents };
  await mustBeKept(trx, setup);
  for (const id of artRecipesIn(setup)) await provedOn(trx, id, machineId);
  const row = await trx
    .insertInto('batches')
    .values({
      ...(body.id === undefined ? {} : { id: body.id }),
      name,
      customer,
      quantity,
      spares,
      tolerance_mm: tolerance,
      due_at: dueAt ? new Date(dueAt) : null,
      machine_id: machineId,
      blank_id: blankId,
      // A person chooses it, for this material and machine.
      recipe_id: null,
      fixture_revision_id: null,
      closed_at: null,
      setup: JSON.stringify(setup),
      roster_columns: '[]',
      updated_by: by,
    })
    .returning(['id', 'version'])
    .executeTakeFirstOrThrow();
  await record(trx, {
    by,
    kind: 'batch',
    batchId: row.id,
    summary: `Batch begun: ${name}, ${quantity} pieces within ${tolerance} mm`,
  });
  if (roster) await bringInRoster(trx, row.id, roster, by, row.version);
  if (contents) await giveSerials(trx, row.id);
  return { id: row.id };
};
