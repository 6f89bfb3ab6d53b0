import { request } from 'node:http';
import fc from 'fast-check';
import { api, FILES, type AnyEndpoint } from '@bistre/contract';
import { hostile, near, NASTY_TEXT } from './arbitrary';
import type { Running } from './process';

/** One request as it goes over the wire. */
export interface Shot {
  readonly name: string;
  readonly method: string;
  readonly path: string;
  readonly headers: Record<string, string>;
  readonly body: string | null;
}

export interface Hit {
  readonly status: number;
  readonly ms: number;
  readonly text: string;
}

/** JSON as a careless client writes it: what it cannot say stays in, lone surrogates too. */
const wire = (value: unknown): string =>
  (JSON.stringify(value) ?? '').replaceAll('"\\u0000"', '"\u0000"').slice(0, 4_000_000);

const asPath = (text: string): string => {
  try {
    return encodeURIComponent(text);
  } catch {
    return '%ED%A0%80';
  }
};

const header = fc.constantFrom<Record<string, string>>(
  {},
  {},
  {},
  {},
  { 'bistre-operator': '%' },
  { 'bistre-operator': '%E2%98' },
  { 'bistre-operator': 'Ödile\xff' },
  { 'idempotency-key': 'same for all' },
  { 'idempotency-key': 'k'.repeat(500) },
  { 'content-encoding': 'bogus' },
  { 'content-encoding': 'gzip' },
  { 'content-type': 'text/plain' },
  { 'content-type': 'application/json; charset=klingon' },
  { 'content-type': 'multipart/form-data' },
  { accept: 'nothing/*' },
  { 'if-none-match': '*' },
  { range: 'bytes=5-1' },
);

const shotAt = ([name, endpoint]: readonly [string, AnyEndpoint], ids: readonly string[]): fc.Arbitrary<Shot> => {
  const piece = fc.oneof(
    { weight: 5, arbitrary: fc.constantFrom(...ids) },
    { weight: 1, arbitrary: fc.uuid() },
    { weight: 2, arbitrary: fc.constantFrom(...NASTY_TEXT).map(asPath) },
    { weight: 1, arbitrary: fc.constantFrom('%', '%zz', '%00', '..%2f..', '%C0%AF') },
    { weight: 2, arbitrary: fc.constantFrom('place.home', 'hold.cut', 'machines', 'batches', 'offcuts', '1') },
  );
  const names = [...endpoint.path.matchAll(/:(\w+)/g)].map((m) => m[1]!);
  const query = fc.oneof(
    near(endpoint.query, ids),
    fc.constant({ before: '-1', limit: '1e9', q: '%', closed: 'maybe' }),
    hostile,
  );
  return fc
    .tuple(fc.tuple(...names.map(() => piece)), query, near(endpoint.body, ids), header)
    .map(([parts, asked, body, headers]) => {
      const filled = names.reduce((p, k, i) => p.replace(`:${k}`, parts[i]!), endpoint.path);
      const words = typeof asked === 'object' && asked !== null ? Object.entries(asked) : [];
      const search = words.map(([k, v]) => `${asPath(k)}=${asPath(typeof v === 'string' ? v : String(v))}`).join('&');
      const get = endpoint.method === 'GET';
      return {
        name,
        method: endpoint.method,
        path: `${filled}${get && search ? `?${search}` : ''}`.slice(0, 8_000),
        headers: { 'content-type': 'application/json', ...headers },
        body: get ? null : wire(body),
      };
    });
};

/** Requests to every call of the contract, valid, nearly valid and hostile, and to places that are no calls. */
export const shots = (ids: readonly string[]): fc.Arbitrary<Shot> => {
  const calls = (Object.entries(api) as [string, AnyEndpoint][]).map((e) => shotAt(e, ids));
  const stray = fc
    .constantFrom(
      '/%zz',
      '/api/%zz',
      '/api/nothing',
      '/api/batches/%2e%2e/files/passwd',
      '/api/pictures/----',
      '/api/alphabets/__proto__',
      '/api/pictures?name=%00',
      `/api/batches/${ids[0]}/photo.png?shot=NaN`,
      `/api/batches/${ids[0]}/files/load.gcode`,
    )
    .map((path): Shot => ({ name: 'stray', method: 'GET', path, headers: {}, body: null }));
  const picture = fc.uint8Array({ maxLength: 400 }).map((bytes): Shot => ({
    name: 'picture',
    method: 'POST',
    path: '/api/pictures?name=x',
    headers: { 'content-type': 'image/png' },
    body: `\x89PNG\r\n\x1a\n${Buffer.from(bytes).toString('latin1')}`,
  }));
  const file = fc.tuple(fc.constantFrom(...ids), fc.constantFrom(...FILES)).map(([id, name]): Shot => ({
    name: 'file',
    method: 'GET',
    path: `/api/batches/${id}/files/${name}`,
    headers: {},
    body: null,
  }));
  return fc.oneof(...calls, stray, picture, file, file);
};

/** Sends one request as it is, over a socket of its own kind; whatever the server does becomes a hit. */
export const fire = ({ port }: Pick<Running, 'port'>, shot: Shot): Promise<Hit> =>
  new Promise((done) => {
    const start = performance.now();
    const hungUp = (error: Error): void =>
      done({ status: 599, ms: performance.now() - start, text: `no answer: ${error.message}` });
    const bytes = shot.body === null ? null : Buffer.from(shot.body, shot.name === 'picture' ? 'latin1' : 'utf8');
    const headers = { ...shot.headers, ...(bytes ? { 'content-length': bytes.length } : {}) };
    let sent;
    try {
      sent = request({ host: '127.0.0.1', port, method: shot.method, path: shot.path, headers });
    } catch {
      // Node itself would not send it: nothing of the server's.
      done({ status: 0, ms: 0, text: '' });
      return;
    }
    sent.on('response', (response) => {
      const parts: Buffer[] = [];
      response.on('data', (part: Buffer) => parts.push(part));
      response.on('error', hungUp);
      response.on('end', () =>
        done({
          status: response.statusCode ?? 0,
          ms: performance.now() - start,
          text: Buffer.concat(parts).toString('utf8').slice(0, 400),
        }),
      );
    });
    sent.on('error', hungUp);
    sent.end(bytes ?? undefined);
  });
