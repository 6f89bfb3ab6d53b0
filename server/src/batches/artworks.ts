import { sql } from 'kysely';
import type { ArtworkDocument, BatchDocument, Setup } from '@bistre/contract';
import type { Trx } from '../db/connect';
import { notFound } from '../http/problem';

/** An artwork with what each of its files is, without their shapes. */
export const loadArtwork = async (trx: Trx, id: string): Promise<ArtworkDocument> => {
  const row = await trx.selectFrom('artworks').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound('This artwork');
  const { rows: revisions } = await sql<ArtworkDocument['revisions'][number]>`
    select number, file_name as "fileName", length(file)::int as bytes, sha256, at, by,
      (art ->> 'width')::float8 as width, (art ->> 'height')::float8 as height, art ->> 'unit' as unit,
      art -> 'notes' as notes, art -> 'styles' as styles
    from artwork_revisions where artwork_id = ${id} order by number`.execute(trx);
  const { rows: used } = await sql<{ name: string }>`
    select name from batches where away_at is null and (setup -> 'contents' @> ${JSON.stringify([{ artworkId: id }])}::jsonb
      or setup -> 'faces' @> ${JSON.stringify([{ content: { artworkId: id } }])}::jsonb)
    order by name`.execute(trx);
  return {
    id,
    name: row.name,
    version: row.version,
    spec: row.spec,
    revisions: revisions.map((r) => ({ ...r, at: new Date(r.at).toISOString() })),
    usedBy: used.map((b) => b.name),
  };
};

/** Which artworks zones and faces carry, each at a revision. */
export const artworksIn = ({
  contents,
  faces,
}: Partial<Pick<Setup, 'contents' | 'faces'>>): readonly {
  readonly artworkId: string;
  readonly revision: number;
}[] => [...(contents ?? []), ...(faces ?? []).flatMap(({ content }) => (content.kind === 'artwork' ? [content] : []))];

/** The artworks that a batch's zones carry, each at the revision that was chosen. */
export const artworksOf = async (
  trx: Trx,
  setup: Pick<Setup, 'contents' | 'faces'>,
): Promise<BatchDocument['artworks']> => {
  const wanted = [...new Map(artworksIn(setup).map((c) => [`${c.artworkId} ${c.revision}`, c])).values()];
  const out: BatchDocument['artworks'] = [];
  for (const { artworkId, revision } of wanted) {
    const { rows } = await sql<BatchDocument['artworks'][number]>`
      select a.id, a.name, r.number as revision, a.spec -> 'roles' as roles, (a.spec ->> 'scale')::float8 as scale,
        r.art ->> 'unit' as unit, r.art -> 'shapes' as shapes
      from artworks a join artwork_revisions r on r.artwork_id = a.id
      where a.id = ${artworkId} and r.number = ${revision}`.execute(trx);
    if (rows[0]) out.push(rows[0]);
  }
  return out;
};
