import type { Express, Request } from 'express';
import type { AnyEndpoint, BodyOf, ParamsOf, QueryOf, ReplyOf } from '@bistre/contract';
import type { ZodError, ZodType } from 'zod';
import type { Db, Trx } from '../db/connect';
import { HttpProblem } from './problem';

export interface Call<E extends AnyEndpoint> {
  readonly params: ParamsOf<E>;
  readonly query: QueryOf<E>;
  readonly body: BodyOf<E>;
  /** Who is at the bench, as they named themselves. */
  readonly by: string;
  readonly trx: Trx;
}

const where = (error: ZodError): { message: string; field: string } => {
  const issue = error.issues[0];
  return { message: issue?.message ?? 'This cannot be read.', field: issue?.path.join('.') ?? '' };
};

const parse = (schema: ZodType, value: unknown): unknown => {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const { message, field } = where(result.error);
  throw new HttpProblem(400, { code: 'bad-input', message, ...(field === '' ? {} : { field }) });
};

export const operatorOf = (request: Request): string => {
  const given = decodeURIComponent(request.get('bistre-operator') ?? '')
    .trim()
    .slice(0, 40);

  return given.replace(/[\u0000-\u001f]/g, '') || 'operator';
};

/**
 * Answers one endpoint of the contract: parses what comes in, runs the handler in one transaction,
 * and, for a retried write with the same idempotency key, gives the first answer again.
 */
export const serve = <E extends AnyEndpoint>(
  app: Express,
  db: Db,
  endpoint: E,
  handler: (call: Call<E>) => Promise<ReplyOf<E>>,
): void => {
  const verb = endpoint.method.toLowerCase() as 'get' | 'post' | 'put' | 'delete';
  app[verb](endpoint.path, async (request, response) => {
    const params = parse(endpoint.params, request.params) as ParamsOf<E>;
    const query = parse(endpoint.query, request.query) as QueryOf<E>;
    const body = parse(endpoint.body, request.body ?? undefined) as BodyOf<E>;
    const key = endpoint.method === 'GET' ? undefined : request.get('idempotency-key')?.slice(0, 80);
    const reply = await db.transaction().execute(async (trx) => {
      if (key) {
        const before = await trx.selectFrom('replies').selectAll().where('key', '=', key).executeTakeFirst();
        if (before) {
          if (before.path !== request.path)
            throw new HttpProblem(409, {
              code: 'key-reused',
              message: 'This write was already sent for something else.',
            });
          return before.body as ReplyOf<E>;
        }
      }
      const value = await handler({ params, query, body, by: operatorOf(request), trx });
      if (key)
        await trx
          .insertInto('replies')
          .values({ key, path: request.path, status: 200, body: JSON.stringify(value) })
          .onConflict((c) => c.doNothing())
          .execute();
      return value;
    });
    response.json(reply);
  });
};
