import {
  PICTURES,
  pictureInfo,
  type AnyEndpoint,
  type ApiProblem,
  type BodyOf,
  type ParamsOf,
  type PictureInfo,
  type QueryOf,
  type ReplyOf,
} from '@bistre/contract';

/** What the server said no to, or that it could not be reached. */
export class CallFailed extends Error {
  constructor(
    readonly status: number,
    readonly problem: ApiProblem,
  ) {
    super(problem.message);
  }
}

const OPERATOR = 'bistre.operator';
export const operatorName = (): string => localStorage.getItem(OPERATOR) ?? 'operator';
export const setOperatorName = (name: string): void => localStorage.setItem(OPERATOR, name.trim() || 'operator');

interface Input<E extends AnyEndpoint> {
  params?: ParamsOf<E>;
  query?: QueryOf<E>;
  body?: BodyOf<E>;
}

const address = (path: string, params: unknown, query: unknown): string => {
  const filled = path.replace(/:(\w+)/g, (_, key: string) =>
    encodeURIComponent(String((params as Record<string, unknown>)[key])),
  );
  const words = Object.entries((query ?? {}) as Record<string, unknown>).filter(([, v]) => v !== undefined && v !== '');
  return words.length === 0
    ? filled
    : `${filled}?${new URLSearchParams(words.map(([k, v]) => [k, String(v)])).toString()}`;
};

const AWAY: ApiProblem = {
  code: 'unreachable',
  message: 'Bistre’s server does not answer. What you typed is kept here; it is saved when the server is back.',
};

/** Calls one endpoint. A write that got no answer is sent again under the same key, so that it counts once. */
export const call = async <E extends AnyEndpoint>(endpoint: E, input: Input<E> = {}): Promise<ReplyOf<E>> => {
  const key = endpoint.method === 'GET' ? undefined : crypto.randomUUID();
  const send = (): Promise<Response> =>
    fetch(address(endpoint.path, input.params, input.query), {
      method: endpoint.method,
      headers: {
        'bistre-operator': encodeURIComponent(operatorName()),
        ...(input.body === undefined ? {} : { 'content-type': 'application/json' }),
        ...(key ? { 'idempotency-key': key } : {}),
      },
      ...(input.body === undefined ? {} : { body: JSON.stringify(input.body) }),
    });
  let response: Response | null = null;
  for (let attempt = 0; attempt < 3 && !response; attempt += 1) {
    response = await send().catch(() => null);
    if (!response) await new Promise((done) => setTimeout(done, 400 * (attempt + 1)));
  }
  if (!response) throw new CallFailed(0, AWAY);
  const body: unknown = await response.json().catch(() => AWAY);
  if (!response.ok) throw new CallFailed(response.status, body as ApiProblem);
  return body as ReplyOf<E>;
};

/** Sends a picture as it is; the server makes it plain and says its size. */
export const sendPicture = async (file: File): Promise<PictureInfo> => {
  const response = await fetch(`${PICTURES}?${new URLSearchParams({ name: file.name }).toString()}`, {
    method: 'POST',
    headers: { 'bistre-operator': encodeURIComponent(operatorName()), 'content-type': 'image/png' },
    body: file,
  }).catch(() => null);
  if (!response) throw new CallFailed(0, AWAY);
  const body: unknown = await response.json().catch(() => AWAY);
  if (!response.ok) throw new CallFailed(response.status, body as ApiProblem);
  return pictureInfo.parse(body);
};

export const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
