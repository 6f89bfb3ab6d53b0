import { createHash } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import { api, isOfBytes, MOST_ART_BYTES, READ_ART, type AnyEndpoint, type BodyOf } from '@bistre/contract';
import express, { type Express } from 'express';
import { loadArtwork } from '../batches';
import { addRevision, rememberedRoles } from '../changes/artworks';
import { createThing, saveThing } from '../changes/shelf-things';
import { reading } from '../db/connect';
import { HttpProblem, notFound, refused } from '../http/problem';
import { goneSignal, serve, type Ahead, type Room } from '../http/serve';
import { Recent } from '../recent';
import type { ForeignJobs } from '../work/foreign';
import type { Workers } from '../work/pool';

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
  // A file is read when it is chosen, and most often kept a moment later.
  const recent = new Recent<Awaited<ReturnType<ForeignJobs['art']>>>(3, 120_000);
  const read = (name: string, bytes: Buffer, ofBytes: boolean, foreign: Workers['foreign'], signal?: AbortSignal) =>
    recent.get(
      createHash('sha256').update(`${name} ${ofBytes} `).update(bytes).digest('hex'),
      () => foreign('art', { name, bytes, ofBytes }, signal),
    ); // prettier-ignore
  const readBody = ({ fileName, text, base64 }: BodyOf<typeof api.reviseArtwork>, foreign: Ahead<AnyEndpoint>['foreign']) =>
    read(fileName, Buffer.from(text, base64 ? 'base64' : 'utf8'), base64 ?? false, foreign); // prettier-ignore
  app.post(READ_ART, express.raw({ type: () => true, limit: MOST_ART_BYTES }), async (request, response) => {
    const name = typeof request.query['name'] === 'string' ? request.query['name'].slice(-200) : '';
    if (!Buffer.isBuffer(request.body) || request.body.length === 0)
      throw refused({ code: 'empty', message: 'The file is empty.', field: 'file' });
    const { said } = await read(name, request.body, isOfBytes(name), room.workers.foreign, goneSignal(response));
    response.json(said);
  });
  serve(app, room, api.createArtwork, {
    ahead: ({ body, foreign }) => readBody(body, foreign),
    then: async ({ body, by, trx }, art) => {
      const roles = await rememberedRoles(trx, body.customer, art.said.styles.map((s) => s.key)); // prettier-ignore
      const spec = { customer: body.customer, roles };
      const made = await createThing(trx, 'artworks', { id: body.id, name: body.name, document: spec, by });
      await addRevision(trx, made.id, body, art, by);
      return made;
    },
  });
  serve(app, room, api.saveArtwork, async ({ params, body, by, trx }) => {
    await saveThing(trx, 'artworks', params.id, { ...body, document: body.spec, by });
    return loadArtwork(trx, params.id);
  });
  serve(app, room, api.reviseArtwork, {
    ahead: async ({ params, body, foreign, db }) => {
      await reading(db, (trx) => loadArtwork(trx, params.id));
      return readBody(body, foreign);
    },
    then: async ({ params, body, by, trx }, art) => {
      await addRevision(trx, params.id, body, art, by);
      return loadArtwork(trx, params.id);
    },
  });
  // As the database has them: a large file’s shapes are neither taken apart nor unpacked on the server’s only thread.
  app.get(api.artworkShapes.path, async (request, response) => {
    const { id, number } = request.params as { id: string; number: string };
    const row =
      UUID.test(id) && /^\d{1,6}$/.test(number)
        ? await room.db
            .selectFrom('artwork_revisions')
            .select('shapes')
            .where('artwork_id', '=', id)
            .where('number', '=', Number(number))
            .executeTakeFirst()
        : undefined;
    if (!row) throw notFound('This file');
    response.set({
      'content-type': 'application/json; charset=utf-8',
      'cache-control': 'private, max-age=31536000, immutable',
      vary: 'accept-encoding',
    });
    // Whoever cannot unpack it has it plain.
    if (request.acceptsEncodings('gzip')) response.set('content-encoding', 'gzip').end(row.shapes);
    else response.end(gunzipSync(row.shapes));
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
