import type { ErrorRequestHandler, RequestHandler } from 'express';
import type { Logger } from 'pino';
import { HttpProblem } from './problem';

const LOOPBACK = new Set(['localhost', '127.0.0.1', '[::1]', '::1']);

const hostName = (host: string): string => host.replace(/:\d+$/, '');

/** Only this machine's own names are answered, so that no other site's name can be pointed here. */
export const loopbackHost: RequestHandler = (request, _response, next) => {
  if (!LOOPBACK.has(hostName(request.get('host') ?? '')))
    throw new HttpProblem(421, {
      code: 'wrong-host',
      message: 'Bistre answers on this machine only, until sign-in exists.',
    });
  next();
};

/** Writes are taken from Bistre's own pages only. */
export const sameOrigin: RequestHandler = (request, _response, next) => {
  if (request.method === 'GET' || request.method === 'HEAD') return next();
  const site = request.get('sec-fetch-site');
  const origin = request.get('origin');
  const foreign =
    (site !== undefined && site !== 'same-origin' && site !== 'none') ||
    (origin !== undefined && origin !== `${request.protocol}://${request.get('host')}`);
  if (foreign)
    throw new HttpProblem(403, { code: 'other-site', message: 'Writes are taken from Bistre’s own pages only.' });
  next();
};

/** One structured line a request: method, path pattern, status, time. No names, no bodies, no query. */
export const requestLog =
  (log: Logger): RequestHandler =>
  (request, response, next) => {
    const start = process.hrtime.bigint();
    response.on('finish', () => {
      const path = request.path.replace(/[0-9a-f]{8}-[0-9a-f-]{27}/g, ':id');
      log.info(
        {
          method: request.method,
          path,
          status: response.statusCode,
          ms: Number(process.hrtime.bigint() - start) / 1e6,
        },
        'request',
      );
    });
    next();
  };

const PG_SENTENCES: Readonly<Record<string, { status: number; code: string; message: string }>> = {
  '23505': { status: 409, code: 'taken', message: 'Something of this name or place already exists. Choose another.' },
  '23503': { status: 409, code: 'in-use', message: 'Something this refers to does not exist any more.' },
  '40001': { status: 409, code: 'stale', message: 'Two people saved at the same moment. Save again.' },
};

/** Every failure becomes `{ code, message, field? }`; what is a bug is logged and not shown. */
export const answerProblems =
  (log: Logger): ErrorRequestHandler =>
  (error: unknown, _request, response, _next) => {
    if (error instanceof HttpProblem) {
      response.status(error.status).json(error.problem);
      return;
    }
    const known = error as { code?: string; type?: string; status?: number; limit?: number };
    if (known.type === 'entity.too.large') {
      response.status(413).json({
        code: 'too-large',
        message: `This is larger than Bistre reads (${Math.round((known.limit ?? 8e6) / 1e6)} MB). Nothing was changed.`,
      });
      return;
    }
    if (known.type === 'entity.parse.failed') {
      response
        .status(400)
        .json({ code: 'bad-json', message: 'The request is not readable JSON. Nothing was changed.' });
      return;
    }
    const sentence = known.code ? PG_SENTENCES[known.code] : undefined;
    if (sentence) {
      response.status(sentence.status).json({ code: sentence.code, message: sentence.message });
      return;
    }
    const lost =
      known.code === 'ECONNREFUSED' ||
      known.code?.startsWith('57P') ||
      (error instanceof Error && /terminat|Connection/.test(error.message));
    log.error(
      { err: error instanceof Error ? { message: error.message, stack: error.stack } : String(error) },
      'failed',
    );
    response.status(lost ? 503 : 500).json(
      lost
        ? {
            code: 'database-away',
            message:
              'The database does not answer. What was shown as saved is safe; keep this page open and try again in a moment.',
          }
        : {
            code: 'bug',
            message: 'Bistre failed at this. Nothing was half saved. Try again, and tell whoever keeps Bistre.',
          },
    );
  };
