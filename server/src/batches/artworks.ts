import { sql, type RawBuilder } from 'kysely';
import type { ArtworkDocument, BatchDocument, Setup } from '@bistre/contract';
import type { Trx } from '../db/connect';
import { notFound } from '../http/problem';
import { unpackShapes } from '../kept-art';

/** Whether a setup carries an artwork: in a zone, on a face, or by its list. */
export const carriesArtwork = (setup: RawBuilder<unknown>, id: string): RawBuilder<boolean> =>
  sql<boolean>`(${setup} -> 'contents' @> ${JSON.stringify([{ artworkId: id }])}::jsonb
    or ${setup} -> 'contents' @> ${JSON.stringify([{ of: [{ artworkId: id }] }])}::jsonb
    or ${setup} -> 'faces' @> ${JSON.stringify([{ content: { artworkId: id } }])}::jsonb)`;

/** An artwork with what each of its files is, without their shapes. */
export const loadArtwork = async (trx: Trx, id: string): Promise<ArtworkDocument> => {
  const row = await trx.selectFrom('artworks').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound('This artwork');
  const { rows: revisions } = await sql<ArtworkDocument['revisions'][number]>`
    select number, file_name as "fileName", length(file)::int as bytes, sha256, at, by,
      (facts ->> 'width')::float8 as width, (facts ->> 'height')::float8 as height, facts ->> 'unit' as unit,
      facts -> 'notes' as notes, facts -> 'styles' as styles, (facts ->> 'doubt')::float8 as doubt
    from artwork_revisions where artwork_id = ${id} order by number`.execute(trx);
  const { rows: used } = await sql<{ name: string }>`
    select name from batches where away_at is null and ${carriesArtwork(sql`setup`, id)}
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

interface ArtworkUse {
  readonly artworkId: string;
  readonly revision: number;
}

/** Which artworks zones and faces carry, each at a revision. */
export const artworksIn = ({ contents, faces }: Partial<Pick<Setup, 'contents' | 'faces'>>): readonly ArtworkUse[] => [
  ...(contents ?? []).flatMap((c): ArtworkUse[] => {
    if (c.kind === 'artwork') return [c];
    if (c.kind !== 'listed') return [];
    return c.of.flatMap(({ artworkId, revision }) => (artworkId === null ? [] : [{ artworkId, revision }]));
  }),
  ...(faces ?? []).flatMap(({ content }) => (content.kind === 'artwork' ? [content] : [])),
];

/** Recipes that styles of art in zones are burned by, each once. */
export const artRecipesIn = ({ contents }: Pick<Setup, 'contents'>): readonly string[] => [
  ...new Set((contents ?? []).flatMap((c) => (c.kind === 'artwork' ? (c.recipes ?? []).map((o) => o.recipeId) : []))),
];

/** The artworks that a batch's zones carry, each at the revision that was chosen, without their shapes. */
export const artworksOf = async (
  trx: Trx,
  setup: Pick<Setup, 'contents' | 'faces'>,
): Promise<BatchDocument['artworks']> => {
  const wanted = [...new Map(artworksIn(setup).map((c) => [`${c.artworkId} ${c.revision}`, c])).values()];
  if (wanted.length === 0) return [];
  const { rows } = await sql<BatchDocument['artworks'][number]>`
    select a.id, a.name, r.number as revision, a.spec -> 'roles' as roles, (a.spec ->> 'scale')::float8 as scale,
      r.facts ->> 'unit' as unit, (r.facts ->> 'doubt')::float8 as doubt
    from unnest(${wanted.map((w) => w.artworkId)}::uuid[], ${wanted.map((w) => w.revision)}::int[]) with ordinality as w (id, number, nth)
      join artworks a on a.id = w.id join artwork_revisions r on r.artwork_id = a.id and r.number = w.number
    order by w.nth`.execute(trx);
  return rows;
};

/** Artworks with their shapes: large ones are read in threads alone. */
export const withShapes = async (trx: Trx, artworks: BatchDocument['artworks']): Promise<BatchDocument['artworks']> => {
  const out: BatchDocument['artworks'] = [];
  for (const artwork of artworks) {
    const row = await trx
      .selectFrom('artwork_revisions')
      .select('shapes')
      .where('artwork_id', '=', artwork.id)
      .where('number', '=', artwork.revision)
      .executeTakeFirstOrThrow();
    out.push({ ...artwork, shapes: unpackShapes(row.shapes) });
  }
  return out;
};
