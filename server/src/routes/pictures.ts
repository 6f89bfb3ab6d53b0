import express, { type Express } from 'express';
import { api, LARGEST_PICTURE, PICTURES, SAMPLE_SHEET } from '@bistre/contract';
import { record } from '../changes/change';
import { sampleSheet } from '../demo/badges';
import { HttpProblem, notFound, refused } from '../http/problem';
import { goneSignal, operatorOf, serve, type Room } from '../http/serve';
import { keepPicture } from '../pictures';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** Pictures for engraving: taken in as they are, given out plain. */
export const pictureRoutes = (app: Express, room: Room): void => {
  const { db, workers } = room;
  app.post(PICTURES, express.raw({ type: () => true, limit: LARGEST_PICTURE }), async (request, response) => {
    const given = typeof request.query.name === 'string' ? request.query.name : '';
    const name =
      given
        .replace(/[\u0000-\u001f\u007f]/g, '')
        .trim()
        .slice(0, 120) || 'picture';
    if (!Buffer.isBuffer(request.body) || request.body.length === 0)
      throw refused({ code: 'no-picture', message: 'No picture arrived. Choose a PNG file.', field: 'picture' });
    const plain = await workers.foreign('picture', { bytes: request.body, name }, goneSignal(response));
    response.json(await keepPicture(db, plain, name, operatorOf(request)));
  });

  app.get(SAMPLE_SHEET, async (_request, response) => {
    response
      .set({ 'content-type': 'image/png', 'content-disposition': 'attachment; filename="crew-badges.png"' })
      .send(await sampleSheet());
  });

  app.get(`${PICTURES}/:id`, async (request, response) => {
    const row = UUID.test(request.params.id)
      ? await db.selectFrom('pictures').select('png').where('id', '=', request.params.id).executeTakeFirst()
      : undefined;
    if (!row) throw new HttpProblem(404, { code: 'not-found', message: 'This picture is not kept any more.' });
    response
      .set({
        'content-type': 'image/png',
        'content-disposition': 'attachment; filename="picture.png"',
        'cache-control': 'private, max-age=31536000, immutable',
      })
      .send(row.png);
  });

  serve(app, room, api.wroteFile, async ({ params, body, by, trx }) => {
    if (!(await trx.selectFrom('batches').select('id').where('id', '=', params.id).executeTakeFirst()))
      throw notFound('This batch');
    await record(trx, { by, kind: 'file', batchId: params.id, summary: `File handed out: ${body.file}` });
    return { ok: true as const };
  });
};
