import express, { type Express, type Request } from 'express';
import { api, fileOf, LARGEST_PICTURE, PHOTOGRAPHS, PICTURES, SAMPLE_SHEET } from '@bistre/contract';
import { record } from '../changes/change';
import { sampleSheet } from '../demo/badges';
import { HttpProblem, notFound, refused } from '../http/problem';
import { fileNameIn, goneSignal, operatorOf, serve, type Room } from '../http/serve';
import { keepPhotograph } from '../photographs';
import { keepPicture } from '../pictures';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;
const GONE = { code: 'not-found', message: 'This picture is not kept any more.' };
const FOR_GOOD = 'private, max-age=31536000, immutable';

/** The file that a call brings, and what it is called. */
const pictureIn = (request: Request): { readonly bytes: Buffer; readonly name: string } => {
  const body: unknown = request.body;
  if (!Buffer.isBuffer(body) || body.length === 0)
    throw refused({ code: 'no-picture', message: 'No picture arrived. Choose a PNG file.', field: 'picture' });
  return { bytes: body, name: fileNameIn(request, 'picture') };
};

/** Pictures for engraving: taken in as they are, given out plain. */
export const pictureRoutes = (app: Express, room: Room): void => {
  const { db, workers } = room;
  const whole = express.raw({ type: () => true, limit: LARGEST_PICTURE });
  app.post(PICTURES, whole, async (request, response) => {
    const { bytes, name } = pictureIn(request);
    const plain = await workers.foreign('picture', { bytes, name }, goneSignal(response));
    response.json(await keepPicture(db, plain, name, operatorOf(request)));
  });
  app.post(PHOTOGRAPHS, whole, async (request, response) => {
    const small = await workers.foreign('photograph', pictureIn(request), goneSignal(response));
    response.json(await keepPhotograph(db, small, operatorOf(request)));
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
    if (!row) throw new HttpProblem(404, GONE);
    response
      .set({
        'content-type': 'image/png',
        'content-disposition': 'attachment; filename="picture.png"',
        'cache-control': FOR_GOOD,
      })
      .send(row.png);
  });

  app.get(`${PHOTOGRAPHS}/:id`, async (request, response) => {
    const row = UUID.test(request.params.id)
      ? await db.selectFrom('photographs').select('jpeg').where('id', '=', request.params.id).executeTakeFirst()
      : undefined;
    if (!row) throw new HttpProblem(404, GONE);
    response.set({ 'content-type': 'image/jpeg', 'cache-control': FOR_GOOD }).send(row.jpeg);
  });

  serve(app, room, api.wroteFile, async ({ params, body, by, trx }) => {
    if (!(await trx.selectFrom('batches').select('id').where('id', '=', params.id).executeTakeFirst()))
      throw notFound('This batch');
    await record(trx, {
      by,
      kind: 'file',
      batchId: params.id,
      summary: `File handed out: ${body.file}`,
      detail: { file: fileOf(body.file) },
    });
    return { ok: true as const };
  });
};
