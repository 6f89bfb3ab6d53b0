import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { api, PAGES } from '@bistre/contract';
import { sql } from 'kysely';
import { fileRoutes } from './files';
import { answerProblems, loopbackHost, requestLog, sameOrigin } from './http/guards';
import { HttpProblem } from './http/problem';
import { serve, type Room } from './http/serve';
import { runRoutes } from './routes/run';
import { cupRoutes } from './routes/cup';
import { driveRoutes } from './routes/drive';
import { feedRoutes } from './routes/feed';
import { machineRoutes } from './routes/machines';
import { offcutRoutes } from './routes/offcuts';
import { pictureRoutes } from './routes/pictures';
import { setupRoutes } from './routes/setup';
import { fixtureRoutes } from './routes/fixtures';
import { jobRoutes } from './routes/jobs';
import { logRoutes } from './routes/log';
import { sampleRoutes } from './routes/samples';
import { artworkRoutes } from './routes/artworks';
import { shelfRoutes, thingRoutes } from './routes/shelf';
import { trialRoutes } from './routes/trials';
import { simRoutes } from './routes/sim';

/** Which build of the pages there is; null where there are none. Their front page names every file of them. */
const buildOf = (pages: string | undefined): string | null => {
  const front = pages && join(pages, 'index.html');
  return front && existsSync(front)
    ? createHash('sha1').update(readFileSync(front)).digest('base64url').slice(0, 16)
    : null;
};

/** The whole server as one handler; it keeps no state of its own. `pages` is the built web folder. */
export const createApp = (room: Room, log: Logger, pages?: string): Express => {
  const app = express();
  app.disable('x-powered-by');
  app.use(requestLog(log));
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          'default-src': ["'self'"],
          'script-src': ["'self'"],
          'style-src': ["'self'", "'unsafe-inline'"],
          'img-src': ["'self'", 'data:', 'blob:'],
          'worker-src': ["'self'", 'blob:'],
          'connect-src': ["'self'"],
          'object-src': ["'none'"],
          'frame-ancestors': ["'none'"],
          'upgrade-insecure-requests': null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(loopbackHost, sameOrigin);
  const build = buildOf(pages);
  app.use('/api', (_request, response, next) => {
    if (build) response.set(PAGES, build);
    next();
  });
  app.use('/api', express.json({ limit: '8mb' }));
  serve(app, room, api.health, async ({ trx }) => {
    await sql`select 1`.execute(trx);
    return { ok: true as const, name: 'bistre' as const };
  });
  setupRoutes(app, room);
  driveRoutes(app, room);
  feedRoutes(app, room);
  cupRoutes(app, room);
  offcutRoutes(app, room);
  pictureRoutes(app, room);
  runRoutes(app, room);
  thingRoutes(app, room);
  artworkRoutes(app, room);
  machineRoutes(app, room);
  sampleRoutes(app, room);
  fixtureRoutes(app, room);
  shelfRoutes(app, room);
  trialRoutes(app, room);
  logRoutes(app, room);
  simRoutes(app, room);
  fileRoutes(app, room);
  jobRoutes(app, room);
  app.use('/api', () => {
    throw new HttpProblem(404, { code: 'not-found', message: 'There is no such call.' });
  });
  if (pages && existsSync(pages)) {
    app.use('/assets', express.static(join(pages, 'assets'), { immutable: true, maxAge: '1y' }));
    app.use(express.static(pages, { index: false }));
    app.get('/{*path}', (_request, response) =>
      response.set('cache-control', 'no-cache').sendFile(join(pages, 'index.html')),
    );
  }
  app.use(answerProblems(log));
  return app;
};
