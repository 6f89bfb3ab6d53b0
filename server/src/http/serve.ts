import { createHash } from 'node:crypto';
import type { Express, Request, Response } from 'express';
import {
  batchDocument,
  HAVE,
  PARTS,
  type AnyEndpoint,
  type BodyOf,
  type ParamsOf,
  type QueryOf,
  type ReplyOf,
} from '@bistre/contract';
import type { ZodError, ZodType } from 'zod';
import { reading, type Db, type Trx } from '../db/connect';
import type { Workers } from '../work/pool';
import { onlyNew } from './parts';
import { HttpProblem, Overtaken } from './problem';

/** What every route works with. */
export interface Room {
  readonly db: Db;
  readonly workers: Workers;
}

interface Asked<E extends AnyEndpoint> {
  readonly params: ParamsOf<E>;
  readonly query: QueryOf<E>;
  readonly body: BodyOf<E>;
  /** Who is at the bench, as they named themselves. */
  readonly by: string;
}

export interface Call<E extends AnyEndpoint> extends Asked<E> {
  readonly trx: Trx;
}

/** Reckoning ahead of a transaction, in a thread; given up when whoever asked has gone. */
export interface Ahead<E extends AnyEndpoint> extends Asked<E> {
  readonly db: Db;
  readonly reckon: Workers['reckon'];
  readonly foreign: Workers['foreign'];
}

/**
 * How a call is answered: in one transaction, or first reckoned `ahead` of it. A write that finds what it was
 * reckoned from changed throws {@link Overtaken} and is reckoned again.
 */
export type Handler<E extends AnyEndpoint, A> =
  | ((call: Call<E>) => Promise<ReplyOf<E>>)
  | {
      readonly ahead: (call: Ahead<E>) => Promise<A>;
      readonly then: (call: Call<E>, ahead: A) => Promise<ReplyOf<E>>;
    };

const MOST_TRIES = 4;

const where = (error: ZodError): { message: string; field: string } => {
  const issue = error.issues[0];
  return { message: issue?.message ?? 'This cannot be read.', field: issue?.path.join('.') ?? '' };
};

/** PostgreSQL keeps no NUL, and neither it nor JSON keeps half of a surrogate pair. */
const UNKEEPABLE = /\u0000|[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/;

/** Where in a value there is text that cannot be kept; null when there is none. */
const unkeepable = (value: unknown, path: readonly string[] = []): string | null => {
  if (typeof value === 'string') return UNKEEPABLE.test(value) ? path.join('.') : null;
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, inner] of Object.entries(value)) {
    if (UNKEEPABLE.test(key)) return [...path, 'a name'].join('.');
    const found = unkeepable(inner, [...path, key]);
    if (found !== null) return found;
  }
  return null;
};

/** How JSON writes what cannot be kept; a quick look over the whole before it is looked at piece by piece. */
const MAYBE = /\\u(?:0000|d[89a-f])/i;

const parse = (schema: ZodType, value: unknown): unknown => {
  const bad = MAYBE.test(JSON.stringify(value) ?? '') ? unkeepable(value) : null;
  if (bad !== null)
    throw new HttpProblem(400, {
      code: 'bad-text',
      message: 'There is a character in it that cannot be kept (NUL or half a character). Nothing was changed.',
      ...(bad === '' ? {} : { field: bad }),
    });
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const { message, field } = where(result.error);
  throw new HttpProblem(400, { code: 'bad-input', message, ...(field === '' ? {} : { field }) });
};

/** Who is at the bench; a header that is no proper text is no name. */
export const operatorOf = (request: Request): string => {
  let given = request.get('bistre-operator') ?? '';
  try {
    given = decodeURIComponent(given);
  } catch {
    // Sent without encoding: taken as it stands.
  }
  const letters = [...given.replace(/[\u0000-\u001f\u007f]/g, '').trim()].filter((c) => !UNKEEPABLE.test(c));
  return letters.slice(0, 40).join('') || 'operator';
};

/** What a file that a call brings is called, where its query says. */
export const fileNameIn = ({ query }: Request, otherwise: string): string => {
  const given = typeof query['name'] === 'string' ? query['name'] : '';
  return given.replace(/[\u0000-\u001f\u007f]/g, '').trim().slice(0, 120) || otherwise; // prettier-ignore
};

/** Gives up what is under way for a call when whoever asked has gone. */
export const goneSignal = (response: Response): AbortSignal => {
  const gone = new AbortController();
  response.on('close', () => {
    if (!response.writableFinished) gone.abort();
  });
  return gone.signal;
};

