import { sql } from 'kysely';
import type { BatchDocument } from '@bistre/contract';
import type { Trx } from '../db/connect';

/** Parts of a batch that no file says anything of. */
const UNSAID = ['close', 'approval'];
/** Parts whose change only what burns or lists pieces says anything of: a board is the same whoever is on it. */
const OF_PIECES = ['roster', 'lettering', 'back', 'contents', 'looks', 'place', 'burn'];
/** Kinds of happenings that change what a file says. */
const CHANGES = ['setup', 'batch', 'roster', 'reading', 'fixture', 'calibration', 'undo'];
const LOADS = ['load', 'verdict', 'first piece'];
/** Changes that are looked at, oldest first: the first that matters is named. */
const LOOKED_AT = 2_000;
/** Files that make what holds or measures, not the pieces. */
const OF_THE_BOARD = /^(board|gauge|fit-gauge|square|marks|card|grid|locator|pins|pin-gauge|stand|cradle|template|ring|turn|letter)\./; // prettier-ignore

/**
 * The files that were handed out of a batch, each the last time, and what happened since that makes it say what is not
 * so any more.
 * @param things of the Shelf that it is made of
 */
export const handedOut = async (
  trx: Trx,
  batchId: string,
  things: readonly string[],
): Promise<BatchDocument['handedOut']> => {
  const { rows: files } = await sql<{ id: number; file: string; at: Date; by: string }>`
    select distinct on (detail ->> 'file') id, detail ->> 'file' as file, at, by
      from events where batch_id = ${batchId} and kind = 'file' and detail ->> 'file' is not null
      order by detail ->> 'file', id desc`.execute(trx);
  if (files.length === 0) return [];
  const first = Math.min(...files.map((f) => Number(f.id)));
  // Each by an index of its own. Of loads and verdicts the latest says enough: thousands of them hide no change.
  const { rows: since } = await sql<{ id: number; kind: string; summary: string; parts: string[] }>`
    (select id, kind, summary, parts from events where batch_id = ${batchId} and id > ${first}
        and kind = any(${CHANGES}::text[]) and undone_at is null order by id limit ${LOOKED_AT})
    union all
    (select id, kind, summary, parts from events where batch_id = ${batchId} and id > ${first}
        and kind = any(${LOADS}::text[]) and undone_at is null order by id desc limit 1)
    union all
    (select id, kind, summary, parts from events where subject_id = any(${[...things]}::uuid[]) and undo is not null
        and id > ${first} and kind in ('shelf', 'sample', 'calibration') and undone_at is null order by id limit ${LOOKED_AT})
    order by id`.execute(trx);
  return files.map(({ id, file, at, by }) => {
    const board = OF_THE_BOARD.test(file);
    const matters = since.find((e) => {
      if (Number(e.id) <= Number(id)) return false;
      if (LOADS.includes(e.kind)) return !board && file !== 'setup.pdf' && !file.startsWith('proof');
      if (e.parts.length === 0) return true;
      const said = e.parts.filter((p) => !UNSAID.includes(p) && !p.startsWith('tick:'));
      return said.some((p) => !board || !(OF_PIECES.includes(p) || p.startsWith('reading:')));
    });
    return { file, at: at.toISOString(), by, since: matters?.summary ?? null };
  });
};
