import { sql } from 'kysely';
import { loadBatch, stampOf } from '../batches';
import type { Trx } from '../db/connect';
import type { UndoStep } from '../db/schema';
import { notFound, Overtaken, refused, stale } from '../http/problem';

/** What a change of a batch is about to do, and what its writer knew. */
export interface Intent {
  /** What it replaces, as in {@link Happening.parts}; empty where it only adds. */
  readonly parts?: readonly string[];
  /** The batch's version as the writer saw it; given with what it replaces. */
  readonly version?: number;
  /** The stamp of what was reckoned for it beforehand. */
  readonly stamp?: string;
}

const clock = (at: Date): string => `${at.toISOString().slice(0, 10)} ${at.toISOString().slice(11, 16)} UTC`;

/** Who last changed any of these parts of a batch after the given version. */
const changedSince = (
  trx: Trx,
  batchId: string,
  parts: readonly string[],
  version: number,
): Promise<{ by: string; at: Date } | undefined> =>
  trx
    .selectFrom('events')
    .select(['by', 'at'])
    .where('batch_id', '=', batchId)
    .where('version', '>', version)
    .where(sql<boolean>`parts && ${[...parts]}::text[]`)
    .orderBy('id', 'desc')
    .limit(1)
    .executeTakeFirst();

/** Refuses when a batch is closed or put away: it is only read then. */
export const refuseWhenClosed = (
  closed: { readonly at: Date | null; readonly by: string | null },
  away: { readonly at: Date | null; readonly by: string | null },
): void => {
  if (away.at)
    throw refused(
      {
        code: 'put-away',
        message: `This batch was put away by ${away.by ?? 'somebody'} on ${clock(away.at)}. Bring it back before it is changed.`,
      },
      409,
    );
  if (closed.at)
    throw refused(
      {
        code: 'closed',
        message: `This batch was closed by ${closed.by ?? 'somebody'} on ${clock(closed.at)}. Open it again, with a reason, before it is changed.`,
      },
      409,
    );
};

interface OpenRow {
  closed_at: Date | null;
  closed_by: string | null;
  away_at: Date | null;
  away_by: string | null;
}

const mustBeOpen = (row: OpenRow): void =>
  refuseWhenClosed({ at: row.closed_at, by: row.closed_by }, { at: row.away_at, by: row.away_by });

/** Refuses when a batch is closed or put away, for what does not change the batch itself. */
export const mustStayOpen = async (trx: Trx, id: string): Promise<void> => {
  const row = await trx
    .selectFrom('batches')
    .select(['closed_at', 'closed_by', 'away_at', 'away_by'])
    .where('id', '=', id)
    .executeTakeFirst();
  if (!row) throw notFound('This batch');
  mustBeOpen(row);
};

/**
 * Opens a batch for a change: locks its row for this transaction, refuses when it is closed or put away, answers
 * 409 with what is stored when another replaced the same part since the writer's version, and marks it changed.
 *
 * @returns the batch's new version
 * @throws Overtaken when something changed that the change was reckoned from
 */
export const beginChange = async (trx: Trx, id: string, by: string, intent: Intent = {}): Promise<number> => {
  const row = await trx
    .selectFrom('batches')
    .select(['version', 'closed_at', 'closed_by', 'away_at', 'away_by'])
    .where('id', '=', id)
    .forUpdate()
    .executeTakeFirst();
  if (!row) throw notFound('This batch');
  mustBeOpen(row);
  if (intent.version !== undefined) {
    if (intent.version > row.version)
      throw refused({
        code: 'bad-version',
        message: 'This version of the batch does not exist yet.',
        field: 'version',
      });
    const changed = await changedSince(trx, id, intent.parts ?? [], intent.version);
    if (changed) throw stale(changed.by, changed.at, await loadBatch(trx, id));
  }
  if (intent.stamp !== undefined && intent.stamp !== (await stampOf(trx, id))) throw new Overtaken();
  return markChanged(trx, id, by);
};

/** Marks a batch as changed and returns its new version. Locks its row for this transaction. */
export const markChanged = async (trx: Trx, id: string, by: string): Promise<number> => {
  const row = await trx
    .updateTable('batches')
    .set({ version: sql`version + 1`, updated_at: new Date(), updated_by: by })
    .where('id', '=', id)
    .returning('version')
    .executeTakeFirst();
  if (!row) throw notFound('This batch');
  return row.version;
};

/** Something that happened, in words, with how to take it back. */
export interface Happening {
  readonly by: string;
  readonly kind: string;
  readonly batchId: string | null;
  readonly summary: string;
  readonly subjectId?: string;
  readonly detail?: Record<string, unknown>;
  /** What it replaced: a section's name, `batch`, `recipe`, `fixture`, `roster`; or one thing, as `reading:ID`. */
  readonly parts?: readonly string[];
  /** The batch's version it made. */
  readonly version?: number;
  readonly undo?: UndoStep;
}

/** Appends to the log, in the caller's transaction. */
export const record = async (trx: Trx, what: Happening): Promise<void> => {
  await trx
    .insertInto('events')
    .values({
      by: what.by,
      kind: what.kind,
      batch_id: what.batchId,
      subject_id: what.subjectId ?? null,
      summary: what.summary,
      detail: JSON.stringify(what.detail ?? {}),
      parts: [...(what.parts ?? [])],
      version: what.version ?? null,
      undo: what.undo ? JSON.stringify(what.undo) : null,
      undone_at: null,
    })
    .execute();
};
