import type { Server } from 'node:http';
import { fileURLToPath } from 'node:url';
import { sql } from 'kysely';
import pino from 'pino';
import { api, type AnyEndpoint, type BatchDocument, type BodyOf, type ParamsOf, type ReplyOf } from '@bistre/contract';
import { createApp } from '../app';
import { connect, migrate, SCHEMAS, type Db } from '../db/connect';
import { seedDemo } from '../demo';
import { threadsOf } from '../work/limits';
import { createWorkers, type Workers } from '../work/pool';

/** The database that tests may make their own databases beside; none outside `npm test`. */
export const TEST_URL = process.env.DATABASE_URL;
/** A suite that needs PostgreSQL; skipped where none is given. */
export const withDatabase = TEST_URL ? describe : describe.skip;

/** The same server's database of another name. */
export const urlOf = (name: string): string => TEST_URL!.replace(/\/[^/?]+(\?|$)/, `/${name}$1`);

const BUILT = fileURLToPath(new URL('../../dist/', import.meta.url));
const TEMPLATE = `demo_${SCHEMAS.length}`;
/** One test file makes the template, the others wait for it. */
const TEMPLATE_LOCK = 417_300;

const makeTemplate = async (admin: Db): Promise<void> => {
  await admin.connection().execute(async (c) => {
    await sql`select pg_advisory_lock(${TEMPLATE_LOCK})`.execute(c);
    try {
      const there = await sql`select 1 from pg_database where datname = ${TEMPLATE}`.execute(c);
      if (there.rows.length > 0) return;
      await sql.raw(`create database ${TEMPLATE}_new`).execute(c);
      await migrate(urlOf(`${TEMPLATE}_new`));
      const db = connect(urlOf(`${TEMPLATE}_new`), 1, 'unlimited');
      await seedDemo(db);
      await db.destroy();
      await sql.raw(`alter database ${TEMPLATE}_new rename to ${TEMPLATE}`).execute(c);
    } finally {
      await sql`select pg_advisory_unlock(${TEMPLATE_LOCK})`.execute(c);
    }
  });
};

export interface Sent {
  readonly params?: Record<string, string>;
  readonly query?: Record<string, string>;
  readonly body?: unknown;
  readonly headers?: Record<string, string>;
  readonly by?: string;
}

/** A Bistre of a test's own: database with the demo shop, threads, server. */
export interface TestShop {
  readonly url: string;
  readonly db: Db;
  readonly base: string;
  readonly workers: Workers;
  /** Lines of the server's own log. */
  readonly lines: string[];
  readonly send: (endpoint: AnyEndpoint, sent?: Sent) => Promise<Response>;
  /** A call that must succeed; its reply read by the contract. */
  readonly call: <E extends AnyEndpoint>(
    endpoint: E,
    input?: { params?: ParamsOf<E>; body?: BodyOf<E>; by?: string },
  ) => Promise<ReplyOf<E>>;
  /** An open batch by the beginning of its name. */
  readonly batch: (name: string) => Promise<BatchDocument>;
  readonly stop: () => Promise<void>;
}

/** A database of its own, made from the demo shop or empty. */
export const freshDatabase = async (name: string, demo = true): Promise<string> => {
  const admin = connect(TEST_URL!, 1, 'unlimited');
  try {
    if (demo) await makeTemplate(admin);
    const own = `${name}_${process.pid}`;
    await sql.raw(`drop database if exists ${own}`).execute(admin);
    await sql.raw(`create database ${own}${demo ? ` template ${TEMPLATE}` : ''}`).execute(admin);
    return urlOf(own);
  } finally {
    await admin.destroy();
  }
};

export const startShop = async (name: string, { demo = true } = {}): Promise<TestShop> => {
  const url = await freshDatabase(name, demo);
  if (!demo) await migrate(url);
  const db = connect(url);
  // One of each: every thread warms up by itself, and the tests share few cores.
  const workers = createWorkers(BUILT, url, threadsOf('1'));
  const lines: string[] = [];
  const log = pino({ level: 'info' }, { write: (line: string) => void lines.push(line) });
  const server: Server = createApp({ db, workers }, log).listen(0, '127.0.0.1');
  await new Promise((done) => server.once('listening', done));
  const base = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  const send: TestShop['send'] = (endpoint, { params = {}, query, body, headers, by = 'Imre' } = {}) =>
    fetch(
      base +
        endpoint.path.replace(/:(\w+)/g, (_, k: string) => encodeURIComponent(params[k]!)) +
        (query ? `?${new URLSearchParams(query).toString()}` : ''),
      {
        method: endpoint.method,
        headers: { 'content-type': 'application/json', 'bistre-operator': encodeURIComponent(by), ...headers },
        ...(endpoint.method === 'GET' ? {} : { body: JSON.stringify(body ?? {}) }),
      },
    );
  const call: TestShop['call'] = async (endpoint, input = {}) => {
    const response = await send(endpoint, input as Sent);
    const value: unknown = await response.json();
    if (!response.ok) throw new Error(JSON.stringify(value));
    return endpoint.reply.parse(value) as never;
  };
  return {
    url,
    db,
    base,
    workers,
    lines,
    send,
    call,
    batch: async (beginning) => {
      // By its row: the Board's list counts up every batch of the demo shop, seconds of work a test does not ask about.
      const { id } = await db
        .selectFrom('batches')
        .select('id')
        .where('name', 'like', `${beginning}%`)
        .orderBy('name')
        .executeTakeFirstOrThrow();
      return call(api.getBatch, { params: { id } });
    },
    stop: async () => {
      server.close();
      server.closeAllConnections();
      await workers.close();
      await db.destroy();
    },
  };
};
