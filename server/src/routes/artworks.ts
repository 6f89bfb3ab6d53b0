import { api } from '@bistre/contract';
import type { Express } from 'express';
import { loadArtwork } from '../batches';
import { addRevision, rememberedRoles } from '../changes/artworks';
import { createThing, saveThing } from '../changes/shelf-things';
import { reading } from '../db/connect';
import { HttpProblem, notFound } from '../http/problem';
import { serve, type Room } from '../http/serve';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;
const GONE = { code: 'not-found', message: 'This file is not kept.' };

/** Files that customers brought, and what is done with what they draw. */
export const artworkRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.listArtworks, async ({ trx }) => {
    const rows = await trx.selectFrom('artworks').select('id').where('away_at', 'is', null).orderBy('name').limit(500).execute(); // prettier-ignore
    const out = [];
    for (const { id } of rows) out.push(await loadArtwork(trx, id));
    return out;
  });
  serve(app, room, api.createArtwork, {
    ahead: ({ body, foreign }) => foreign('art', { name: body.fileName, text: body.text, base64: body.base64 }),
    then: async ({ body, by, trx }, art) => {
      const roles = await rememberedRoles(trx, body.customer, art.styles.map((s) => s.key)); // prettier-ignore
      const spec = { customer: body.customer, roles };
      const made = await createThing(trx, 'artworks', { id: body.id, name: body.name, document: spec, by });
      await addRevision(trx, made.id, body, art, by);
      return made;
    },
  });
  serve(app, room, api.readArt, {
    ahead: ({ body, foreign }) => foreign('art', { name: body.fileName, text: body.text, base64: body.base64 }),
    then: (_call, { shapes: _shapes, page: _page, notes, styles, ...art }) => Promise.resolve({ ...art, notes: [...notes], styles: styles.map((s) => ({ ...s })) }), // prettier-ignore
  });
  serve(app, room, api.saveArtwork, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'artworks', params.id, { ...body, document: body.spec, by });
    return loadArtwork(trx, params.id);
  });
  serve(app, room, api.reviseArtwork, {
    ahead: async ({ params, body, foreign, db }) => {
      await reading(db, (trx) => loadArtwork(trx, params.id));
      return foreign('art', { name: body.fileName, text: body.text, base64: body.base64 });
    },
    then: async ({ params, body, by, trx }, art) => {
      await addRevision(trx, params.id, body, art, by);
      return loadArtwork(trx, params.id);
    },
  });
  serve(app, room, api.artworkShapes, async ({ params, trx }) => {
    const row = await trx
      .selectFrom('artwork_revisions')
      .select('art')
      .where('artwork_id', '=', params.id)
      .where('number', '=', params.number)
      .executeTakeFirst();
    if (!row) throw notFound('This file');
    return { shapes: row.art.shapes };
  });
  app.get('/api/artworks/:id/revisions/:number/file', async (request, response) => {
    const { id, number } = request.params;
    const row =
      UUID.test(id) && /^\d{1,6}$/.test(number)
        ? await room.db
            .selectFrom('artwork_revisions')
            .select(['file', 'file_name'])
            .where('artwork_id', '=', id)
            .where('number', '=', Number(number))
            .executeTakeFirst()
        : undefined;
    if (!row) throw new HttpProblem(404, GONE);
    // Never shown as a page of its own: a drawing may hold a script.
    response
      .set({
        'content-type': 'application/octet-stream',
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(row.file_name)}`,
        'cache-control': 'private, max-age=31536000, immutable',
      })
      .send(row.file);
  });
};