/** A write's key and what it says, so that another write under the same key is told apart. */
interface Once {
  readonly key: string;
  readonly call: string;
  readonly hash: string;
}

const onceOf = (request: Request): Once | null => {
  const key = request.get('idempotency-key');
  if (!key || request.method === 'GET') return null;
  if (key.length > 80 || UNKEEPABLE.test(key))
    throw new HttpProblem(400, { code: 'bad-key', message: 'The key of this write is longer than 80 characters.' });
  return {
    key,
    call: `${request.method} ${request.path}`.slice(0, 300),
    hash: createHash('sha256')
      .update(JSON.stringify(request.body ?? null))
      .digest('hex'),
  };
};

/**
 * Puts a write's key in, before anything else of it: a call that overlaps waits here for the first one's end.
 *
 * @returns the first answer, when there is one
 * @throws HttpProblem 422 when the key came with another write
 */
const claim = async (trx: Trx, { key, call, hash }: Once): Promise<string | null> => {
  const mine = await trx
    .insertInto('replies')
    .values({ key, call, hash, body: null })
    .onConflict((c) => c.doNothing())
    .returning('key')
    .executeTakeFirst();
  if (mine) return null;
  const before = await trx.selectFrom('replies').selectAll().where('key', '=', key).executeTakeFirst();
  if (!before) throw new Overtaken();
  if (before.call !== call || before.hash !== hash)
    throw new HttpProblem(422, {
      code: 'key-reused',
      message: 'Another write was already sent under the key of this one. Nothing was changed.',
    });
  return before.body;
};

/** Runs a write in one transaction, once for its key. */
const write = (db: Db, once: Once | null, job: (trx: Trx) => Promise<unknown>): Promise<string> =>
  db.transaction().execute(async (trx) => {
    const before = once ? await claim(trx, once) : null;
    if (before !== null) return before;
    const body = JSON.stringify(await job(trx));
    if (once) await trx.updateTable('replies').set({ body }).where('key', '=', once.key).execute();
    return body;
  });

/** Does a job again when what it was reckoned from was overtaken; gives up after a few times, in words. */
const again = async <T>(job: () => Promise<T>): Promise<T> => {
  for (let tries = 1; ; tries += 1) {
    try {
      return await job();
    } catch (error) {
      if (!(error instanceof Overtaken)) throw error;
      if (tries >= MOST_TRIES)
        throw new HttpProblem(409, {
          code: 'overtaken',
          message: 'Others change this batch at this very moment. Nothing was kept; try again.',
        });
    }
  }
};

/**
 * Answers one endpoint of the contract: parses what comes in, reckons ahead what needs it, and runs the rest in
 * one transaction. A GET cannot write: PostgreSQL would refuse it. A write under an idempotency key happens
 * once; calls that overlap wait and get the first answer.
 */
export const serve = <E extends AnyEndpoint, A = undefined>(
  app: Express,
  { db, workers }: Room,
  endpoint: E,
  handler: Handler<E, A>,
): void => {
  const verb = endpoint.method.toLowerCase() as 'get' | 'post' | 'put' | 'delete';
  app[verb](endpoint.path, async (request, response) => {
    const asked: Asked<E> = {
      params: parse(endpoint.params, request.params) as ParamsOf<E>,
      query: parse(endpoint.query, request.query) as QueryOf<E>,
      body: parse(endpoint.body, request.body ?? undefined) as BodyOf<E>,
      by: operatorOf(request),
    };
    const signal = goneSignal(response);
    const { ahead, then } =
      typeof handler === 'function'
        ? { ahead: () => Promise.resolve(undefined as A), then: (call: Call<E>) => handler(call) }
        : handler;
    const once = onceOf(request);
    const body = await again(async () => {
      const ready = await ahead({
        ...asked,
        db,
        reckon: (job, args) => workers.reckon(job, args, signal),
        foreign: (job, args) => workers.foreign(job, args, signal),
      });
      const job = (trx: Trx): Promise<unknown> => then({ ...asked, trx }, ready);
      return endpoint.method === 'GET' ? JSON.stringify(await reading(db, job)) : write(db, once, job);
    });
    if (endpoint.reply !== batchDocument) {
      response.type('json').send(body);
      return;
    }
    const answer = onlyNew(body, request.get(HAVE));
    response.set(PARTS, answer.parts).type('json').send(answer.body);
  });
};
