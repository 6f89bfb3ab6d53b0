import { api, HAVE, PAGES, PARTS, writeMarks } from '@bistre/contract';
import { call, CallFailed, newerPages, newId, newKey, operatorName, sendOnce, setOperatorName } from './api';

const params = { id: 'b1' };
interface Sent {
  readonly url: string;
  readonly headers: Record<string, string>;
  readonly body: unknown;
}
/** A server that answers by a list, and keeps what it was asked. */
const server = (
  ...answers: (null | { status?: number; body?: unknown; headers?: Record<string, string> })[]
): Sent[] => {
  const sent: Sent[] = [];
  globalThis.fetch = ((url: string, init: { headers: Record<string, string>; body?: string }) => {
    sent.push({ url, headers: init.headers, body: init.body && JSON.parse(init.body) });
    const answer = answers.length > 1 ? answers.shift() : answers[0];
    if (!answer) return Promise.reject(new TypeError('refused'));
    const { status = 200, body = {}, headers = {} } = answer;
    return Promise.resolve({
      ok: status < 400,
      status,
      headers: new Headers(headers),
      json: () => (body === 'cut' ? Promise.reject(new SyntaxError('cut')) : Promise.resolve(body)),
    });
  }) as unknown as typeof fetch;
  return sent;
};
const failed = async (job: Promise<unknown>): Promise<CallFailed> => {
  const error: unknown = await job.then(
    () => null,
    (e: unknown) => e,
  );
  if (!(error instanceof CallFailed)) throw new Error('it was taken');
  return error;
};

describe('a call', () => {
  it('fills in the path, says who is at the bench, and carries one key through all its attempts', async () => {
    setOperatorName('Jörg');
    const sent = server(null, { body: 'cut' }, { body: { ok: true } });
    await call(api.tick, { params: { id: 'b 1', step: 'a/b' }, body: { done: true } });
    expect(sent.map((s) => s.url)).toEqual(Array(3).fill('/api/batches/b%201/ticks/a%2Fb'));
    expect(new Set(sent.map((s) => s.headers['idempotency-key'])).size).toBe(1);
    expect(decodeURIComponent(sent[0]!.headers['bistre-operator']!)).toBe('Jörg');
    expect(sent[2]!.body).toEqual({ done: true });
    setOperatorName('  ');
    expect(operatorName()).toBe('operator');
  });

  it('that is refused is not sent again, and says why', async () => {
    const sent = server({ status: 422, body: { code: 'no', message: 'The board is gone.' } });
    const { status, problem } = await failed(
      call(api.tick, { params: { ...params, step: 's' }, body: { done: true } }),
    );
    expect([sent.length, status, problem.message]).toEqual([1, 422, 'The board is gone.']);
  });

  it('that nobody answers says that it is kept', async () => {
    server(null);
    expect((await failed(call(api.listBatches))).problem.message).toMatch(/does not answer.*kept/);
  });

  it('asks only for what a page needs of a list', async () => {
    const sent = server({ body: { rows: [], next: null } });
    await call(api.listLog, { query: { q: 'mark 2', batch: '' } as never });
    expect(sent[0]!.url).toBe('/api/log?q=mark+2');
    expect(sent[0]!.headers['idempotency-key']).toBeUndefined();
  });

  it('whose answer is none of the contract says where, and asks for a new page', async () => {
    const sent = server({ body: [{ id: 'b1' }] });
    const { status, problem } = await failed(call(api.listBatches));
    expect([sent.length, status, problem.code]).toEqual([1, 200, 'not-understood']);
    expect(problem.message).toMatch(/\(0\.id\)\. Renew the page/);
  });

  it('names what it makes as the database would, also where the browser makes no names', () => {
    const keep = crypto.randomUUID;
    const version4 = /^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/;
    expect(newId()).toMatch(version4);
    Object.defineProperty(crypto, 'randomUUID', { value: undefined, configurable: true });
    expect(newId()).toMatch(version4);
    Object.defineProperty(crypto, 'randomUUID', { value: keep, configurable: true });
  });

  it('has a key also where the browser makes none', () => {
    const keep = crypto.randomUUID;
    Object.defineProperty(crypto, 'randomUUID', { value: undefined, configurable: true });
    expect(newKey()).toMatch(/^[0-9a-f]{32}$/);
    expect(newKey()).not.toBe(newKey());
    Object.defineProperty(crypto, 'randomUUID', { value: keep, configurable: true });
  });
});

describe('a batch in parts', () => {
  const marks = (m: Record<string, string>) => ({ [PARTS]: writeMarks(m) });
  it('is put together of what was answered and what was there, which stays the very same value', async () => {
    const roster = [{ name: 'PUFFIN' }];
    const tick = { step: 'place.home', at: '2026-11-20T08:00:00.000Z', by: 'Odile' };
    const sent = server(
      { body: { version: 1, roster, ticks: [] }, headers: marks({ roster: 'r1' }) },
      { body: { version: 2, ticks: [tick] }, headers: marks({ roster: 'r1' }) },
      { body: { version: 3, ticks: [tick], roster: [{ name: 'GULL' }] }, headers: marks({ roster: 'r2' }) },
    );
    const ask = () => sendOnce(api.getBatch, { params: { id: 'p1' } }) as unknown as Promise<Record<string, unknown>>;
    const [first, second, third] = [await ask(), await ask(), await ask()];
    expect(sent.map((s) => s.headers[HAVE])).toEqual([undefined, 'roster=r1', 'roster=r1']);
    expect(second).toEqual({ version: 2, ticks: [tick], roster });
    expect(second!['roster']).toBe(first!['roster']);
    expect(third!['roster']).toEqual([{ name: 'GULL' }]);
  });

  it('is asked for whole when a part is not there after all', async () => {
    const sent = server(
      { body: { version: 1 }, headers: marks({ roster: 'r9' }) },
      { body: { version: 1, roster: [] }, headers: marks({ roster: 'r9' }) },
    );
    expect(await sendOnce(api.getBatch, { params: { id: 'p2' } })).toEqual({ version: 1, roster: [] });
    expect(sent).toHaveLength(2);
    expect(sent[1]!.headers[HAVE]).toBeUndefined();
  });
});

describe('a page that is older than its server', () => {
  it('hears of it by the first answer of the new one', async () => {
    const body = { ok: true, name: 'bistre' };
    server(
      ...['a', 'a', null, 'b'].map((build) => ({ body, ...(build === null ? {} : { headers: { [PAGES]: build } }) })),
    );
    const seen: boolean[] = [];
    for (let i = 0; i < 4; i += 1) {
      await call(api.health);
      seen.push(newerPages.get());
    }
    expect(seen).toEqual([false, false, false, true]);
  });
});
