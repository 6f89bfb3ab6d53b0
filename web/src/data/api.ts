import {
  api,
  artReading,
  batchDocument,
  PAGES,
  jobPlan,
  jobRead,
  JOBS,
  LOOK_AT_JOB,
  PICTURES,
  PHOTOGRAPHS,
  photographInfo,
  pictureInfo,
  READ_ART,
  type AnyEndpoint,
  type ApiProblem,
  type ArtReading,
  type BodyOf,
  type ParamsOf,
  type PhotographInfo,
  type JobChoices,
  type JobPlan,
  type JobRead,
  type PictureInfo,
  type QueryOf,
  type ReplyOf,
} from '@bistre/contract';
import type { z, ZodType } from 'zod';
import { haveOf, wholeOf } from './parts';
import { create } from './store';

/** What the server said no to, or that it could not be reached. */
export class CallFailed extends Error {
  constructor(
    readonly status: number,
    readonly problem: ApiProblem,
  ) {
    super(problem.message);
  }
}

/** An answer that is none of the contract: of a newer server, or a mistake of this page's or the server's. */
export class NotUnderstood extends CallFailed {
  constructor(where: string) {
    super(200, {
      code: 'not-understood',
      message: `The server’s answer is not one that this page understands (${where}). Renew the page; nothing is lost by it.`,
    });
  }
}

/** An answer as the contract has it. @throws NotUnderstood naming the place */
const understood = <S extends z.ZodType>(schema: S, body: unknown): z.infer<S> => {
  const read = schema.safeParse(body);
  if (read.success) return read.data;
  throw new NotUnderstood(read.error.issues[0]!.path.join('.') || 'all of it');
};
/** What of a batch comes in one answer: the parts that the page does not have. */
const someOfBatch = batchDocument.partial();

/** The build of the pages that the server had when this page first heard of it. */
let mine: string | null = null;
/** Whether the server has newer pages than this one. */
export const newerPages = create(false);

const watchPages = (build: string | null): void => {
  if (build === null) return;
  mine ??= build;
  if (build !== mine) newerPages.set(true);
};

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

/** A key under which a write happens once; also where the browser has no `randomUUID`, on a plain address of the shop's net. */
export const newKey = (): string =>
  typeof crypto.randomUUID === 'function'
    ? crypto.randomUUID()
    : Array.from(crypto.getRandomValues(new Uint8Array(16)), (b) => b.toString(16).padStart(2, '0')).join('');

/** A name for machines, as the database makes them (RFC 9562, version 4). */
export const newId = (): string => {
  const hex = newKey().replaceAll('-', '').split('');
  hex[12] = '4';
  hex[16] = '89ab'[parseInt(hex[16]!, 16) % 4]!;
  return hex.join('').replace(/^(.{8})(.{4})(.{4})(.{4})/, '$1-$2-$3-$4-');
};

/** What was asked for before this page’s scripts were read; taken once. */
const askedEarly = (path: string): Promise<Response | null> | undefined => {
  const early = (window as { bistreEarly?: { readonly path: string; readonly answer: Promise<Response | null> } }).bistreEarly; // prettier-ignore
  if (early?.path !== path) return undefined;
  delete (window as { bistreEarly?: unknown }).bistreEarly;
  return early.answer;
};

