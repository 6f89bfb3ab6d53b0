import type { BlankDocument, RecipeDocument, ShopStepDocument } from '@bistre/contract';
import { belongsTo, type WayId } from '@bistre/core';
import type { Trx } from '../db/connect';
import { notFound } from '../http/problem';

const COLUMNS = ['id', 'name', 'version', 'spec'] as const;

export const loadShopStep = async (trx: Trx, id: string): Promise<ShopStepDocument> => {
  const row = await trx.selectFrom('steps').select(COLUMNS).where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound('This step');
  return row;
};

/** Every step of the shop that was not put away, in the order in which they were added. */
export const listShopSteps = (trx: Trx): Promise<ShopStepDocument[]> =>
  trx.selectFrom('steps').select(COLUMNS).where('away_at', 'is', null).orderBy('added_at').orderBy('id').limit(500).execute(); // prettier-ignore

/** The steps that stand in a batch: those of its blank, its machine, its way, and of whatever its material is called. */
export const shopStepsOf = async (
  trx: Trx,
  batch: { blank: BlankDocument; machineId: string; recipe: RecipeDocument | null; way: WayId },
): Promise<ShopStepDocument[]> => {
  const { blank, machineId, recipe, way } = batch;
  const { material, shape } = blank.spec;
  const materials = [material ?? (shape.kind === 'round' ? shape.material : null), recipe?.spec.material];
  return (await listShopSteps(trx)).filter(({ spec }) => belongsTo(spec.of, { blankId: blank.id, machineId, way, materials })); // prettier-ignore
};
