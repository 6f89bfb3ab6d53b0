import { fixtureBasis, reckonBatch, type BatchReckoning, type HoldSettings } from '@bistre/core';
import { alphabetsFor, LABELS } from '../alphabets';
import { loadBatch, record, reckonDocument, touch } from '../batches';
import type { Trx } from '../db/connect';
import { refused } from '../http/problem';

/** A board that is cut keeps its pegs where they are, whatever is engraved on its pieces later. */
const asBuilt = (hold: HoldSettings, { fixings }: BatchReckoning): HoldSettings =>
  fixings.lines ? { ...hold, lines: { ...hold.lines, contacts: fixings.lines.contacts } } : hold;

const heldBy = ({ board, pocket, fixings }: BatchReckoning): string =>
  fixings.lines
    ? `${board!.slots.length} places with two pegs each`
    : fixings.locator
      ? `a locator board with ${fixings.locator.xs.length} × ${fixings.locator.ys.length} lines`
      : `${board!.slots.length} pockets of ${pocket.length.toFixed(2)} × ${pocket.width.toFixed(2)} mm`;

/** Saves the board of a batch as a new revision on the Shelf and puts it to use. */
export const saveFixture = async (trx: Trx, id: string, by: string): Promise<void> => {
  const batch = await loadBatch(trx, id);
  const { input } = reckonDocument({ ...batch, fixture: null }, 1_000);
  const fresh = reckonBatch(
    { ...input, fixture: null },
    { now: new Date(), alphabets: alphabetsFor([]), labels: LABELS, simulatedPieces: 1_000 },
  );
  if (!fresh.board) throw refused(fresh.boardProblem!);
  const name = batch.setup.hold.name;
  const existing = await trx.selectFrom('fixtures').selectAll().where('name', '=', name).executeTakeFirst();
  if (existing && existing.blank_id !== batch.blank.id)
    throw refused(
      {
        code: 'name-taken',
        message: `Another blank’s board is already called ${name}. Give this one a name of its own.`,
        field: 'hold.name',
      },
      409,
    );
  const fixture =
    existing ??
    (await trx
      .insertInto('fixtures')
      .values({ name, blank_id: batch.blank.id })
      .returningAll()
      .executeTakeFirstOrThrow());
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
      hold: JSON.stringify(asBuilt(batch.setup.hold, fresh)),
      basis: JSON.stringify(fixtureBasis(input.blank, fresh.sizes, fresh.pocket)),
      saved_by: by,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await trx.updateTable('batches').set({ fixture_revision_id: saved.id }).where('id', '=', id).execute();
  await trx
    .deleteFrom('step_ticks')
    .where('batch_id', '=', id)
    .where('step', 'in', ['hold.cut', 'hold.fit', 'hold.grid', 'hold.zero', 'place.walk', 'hold.locator-walk'])
    .execute();
  const version = await touch(trx, id, by);
  await record(trx, {
    by,
    kind: 'fixture',
    batchId: id,
    subjectId: fixture.id,
    summary: `Board ${name} r${revision} saved to the Shelf: ${heldBy(fresh)}`,
    detail: { part: 'fixture', version },
  });
};