/** Sends one call once. @throws CallFailed with status 0 when there is no answer */
export const sendOnce = async <E extends AnyEndpoint>(
  endpoint: E,
  input: Input<E>,
  key?: string,
  by = operatorName(),
  signal?: AbortSignal,
): Promise<ReplyOf<E>> => {
  const batch = endpoint.reply === batchDocument ? (input.params as { id: string }).id : null;
  const path = address(endpoint.path, input.params, input.query);
  const asked = endpoint.method === 'GET' ? askedEarly(path) : undefined;
  const response = await (asked ??
    fetch(path, {
      method: endpoint.method,
      headers: {
        'bistre-operator': encodeURIComponent(by),
        ...(batch === null ? {} : haveOf(batch)),
        ...(input.body === undefined ? {} : { 'content-type': 'application/json' }),
        ...(key ? { 'idempotency-key': key } : {}),
      },
      ...(input.body === undefined ? {} : { body: JSON.stringify(input.body) }),
      ...(signal ? { signal } : {}),
    }).catch(() => null));
  signal?.throwIfAborted();
  if (!response) throw new CallFailed(0, AWAY);
  const body: unknown = await response.json().catch(() => null);
  // Half an answer, or one that is not Bistre's: the server went while it spoke.
  if (body === null) throw new CallFailed(0, AWAY);
  watchPages(response.headers.get(PAGES));
  if (!response.ok) throw new CallFailed(response.status, body as ApiProblem);
  if (batch === null) return understood(endpoint.reply, body) as ReplyOf<E>;
  const whole = wholeOf(batch, response.headers, understood(someOfBatch, body));
  return (whole ?? (await sendOnce(api.getBatch, { params: { id: batch } }))) as ReplyOf<E>;
};

const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

/**
 * Calls one endpoint. A call that got no answer is sent again, a write under the same key, so that it counts once.
 * @param signal gives the call up, and with it what the server does for it
 * @throws CallFailed where it was refused or nobody answers; what the signal says where it was given up
 */
export const call = async <E extends AnyEndpoint>(
  endpoint: E,
  input: Input<E> = {},
  signal?: AbortSignal,
): Promise<ReplyOf<E>> => {
  const key = endpoint.method === 'GET' ? undefined : newKey();
  for (let attempt = 1; ; attempt += 1) {
    try {
      return await sendOnce(endpoint, input, key, operatorName(), signal);
    } catch (error) {
      if (attempt === 3 || !(error instanceof CallFailed) || error.status !== 0) throw error;
      await pause(400 * attempt);
    }
  }
};

/** Sends a file as it is, which the page need not take up itself. @throws as `call` does */
const sendFile = async <T>(
  path: string,
  file: File,
  reply: ZodType<T>,
  signal?: AbortSignal,
  more: Readonly<Record<string, string>> = {},
): Promise<T> => {
  const response = await fetch(`${path}?${new URLSearchParams({ name: file.name.slice(-200), ...more }).toString()}`, {
    method: 'POST',
    headers: { 'bistre-operator': encodeURIComponent(operatorName()), 'content-type': 'application/octet-stream' },
    body: file,
    ...(signal ? { signal } : {}),
  }).catch(() => null);
  signal?.throwIfAborted();
  if (!response) throw new CallFailed(0, AWAY);
  const body: unknown = await response.json().catch(() => null);
  if (body === null) throw new CallFailed(0, AWAY);
  if (!response.ok) throw new CallFailed(response.status, body as ApiProblem);
  return understood(reply, body) as T;
};

/** Sends a picture as it is; the server makes it plain and says its size. */
export const sendPicture = (file: File): Promise<PictureInfo> => sendFile(PICTURES, file, pictureInfo);

/** Sends a photograph as it is; the server makes it small. */
export const sendPhotograph = (file: File): Promise<PhotographInfo> => sendFile(PHOTOGRAPHS, file, photographInfo);

/** Sends a file of art to be read; nothing of it is kept. */
export const sendArt = (file: File, signal: AbortSignal): Promise<ArtReading> =>
  sendFile(READ_ART, file, artReading, signal);

/** What reading a job in would do, as far as it is answered. */
export const lookAtJob = (file: File, choices: JobChoices, signal: AbortSignal): Promise<JobPlan> =>
  sendFile(LOOK_AT_JOB, file, jobPlan, signal, { choices: JSON.stringify(choices) });

/** Reads a job in. */
export const readJob = (file: File, choices: JobChoices): Promise<JobRead> =>
  sendFile(JOBS, file, jobRead, undefined, { choices: JSON.stringify(choices) });

export const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
