import { sql } from 'kysely';
import type { ShelfKind } from '@bistre/contract';
import { record } from '../batches';
import type { Trx } from '../db/connect';
import type { UndoStep } from '../db/schema';
import { notFound, refused, stale } from '../http/problem';

const THINGS = {
  blanks: { word: 'Blank', document: 'spec' },
  machines: { word: 'Machine', document: 'profile' },
  recipes: { word: 'Recipe', document: 'spec' },
  drives: { word: 'Drive', document: 'spec' },
  feeders: { word: 'Feeder', document: 'spec' },
} as const satisfies Record<ShelfKind, { word: string; document: string }>;

interface ThingRow {
  readonly name: string;
  readonly version: number;
  readonly document: unknown;
  readonly updated_at: Date;
}

const lockThing = async (trx: Trx, kind: ShelfKind, id: string): Promise<ThingRow> => {
  const found = await sql<ThingRow>`
    select name, version, ${sql.ref(THINGS[kind].document)} as document, updated_at
    from ${sql.table(kind)} where id = ${id} for update`.execute(trx);
  const row = found.rows[0];
  if (!row) throw notFound(`This ${THINGS[kind].word.toLowerCase()}`);
  return row;
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
  thing: { name: string; document: unknown; by: string; machineId?: string },
): Promise<{ id: string }> => {
  const { word, document } = THINGS[kind];
  const machine = thing.machineId ? sql`, machine_id` : sql``;
  const machineValue = thing.machineId ? sql`, ${thing.machineId}` : sql``;
  const made = await sql<{ id: string }>`
    insert into ${sql.table(kind)} (name, ${sql.ref(document)}${machine})
    values (${thing.name}, ${JSON.stringify(thing.document)}${machineValue}) returning id`.execute(trx);
  const { id } = made.rows[0]!;
  await record(trx, {
    by: thing.by,
    kind: 'shelf',
    batchId: null,
    subjectId: id,
    summary: `${word} put on the Shelf: ${thing.name}`,
  });
  return { id };
};

/** Saves a thing of the Shelf and keeps how to take the change back; 409 when somebody saved since. */
export const saveThing = async (
  trx: Trx,
  kind: ShelfKind,
  id: string,
  change: { name: string; document: unknown; version: number; by: string },
): Promise<void> => {
  const before = await lockThing(trx, kind, id);
  if (before.version !== change.version) throw stale('Somebody', before.updated_at);
  await writeThing(trx, kind, id, change.name, change.document);
  await record(trx, {
    by: change.by,
    kind: 'shelf',
    batchId: kind === 'blanks' ? await openBatchOf(trx, id) : null,
    subjectId: id,
    summary: `${THINGS[kind].word} changed: ${change.name}`,
    undo: { kind: 'thing', shelf: kind, id, name: before.name, document: before.document },
  });
};

/** Puts a thing of the Shelf back as it was before a change. */
export const restoreThing = async (trx: Trx, undo: Extract<UndoStep, { kind: 'thing' }>): Promise<void> => {
  await lockThing(trx, undo.shelf, undo.id);
  await writeThing(trx, undo.shelf, undo.id, undo.name, undo.document);
};

/** The last change of a thing that can be taken back. */
export const lastThingChange = async (
  trx: Trx,
  id: string,
): Promise<{ id: number; summary: string; undo: Extract<UndoStep, { kind: 'thing' }> } | null> => {
  const row = await trx
    .selectFrom('events')
    .select(['id', 'summary', 'undo'])
    .where('subject_id', '=', id)
    .where('undo', 'is not', null)
    .where('undone_at', 'is', null)
    .where(sql<boolean>`undo ->> 'kind' = 'thing'`)
    .orderBy('id', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row?.undo?.kind === 'thing' ? { id: row.id, summary: row.summary, undo: row.undo } : null;
};

/** Takes the last change of a thing back, in the log too. */
export const undoThing = async (trx: Trx, id: string, by: string): Promise<void> => {
  const last = await lastThingChange(trx, id);
  if (!last) throw refused({ code: 'nothing-to-undo', message: 'There is nothing to take back.' });
  await restoreThing(trx, last.undo);
  await trx.updateTable('events').set({ undone_at: new Date() }).where('id', '=', last.id).execute();
  await record(trx, { by, kind: 'undo', batchId: null, subjectId: id, summary: `Taken back: ${last.summary}` });
};
