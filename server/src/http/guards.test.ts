import type { Server } from 'node:http';
import express from 'express';
import pino from 'pino';
import { sql } from 'kysely';
import { api } from '@bistre/contract';
import { connect, reading, type Db } from '../db/connect';
import { freshDatabase, startShop, withDatabase, type TestShop } from '../testing/shop';
import { answerProblems } from './guards';

/** Codes as PostgreSQL's manual lists them (appendix A, error codes), and what a person reads for each. */
const CODES: readonly (readonly [string, string, number, RegExp])[] = [
  ['unique_violation', '23505', 409, /already exists/],
  ['foreign_key_violation', '23503', 409, /does not exist any more/],
  ['check_violation', '23514', 422, /outside what can be kept/],
  ['numeric_value_out_of_range', '22003', 422, /outside what can be kept/],
  ['character_not_in_repertoire', '22021', 400, /character .* cannot be kept/],
  ['serialization_failure', '40001', 409, /Save again/],
  ['deadlock_detected', '40P01', 409, /Save again/],
  ['disk_full', '53100', 507, /disk is full.*shown as saved is safe.*goes on by itself/],
  ['too_many_connections', '53300', 503, /does not answer.*shown as saved is safe/],
  ['lock_not_available', '55P03', 503, /still being saved/],
  ['query_canceled', '57014', 503, /took too long/],
  ['admin_shutdown', '57P01', 503, /does not answer/],
  ['internal_error', 'XX000', 500, /Bistre failed at this\. Nothing was half saved/],
];

withDatabase('what goes wrong below', () => {
  let db: Db;
  let server: Server;
  let base: string;
  const lines: string[] = [];
  beforeAll(async () => {
    const url = await freshDatabase('guards', false);
    db = connect(url, 3);
    const app = express();
    app.get('/raise/:code', async (request, response) => {
      await sql
        .raw(`do $$ begin raise exception 'as asked' using errcode = '${request.params.code}'; end $$`)
        .execute(db);
      response.json({});
    });
    app.get('/sleep', async (_request, response) => {
      await sql`select pg_sleep(20)`.execute(db);
      response.json({});
    });
    app.get('/awake', async (_request, response) => {
      await sql`select 1`.execute(db);
      response.json({});
    });
    app.use(answerProblems(pino({ level: 'warn' }, { write: (line: string) => void lines.push(line) })));
    server = app.listen(0, '127.0.0.1');
    await new Promise((done) => server.once('listening', done));
    base = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  });
  afterAll(async () => {
    server.closeAllConnections();
    server.close();
    await db.destroy();
  });

  it.each(CODES)('%s (%s) is answered %d in words', async (_name, code, status, words) => {
    const response = await fetch(`${base}/raise/${code}`);
    const { message } = (await response.json()) as { message: string };
    expect([response.status, message]).toEqual([status, expect.stringMatching(words)]);
    expect(message).not.toMatch(/as asked/);
  });

  it('a database connection that is lost in the middle is one answer, and the next one works', async () => {
    const asleep = fetch(`${base}/sleep`);
    const admin = connect(process.env.DATABASE_URL!, 1);
    const ended = async (): Promise<number> =>
      (
        await sql<{ ended: boolean }>`select pg_terminate_backend(pid) as ended from pg_stat_activity
          where datname = ${`guards_${process.pid}`} and query like '%pg_sleep%'`.execute(admin)
      ).rows.length;
    for (let i = 0; i < 100 && (await ended()) === 0; i += 1) await new Promise((done) => setTimeout(done, 30));
    const response = await asleep;
    expect([response.status, ((await response.json()) as { code: string }).code]).toEqual([503, 'database-away']);
    // Those at rest break too: nobody is at them, and nothing ends.
    await sql`select pg_terminate_backend(pid) from pg_stat_activity where datname = ${`guards_${process.pid}`}`.execute(
      admin,
    );
    await admin.destroy();
    await new Promise((done) => setTimeout(done, 100));
    expect((await fetch(`${base}/awake`)).status).toBe(200);
  });

  it('a bug is logged where it happened, what is known is one line', () => {
    const bug = lines.find((line) => line.includes('as asked') && line.includes('"failed"'))!;
    expect(JSON.parse(bug)).toMatchObject({ err: { stack: expect.stringContaining('at ') as string } });
    expect(lines.filter((line) => line.includes('"failed"'))).toHaveLength(1);
  });
});

withDatabase('another site', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('sites');
  });
  afterAll(() => shop.stop());

  it.each([
    ['a picture in another site’s page', { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'no-cors' }],
    ['a link in another site’s page', { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'navigate' }],
    ['another program’s page on this machine', { 'sec-fetch-site': 'same-site' }],
    ['an older browser that only says where it came from', { referer: 'http://elsewhere.test/page' }],
    ['a page that says its origin', { origin: 'http://elsewhere.test' }],
  ])('%s gets no file, and the log stays as it is', async (_what, headers) => {
    const { id } = await shop.batch('Boat tags');
    const log = async (): Promise<number> => (await shop.call(api.listLog)).rows[0]!.id;
    const before = await log();
    const file = `${shop.base}/api/batches/${id}/files/roster.csv`;
    expect((await fetch(file, { headers: headers as Record<string, string> })).status).toBe(403);
    expect(await log()).toBe(before);
    // The same from Bistre's own page, or typed in, is given and logged.
    expect((await fetch(file, { headers: { 'sec-fetch-site': 'same-origin' } })).status).toBe(200);
    expect((await fetch(file, { headers: { 'sec-fetch-site': 'none' } })).status).toBe(200);
    expect(await log()).toBe(before + 2);
  });

  it('a reading call cannot write, whatever its handler would: PostgreSQL refuses it', async () => {
    await expect(reading(shop.db, (trx) => trx.deleteFrom('events').execute())).rejects.toThrow(/read-only/);
  });
});
