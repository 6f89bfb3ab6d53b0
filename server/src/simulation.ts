import type { Trx } from './db/connect';

/** A number from a text, the same every time: what a simulation begins from. */
export const seedOf = (text: string): number =>
  [...text].reduce((h, c) => (Math.imul(h, 31) + c.charCodeAt(0)) | 0, 7) >>> 0;

/** What a batch's simulated machine hides and how it stands; null when it was never touched. */
export const loadSimulation = async <T>(trx: Trx, batchId: string): Promise<T | null> => {
  const row = await trx.selectFrom('simulations').select('state').where('batch_id', '=', batchId).executeTakeFirst();
  return (row?.state as T | undefined) ?? null;
};

export const saveSimulation = async (trx: Trx, batchId: string, state: unknown): Promise<void> => {
  const json = JSON.stringify(state);
  await trx
    .insertInto('simulations')
    .values({ batch_id: batchId, state: json })
    .onConflict((c) => c.column('batch_id').doUpdateSet({ state: json }))
    .execute();
};
