import { createHash } from 'node:crypto';
import { sql } from 'kysely';
import type { ArtworkDocument } from '@bistre/contract';
import type { Role } from '@bistre/core';
import { artworksIn } from '../batches';
import type { Trx } from '../db/connect';
import { notFound, refused } from '../http/problem';
import type { ArtToKeep } from '../kept-art';
import { record } from './change';

/** What was said last of a customer's colours, so far as a new file uses them; nothing where nobody says whose it is. */
export const rememberedRoles = async (trx: Trx, customer: string, keys: readonly string[]): Promise<ArtworkDocument['spec']['roles']> => {
  if (customer.trim() === '' || keys.length === 0) return {};
  const { rows } = await sql<{ key: string; role: Role }>`
    select distinct on (r.key) r.key, r.value as role
    from artworks a, jsonb_each_text(a.spec -> 'roles') as r (key, value)
    where a.spec ->> 'customer' = ${customer} and r.key = any(${[...keys]}::text[])
    order by r.key, a.updated_at desc`.execute(trx);
  return Object.fromEntries(rows.map(({ key, role }) => [key, role]));
}; // prettier-ignore

/** Keeps a file as the next revision of an artwork; the one that is there already is not kept twice. */
export const addRevision = async (
  trx: Trx,
  id: string,
  file: { readonly fileName: string; readonly text: string; readonly base64?: boolean | null | undefined },
  art: Pick<ArtToKeep, 'facts' | 'shapes'>,
  by: string,
): Promise<number> => {
  const artwork = await trx.selectFrom('artworks').selectAll().where('id', '=', id).forUpdate().executeTakeFirst();
  if (!artwork) throw notFound('This artwork');
  if (artwork.away_at)
    throw refused({ code: 'put-away', message: `${artwork.name} is put away. Bring it back before it is changed.` }, 409); // prettier-ignore
  const bytes = Buffer.from(file.text, file.base64 ? 'base64' : 'utf8');
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const last = await trx
    .selectFrom('artwork_revisions')
    .select(['number', 'sha256'])
    .where('artwork_id', '=', id)
    .orderBy('number', 'desc')
    .limit(1)
    .executeTakeFirst();
  if (last?.sha256 === sha256)
    throw refused({ code: 'same-file', message: `This is the file that revision ${last.number} is already.`, field: 'text' }, 409); // prettier-ignore
  const number = (last?.number ?? 0) + 1;
  await trx
    .insertInto('artwork_revisions')
    .values({
      artwork_id: id,
      number,
      file_name: file.fileName,
      file: bytes,
      sha256,
      facts: art.facts,
      shapes: Buffer.from(art.shapes),
      by,
    })
    .execute();
  if (number > 1) {
    await sql`update artworks set version = version + 1, updated_at = now() where id = ${id}`.execute(trx);
    await record(trx, { by, kind: 'shelf', batchId: null, subjectId: id, summary: `Artwork ${artwork.name}: revision ${number}, ${file.fileName}` }); // prettier-ignore
  }
  return number;
};

/** Refuses contents whose artworks are put away, or whose revisions are not kept. */
export const mustBeKept = async (trx: Trx, setup: Parameters<typeof artworksIn>[0]): Promise<void> => {
  for (const { artworkId, revision } of artworksIn(setup)) {
    const row = await trx
      .selectFrom('artworks as a')
      .innerJoin('artwork_revisions as r', 'r.artwork_id', 'a.id')
      .select(['a.name', 'a.away_at'])
      .where('a.id', '=', artworkId)
      .where('r.number', '=', revision)
      .executeTakeFirst();
    if (!row) throw refused({ code: 'no-artwork', message: `Revision ${revision} of this artwork is not on the Shelf.`, field: 'contents' }, 409); // prettier-ignore
    if (row.away_at) throw refused({ code: 'put-away', message: `${row.name} is put away. Bring it back before it is used.`, field: 'contents' }, 409); // prettier-ignore
  }
};
