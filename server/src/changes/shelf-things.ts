import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import type { ShelfKind } from '@bistre/contract';
import {
  loadArtwork,
  loadBlank,
  loadDrive,
  loadFeeder,
  loadMachine,
  loadRecipe,
  loadShopStep,
  loadTrial,
} from '../batches';
import type { Trx } from '../db/connect';
import type { Proved, UndoStep } from '../db/schema';
import { notFound, refused, stale } from '../http/problem';
import { record } from './change';

const THINGS = {
  blanks: { word: 'Blank', document: 'spec', load: loadBlank },
  machines: { word: 'Machine', document: 'profile', load: loadMachine },
  recipes: { word: 'Recipe', document: 'spec', load: loadRecipe },
  drives: { word: 'Drive', document: 'spec', load: loadDrive },
  feeders: { word: 'Feeder', document: 'spec', load: loadFeeder },
  artworks: { word: 'Artwork', document: 'spec', load: loadArtwork },
  steps: { word: 'Step', document: 'spec', load: loadShopStep },
  trials: { word: 'Trial', document: 'spec', load: loadTrial },
} as const satisfies Record<
  ShelfKind,
  { word: string; document: string; load: (trx: Trx, id: string) => Promise<unknown> }
>;

interface ThingRow {
  readonly name: string;
  readonly version: number;
  readonly document: unknown;
  readonly updated_at: Date;
  readonly away_at: Date | null;
}

const lockThing = async (trx: Trx, kind: ShelfKind, id: string): Promise<ThingRow> => {
  const found = await sql<ThingRow>`
    select name, version, ${sql.ref(THINGS[kind].document)} as document, updated_at, away_at
    from ${sql.table(kind)} where id = ${id} for update`.execute(trx);
  const row = found.rows[0];
  if (!row) throw notFound(`This ${THINGS[kind].word.toLowerCase()}`);
  if (row.away_at)
    throw refused(
      { code: 'put-away', message: `${row.name} is put away. Bring it back before it is changed or used.` },
      409,
    );
  return row;
};

/** Locks a thing that a batch is about to use, and refuses one that is put away. */
export const mustBeThere = async (trx: Trx, kind: ShelfKind, id: string): Promise<string> =>
  (await lockThing(trx, kind, id)).name;

/** Writes a thing that a measurement at the bench changed, as a new version of it. */
export const measureThing = async (trx: Trx, kind: ShelfKind, id: string, document: unknown): Promise<void> => {
  const { name } = await lockThing(trx, kind, id);
  await writeThing(trx, kind, id, name, document);
};

const writeThing = async (trx: Trx, kind: ShelfKind, id: string, name: string, document: unknown): Promise<void> => {
  await sql`
    update ${sql.table(kind)} set name = ${name}, ${sql.ref(THINGS[kind].document)} = ${JSON.stringify(document)},
      version = version + 1, updated_at = now() where id = ${id}`.execute(trx);
};

/** The open batch of a blank that was worked on last: a change of the blank shows in its log and can be undone there. */
export const openBatchOf = async (trx: Trx, blankId: string): Promise<string | null> => {
  const row = await trx
    .selectFrom('batches')
    .select('id')
    .where('blank_id', '=', blankId)
    .where('closed_at', 'is', null)
    .orderBy('updated_at', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row?.id ?? null;
};

/** Puts a new thing on the Shelf, in words in the log. */
export const createThing = async (
  trx: Trx,
  kind: ShelfKind,
  thing: { id?: string | undefined; name: string; document: unknown; by: string; machineId?: string },
): Promise<{ id: string }> => {
  const { word, document } = THINGS[kind];
  const same = await sql<{ away: boolean }>`
    select away_at is not null as away from ${sql.table(kind)} where name = ${thing.name}`.execute(trx);
  // The same is done to more than one material.
  if (same.rows[0] && kind !== 'steps')
    throw refused(
      {
        code: 'taken',
        message: same.rows[0].away
          ? `${thing.name} is put away. Bring it back on the Shelf, or choose another name.`
          : `There is a ${word.toLowerCase()} called ${thing.name} already. Choose another name.`,
        field: 'name',
      },
      409,
    );
  const { id = randomUUID() } = thing;
  const machine = thing.machineId ? sql`, machine_id` : sql``;
  const machineValue = thing.machineId ? sql`, ${thing.machineId}` : sql``;
  await sql`
    insert into ${sql.table(kind)} (id, name, ${sql.ref(document)}${machine})
    values (${id}, ${thing.name}, ${JSON.stringify(thing.document)}${machineValue})`.execute(trx);
  await record(trx, {
    by: thing.by,
    kind: 'shelf',
    batchId: null,
    subjectId: id,
    summary: `${word} put on the Shelf: ${thing.name}`,
  });
  return { id };
};

const lastChangedBy = async (trx: Trx, id: string): Promise<string> =>
  (
    await trx
      .selectFrom('events')
      .select('by')
      .where('subject_id', '=', id)
      .where('kind', 'in', ['shelf', 'undo', 'calibration'])
      .orderBy('id', 'desc')
      .limit(1)
      .executeTakeFirst()
  )?.by ?? 'Somebody';

/** What proved a recipe before it is changed. */
const proofBefore = async (trx: Trx, id: string): Promise<{ trialId: string | null; proved: Proved | null }> => {
  const row = await trx.selectFrom('recipes').select(['trial_id', 'proved']).where('id', '=', id).executeTakeFirst();
  return { trialId: row?.trial_id ?? null, proved: row?.proved ?? null };
};

/** Saves a thing of the Shelf and keeps how to take the change back; 409 when somebody saved since. */
export const saveThing = async (
  trx: Trx,
  kind: ShelfKind,
  id: string,
  change: { name: string; document: unknown; version: number; by: string },
): Promise<void> => {
  const before = await lockThing(trx, kind, id);
  if (before.version !== change.version)
    throw stale(await lastChangedBy(trx, id), before.updated_at, await THINGS[kind].load(trx, id));
  const proof = kind === 'recipes' ? await proofBefore(trx, id) : null;
  await writeThing(trx, kind, id, change.name, change.document);
  await record(trx, {
    by: change.by,
    kind: 'shelf',
    batchId: kind === 'blanks' ? await openBatchOf(trx, id) : null,
    subjectId: id,
    parts: [`thing:${id}`],
    summary: `${THINGS[kind].word} changed: ${change.name}`,
    undo: { kind: 'thing', shelf: kind, id, name: before.name, document: before.document, ...(proof ? { proof } : {}) }, // prettier-ignore
  });
};

/** Puts a thing of the Shelf back as it was before a change. */
export const restoreThing = async (trx: Trx, undo: Extract<UndoStep, { kind: 'thing' }>): Promise<void> => {
  await lockThing(trx, undo.shelf, undo.id);
  await writeThing(trx, undo.shelf, undo.id, undo.name, undo.document);
  if (undo.proof)
    await trx
      .updateTable('recipes')
      .set({ trial_id: undo.proof.trialId, proved: undo.proof.proved && JSON.stringify(undo.proof.proved) })
      .where('id', '=', undo.id)
      .execute();
};
