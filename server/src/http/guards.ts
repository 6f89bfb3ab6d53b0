import type { ErrorRequestHandler, Request, RequestHandler } from 'express';
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

/** Whether another site's page caused a request, as far as the browser tells. */
const fromOtherSite = (request: Request): boolean => {
  const own = `${request.protocol}://${request.get('host')}`;
  const site = request.get('sec-fetch-site');
  if (site !== undefined) return site !== 'same-origin' && site !== 'none';
  const origin = request.get('origin') ?? request.get('referer');
  return origin !== undefined && origin !== own && !origin.startsWith(`${own}/`);
};

/**
 * Calls are answered to Bistre's own pages only, reading ones too: handing a file out is written in the log,
 * and no other site may cause that. A page of Bistre can be linked to from anywhere.
 */
export const sameOrigin: RequestHandler = (request, _response, next) => {
  const call = request.path === '/api' || request.path.startsWith('/api/');
  if (!call && (request.method === 'GET' || request.method === 'HEAD')) return next();
  const origin = request.get('origin');
  if (fromOtherSite(request) || (origin !== undefined && origin !== `${request.protocol}://${request.get('host')}`))
    throw new HttpProblem(403, { code: 'other-site', message: 'Calls are taken from Bistre’s own pages only.' });
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

interface Answer {
  readonly status: number;
  readonly code: string;
  readonly message: string;
}

const TRY_AGAIN = 'What was shown as saved is safe; keep this page open and try again in a moment.';
const AWAY: Answer = {
  status: 503,
  code: 'database-away',
  message: `The database does not answer. ${TRY_AGAIN}`,
};
const FULL: Answer = {
  status: 507,
  code: 'disk-full',
  message:
    'The disk is full, so this was not saved. Everything that was shown as saved is safe. Make room on the disk; saving goes on by itself then.',
};

/** What PostgreSQL says by its codes (its manual, appendix A) and Node.js by its own, in words. */
const SENTENCES: Readonly<Record<string, Answer>> = {
  '23505': { status: 409, code: 'taken', message: 'Something of this name or place already exists. Choose another.' },
  '23503': { status: 409, code: 'in-use', message: 'Something this refers to does not exist any more.' },
  '23514': { status: 422, code: 'out-of-range', message: 'A value is outside what can be kept. Nothing was changed.' },
  '22003': { status: 422, code: 'out-of-range', message: 'A number is outside what can be kept. Nothing was changed.' },
  '22021': {
    status: 400,
    code: 'bad-text',
    message: 'There is a character in it that cannot be kept. Nothing was changed.',
  },
  '22P02': { status: 400, code: 'bad-input', message: 'A value cannot be read. Nothing was changed.' },
  '22P05': {
    status: 400,
    code: 'bad-text',
    message: 'There is a character in it that cannot be kept. Nothing was changed.',
  },
  '40001': { status: 409, code: 'stale', message: 'Two people saved at the same moment. Save again.' },
  '40P01': { status: 409, code: 'stale', message: 'Two people saved at the same moment. Save again.' },
  '53100': FULL,
  ENOSPC: FULL,
  EDQUOT: FULL,
  '55P03': {
    status: 503,
    code: 'busy',
    message: `Somebody else’s change of the same thing is still being saved. ${TRY_AGAIN}`,
  },
  '57014': {
    status: 503,
    code: 'too-long',
    message: `The database took too long over this. Nothing was half saved. ${TRY_AGAIN}`,
  },
};

const DATABASE_GONE = /^(ECONNREFUSED|ECONNRESET|EPIPE|ENOENT|ETIMEDOUT|57P0\d|08\d{3}|53300|25P03)$/;

/** What the client got wrong before any route saw it, in words. */
const malformed = (known: { type?: string; status?: number; limit?: number; name?: string }): Answer | null => {
  if (known.type === 'entity.too.large')
    return {
      status: 413,
      code: 'too-large',
      message: `This is larger than Bistre reads (${Math.round((known.limit ?? 8e6) / 1e6)} MB). Nothing was changed.`,
    };
  if (known.type === 'entity.parse.failed')
    return { status: 400, code: 'bad-json', message: 'The request is not readable JSON. Nothing was changed.' };
  if (known.name === 'URIError')
    return { status: 400, code: 'bad-address', message: 'The address has a % that stands for nothing.' };
  const { status } = known;
  return status !== undefined && status >= 400 && status < 500
    ? { status, code: 'bad-request', message: 'The request cannot be read as it was sent. Nothing was changed.' }
    : null;
};

const answerOf = (error: unknown): Answer | null => {
  const known = error as { code?: string; type?: string; status?: number; limit?: number; name?: string };
  const clients = malformed(known);
  if (clients) return clients;
  const code = typeof known.code === 'string' ? known.code : '';
  const message = error instanceof Error ? error.message : '';
  if (/no space left on device|disk full/i.test(message)) return FULL;
  if (SENTENCES[code]) return SENTENCES[code];
  return DATABASE_GONE.test(code) || /terminat|connection|timeout exceeded when trying to connect/i.test(message)
    ? AWAY
    : null;
};

const BUG: Answer = {
  status: 500,
  code: 'bug',
  message: 'Bistre failed at this. Nothing was half saved. Try again, and tell whoever keeps Bistre.',
};

/** Every failure becomes `{ code, message, field?, now? }`; what is a bug is logged and not shown. */
export const answerProblems =
  (log: Logger): ErrorRequestHandler =>
  (error: unknown, _request, response, _next) => {
    // Whoever asked has gone: what was under way for them was given up.
    if (response.headersSent || response.destroyed || (error as Error).name === 'AbortError') {
      response.destroy();
      return;
    }
    if (error instanceof HttpProblem) {
      response.status(error.status).json({ ...error.problem, ...(error.now === undefined ? {} : { now: error.now }) });
      return;
    }
    const known = answerOf(error);
    const { status, code, message } = known ?? BUG;
    const said = error instanceof Error ? error : new Error(String(error));
    if (!known) log.error({ err: { message: said.message, stack: said.stack } }, 'failed');
    else if (status >= 500) log.warn({ code, why: said.message }, 'not answered');
    response.status(status).json({ code, message });
  };
