import {
  frozenEarlier,
  sectionsEarlier,
  setupEarlier,
  type EarlierBatch,
  type EarlierSections,
} from '@bistre/contract';
import { sql, type Kysely, type Migration } from 'kysely';

type Json = Readonly<Record<string, unknown>>;

interface OldBatch {
  readonly id: string;
  readonly setup: Json;
  readonly round: boolean;
  readonly lay: boolean;
}

const EARLIER = ['hold', 'long', 'drive', 'feed'] as const;
/** The sections of now that a change of an earlier section is a change of. */
const PARTS: Readonly<Record<(typeof EARLIER)[number], readonly string[]>> = {
  hold: ['held', 'beside'],
  long: ['held', 'art'],
  drive: ['held', 'faces'],
  feed: ['held'],
};

const sectionsOf = ({ setup }: OldBatch): EarlierSections => setup as unknown as EarlierSections;

/** How to take back what an event kept, in the sections of now. */
const undoOf = (undo: Json, batch: OldBatch): Json => {
  const of = (section: (typeof EARLIER)[number], before: unknown): Json =>
    sectionsEarlier(section, { ...sectionsOf(batch), [section]: before }, batch);
  const section = EARLIER.find((s) => s === undo['section']);
  if (undo['kind'] === 'section' && section) {
    const { section: _section, before, ...rest } = undo;
    return { ...rest, kind: 'sections', before: of(section, before) };
  }
  if (undo['kind'] === 'fixture' && undo['hold']) {
    const { hold, ...rest } = undo;
    return { ...rest, before: of('hold', hold) };
  }
  const left = undo['left'] as Json | null | undefined;
  if (undo['kind'] === 'verdict' && left) {
    const { feed, ...rest } = left;
    return { ...undo, left: { ...rest, held: feed ? of('feed', feed)['held'] : null } };
  }
  return undo;
};

/** A document that a reply carried, as it is now. */
const documentOf = (body: Json, batch: EarlierBatch): Json => {
  const fixture = body['fixture'] as Json | null;
  const { hold, ...revision } = fixture ?? {};
  return {
    ...body,
    setup: setupEarlier(body['setup'] as Json, batch),
    fixture: fixture && hold ? { ...revision, ...frozenEarlier(hold) } : fixture,
  };
};

const batchesOf = async (db: Kysely<unknown>): Promise<readonly OldBatch[]> =>
  (
    await sql<OldBatch>`
      select b.id, b.setup, coalesce(k.spec -> 'shape' ->> 'kind' = 'round', false) as round,
        exists (select from step_ticks t where t.batch_id = b.id and t.step = 'drive.cradle')
          or exists (select from pieces p where p.batch_id = b.id) as lay
      from batches b join blanks k on k.id = b.blank_id`.execute(db)
  ).rows;

const revisions = async (db: Kysely<unknown>): Promise<void> => {
  await sql`alter table fixture_revisions add column held jsonb, add column beside jsonb`.execute(db);
  const { rows } = await sql<{ id: string; hold: Json }>`select id, hold from fixture_revisions`.execute(db);
  for (const { id, hold } of rows) {
    const kept = frozenEarlier(hold);
    await sql`update fixture_revisions set held = ${JSON.stringify(kept.held)}::jsonb,
      beside = ${JSON.stringify(kept.beside)}::jsonb where id = ${id}`.execute(db);
  }
  await sql`alter table fixture_revisions drop column hold,
    alter column held set not null, alter column beside set not null`.execute(db);
};

const events = async (db: Kysely<unknown>, batch: OldBatch): Promise<void> => {
  const { rows } = await sql<{ id: string; undo: Json | null; parts: string[] }>`
    select id, undo, parts from events where batch_id = ${batch.id}
      and (parts && array['hold', 'long', 'drive', 'feed'] or undo ->> 'kind' in ('section', 'fixture', 'verdict'))`.execute(
    db,
  );
  for (const { id, undo, parts } of rows) {
    const now = parts.flatMap((p) => PARTS[p as keyof typeof PARTS] ?? [p]);
    await sql`update events set parts = ${[...new Set(now)]}::text[],
      undo = ${undo ? JSON.stringify(undoOf(undo, batch)) : null}::jsonb where id = ${id}`.execute(db);
  }
};

const replies = async (db: Kysely<unknown>, batches: readonly OldBatch[]): Promise<void> => {
  const { rows } = await sql<{ key: string; body: string }>`
    select key, body from replies where body like '%"setup":{"hold"%' or body like '%"hold":{%'`.execute(db);
  for (const { key, body } of rows) {
    const document = JSON.parse(body) as Json;
    const batch = batches.find((b) => b.id === document['id']);
    if (batch && document['setup'])
      await sql`update replies set body = ${JSON.stringify(documentOf(document, batch))} where key = ${key}`.execute(
        db,
      );
  }
};

/**
 * Each way of holding keeps what is its own: a setup's settings of all ways become one way's choice and findings,
 * with the ways that were set up and left beside it; so do revisions of fixtures, what takes changes back, and
 * answers that were sent.
 */
export const heldMigration: Migration = {
  async up(db: Kysely<unknown>) {
    const batches = await batchesOf(db);
    await revisions(db);
    for (const batch of batches) {
      await events(db, batch);
      await sql`update batches set setup = ${JSON.stringify(setupEarlier(batch.setup, batch))}::jsonb
        where id = ${batch.id}`.execute(db);
    }
    await replies(db, batches);
  },
};
