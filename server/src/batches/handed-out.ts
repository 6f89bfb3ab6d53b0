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
  const { rows: since } = await sql<{ id: number; kind: string; summary: string; parts: string[] }>`
    select id, kind, summary, parts from events
      where id > ${first} and undone_at is null
        and ((batch_id = ${batchId} and kind = any(${[...CHANGES, ...LOADS]}::text[]))
          or (kind in ('shelf', 'sample', 'calibration') and subject_id = any(${[...things]}::uuid[])))
      order by id limit 2000`.execute(trx);
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
