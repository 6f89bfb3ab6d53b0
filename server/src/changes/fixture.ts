import { sql } from 'kysely';
import {
  asBuilt,
  fixtureBasis,
  frozen,
  placesInWords,
  reckonBatch,
  type Chosen,
  type FixtureBasis,
  type FrozenBeside,
} from '@bistre/core';
import { alphabetsFor, LABELS } from '../alphabets';
import { needBoard, reckonDocument } from '../batches';
import type { BatchDocument } from '@bistre/contract';
import type { Trx } from '../db/connect';
import { refused } from '../http/problem';
import { record } from './change';

/** What a new revision of a batch's board is made of; reckoned before anything is written. */
export interface FreshBoard {
  readonly name: string;
  readonly blankId: string;
  readonly held: Chosen;
  readonly beside: FrozenBeside;
  readonly basis: FixtureBasis;
  readonly words: string;
}

/** Reckons a batch's board anew from its settings, as it would be saved. Throws what is wrong with it. */
export const freshBoard = (batch: BatchDocument): FreshBoard => {
  const { input } = reckonDocument({ ...batch, fixture: null }, 1_000);
  const fresh = reckonBatch(
    { ...input, fixture: null },
    { now: new Date(), alphabets: alphabetsFor([]), labels: LABELS, simulatedPieces: 1_000 },
  );
  needBoard(fresh);
  return {
    name: 'name' in batch.setup.held.choice ? batch.setup.held.choice.name : 'BOARD',
    blankId: batch.blank.id,
    ...frozen({ ...batch.setup, held: asBuilt(batch.setup.held, fresh) }),
    basis: fixtureBasis(input.blank, fresh.sizes, fresh.pocket),
    words: placesInWords(input, fresh),
  };
};

/** Steps that are done anew with a board that was made anew. */
const STEPS_OF_A_BOARD = ['hold.cut', 'hold.fit', 'hold.grid', 'hold.zero', 'place.walk', 'hold.locator-walk'];

/**
 * Saves a board as a new revision on the Shelf and puts it to use. The caller holds the batch's row.
 *
 * @param version the batch's version that this change makes
 */
export const saveFixture = async (
  trx: Trx,
  id: string,
  { name, blankId, held, beside, basis, words }: FreshBoard,
  by: string,
  version: number,
): Promise<void> => {
  await sql`select pg_advisory_xact_lock(hashtext('fixture'), hashtext(${name}))`.execute(trx);
  const existing = await trx.selectFrom('fixtures').selectAll().where('name', '=', name).executeTakeFirst();
  if (existing && (existing.blank_id !== blankId || existing.away_at))
    throw refused(
      {
        code: 'name-taken',
        message: existing.away_at
          ? `A board called ${name} is put away. Bring it back on the Shelf, or give this one a name of its own.`
          : `Another blank’s board is already called ${name}. Give this one a name of its own.`,
        field: 'hold.name',
      },
      409,
    );
  const fixture =
    existing ??
    (await trx.insertInto('fixtures').values({ name, blank_id: blankId }).returningAll().executeTakeFirstOrThrow());
  const last = await trx
    .selectFrom('fixture_revisions')
    .select((e) => e.fn.max('revision').as('n'))
    .where('fixture_id', '=', fixture.id)
    .executeTakeFirst();
  const revision = Number(last?.n ?? 0) + 1;
  const saved = await trx
    .insertInto('fixture_revisions')
    .values({
      fixture_id: fixture.id,
      revision,
      held: JSON.stringify(held),
      beside: JSON.stringify(beside),
      basis: JSON.stringify(basis),
      saved_by: by,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  const before = await trx
    .selectFrom('batches')
    .select('fixture_revision_id')
    .where('id', '=', id)
    .executeTakeFirstOrThrow();
  await trx.updateTable('batches').set({ fixture_revision_id: saved.id }).where('id', '=', id).execute();
  const ticks = await trx
    .deleteFrom('step_ticks')
    .where('batch_id', '=', id)
    .where('step', 'in', STEPS_OF_A_BOARD)
    .returning(['step', 'by'])
    .execute();
  await record(trx, {
    by,
    kind: 'fixture',
    batchId: id,
    subjectId: fixture.id,
    summary: `Board ${name} r${revision} saved to the Shelf: ${words}`,
    parts: ['fixture'],
    version,
    undo: { kind: 'fixture', revisionId: before.fixture_revision_id, ticks },
  });
};
