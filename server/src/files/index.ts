import type { Express } from 'express';
import { fileNameOf, FILES } from '@bistre/contract';
import { record } from '../changes/change';
import { HttpProblem } from '../http/problem';
import { goneSignal, operatorOf, type Room } from '../http/serve';

const TYPES: Readonly<Record<string, string>> = {
  svg: 'image/svg+xml',
  dxf: 'image/vnd.dxf',
  gcode: 'text/plain; charset=utf-8',
  pdf: 'application/pdf',
  png: 'image/png',
  csv: 'text/csv; charset=utf-8',
  zip: 'application/zip',
};

/** Files are made when asked for, in a thread, from what is saved; each handing out is logged. */
export const fileRoutes = (app: Express, { db, workers }: Room): void => {
  app.get('/api/batches/:id/files/:file', async (request, response) => {
    const file = FILES.find((f) => f === request.params.file);
    if (!file || !/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(request.params.id))
      throw new HttpProblem(404, { code: 'not-found', message: 'There is no such file.' });
    const by = operatorOf(request);
    const { head, body } = await workers.file(
      { batchId: request.params.id, file, origin: `${request.protocol}://${request.get('host')}` },
      goneSignal(response),
    );
    const name = fileNameOf(head.name, file, new Date());
    try {
      await db.transaction().execute((trx) =>
        record(trx, {
          by,
          kind: 'file',
          batchId: request.params.id,
          summary: `File handed out: ${name}`,
          detail: { file },
        }),
      );
    } catch (error) {
      // What cannot be logged is not handed out: nobody writes it on.
      body.destroy();
      throw error;
    }
    response.set({
      'content-type': TYPES[file.split('.').pop()!]!,
      'content-disposition': `attachment; filename="${name}"`,
      'cache-control': 'no-store',
    });
    await new Promise<void>((resolve) => {
      // A file that breaks off is broken off for whoever reads it too: it must not look whole.
      body.on('error', () => response.destroy());
      body.pipe(response).on('finish', resolve).on('close', resolve);
    });
  });
};
