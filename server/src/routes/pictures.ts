import express, { type Express } from 'express';
import { api, LARGEST_PICTURE, PICTURES, SAMPLE_SHEET } from '@bistre/contract';
import { loadBatch, record } from '../batches';
import type { Db } from '../db/connect';
import { sampleSheet } from '../demo-badges';
import { HttpProblem, refused } from '../http/problem';
import { operatorOf, serve } from '../http/serve';
import { takePicture } from '../pictures';

/** Pictures for engraving: taken in as they are, given out plain. */
export const pictureRoutes = (app: Express, db: Db): void => {
  app.post(PICTURES, express.raw({ type: () => true, limit: LARGEST_PICTURE }), async (request, response) => {
    const given = typeof request.query.name === 'string' ? request.query.name : '';
    const name =
      given
        .replace(/[\u0000-\u001f\u007f]/g, '')
        .trim()
        .slice(0, 120) || 'picture';
    if (!Buffer.isBuffer(request.body) || request.body.length === 0)
      throw refused({ code: 'no-picture', message: 'No picture arrived. Choose a PNG file.', field: 'picture' });
    response.json(await takePicture(db, request.body, name, operatorOf(request)));
  });

  app.get(SAMPLE_SHEET, async (_request, response) => {
    response
      .set({ 'content-type': 'image/png', 'content-disposition': 'attachment; filename="crew-badges.png"' })
      .send(await sampleSheet());
  });

  app.get(`${PICTURES}/:id`, async (request, response) => {
    const row = /^[0-9a-f-]{36}$/.test(request.params.id)
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

  serve(app, db, api.wroteFile, async ({ params, body, by, trx }) => {
    await loadBatch(trx, params.id);
    await record(trx, { by, kind: 'file', batchId: params.id, summary: `File handed out: ${body.file}` });
    return { ok: true as const };
  });
};
