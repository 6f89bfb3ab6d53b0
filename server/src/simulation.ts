import { sql } from 'kysely';
import type { Trx } from './db/connect';
import { Overtaken } from './http/problem';

/** A number from a text, the same every time: what a simulation begins from. */
export const seedOf = (text: string): number =>
  [...text].reduce((h, c) => (Math.imul(h, 31) + c.charCodeAt(0)) | 0, 7) >>> 0;

/** What a batch's simulated machine hides and how it stands; null when it was never touched. */
export const loadSimulation = async <T>(trx: Trx, batchId: string): Promise<T | null> => {
  const row = await trx.selectFrom('simulations').select('state').where('batch_id', '=', batchId).executeTakeFirst();
  return (row?.state as T | undefined) ?? null;
};

/** The version of a batch's simulation; 0 when it was never touched. */
export const simulationVersion = async (trx: Trx, batchId: string): Promise<number> =>
  (await trx.selectFrom('simulations').select('version').where('batch_id', '=', batchId).executeTakeFirst())?.version ??
  0;

/** Puts a simulation's state in the place of whatever there is. */
export const saveSimulation = async (trx: Trx, batchId: string, state: unknown): Promise<void> => {
  const json = JSON.stringify(state);
  await trx
    .insertInto('simulations')
    .values({ batch_id: batchId, state: json })
    .onConflict((c) => c.column('batch_id').doUpdateSet({ state: json, version: sql`simulations.version + 1` }))
    .execute();
};

/**
 * Keeps a state that follows on a version of it.
 *
 * @throws Overtaken when the simulation was moved meanwhile
 */
export const followOn = async (trx: Trx, batchId: string, state: unknown, version: number): Promise<void> => {
  const json = JSON.stringify(state);
  const { numInsertedOrUpdatedRows: kept } = await trx
    .insertInto('simulations')
    .values({ batch_id: batchId, state: json })
    .onConflict((c) =>
      c
        .column('batch_id')
        .doUpdateSet({ state: json, version: sql`simulations.version + 1` })
        .where('simulations.version', '=', version),
    )
    .executeTakeFirst();
  if (kept !== 1n) throw new Overtaken();
};

/**
 * Keeps the blanks that were thrown for a photograph. A picture takes longer than a push of the head, so it does
 * not replace the rest of the state: whatever moved meanwhile stays moved.
 */
export const keepThrown = async (trx: Trx, batchId: string, state: unknown): Promise<void> => {
  await sql`insert into simulations (batch_id, state) values (${batchId}, ${JSON.stringify(state)}::jsonb)
    on conflict (batch_id) do update set version = simulations.version + 1,
      state = simulations.state || case when excluded.state ? 'thrown'
        then jsonb_build_object('thrown', excluded.state -> 'thrown') else '{}'::jsonb end`.execute(trx);
};
