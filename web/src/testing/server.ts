/** A call as it reached the server. */
export interface Sent {
  readonly method: string;
  readonly path: string;
  readonly body: Record<string, unknown>;
  readonly key: string | undefined;
}
/** No answer, or a refusal with its words. */
export type Plan =
  'away' | { readonly status: number; readonly code: string; readonly message: string; readonly now?: unknown };

/**
 * A server for pages under test: keeps the writes that reached it, and answers them by its plan first, then by
 * `answer`.
 */
export const pretend = (
  answer: (sent: Sent) => unknown,
): { readonly writes: Sent[]; readonly asked: Sent[]; readonly plan: Plan[] } => {
  const state = { writes: [] as Sent[], asked: [] as Sent[], plan: [] as Plan[] };
  globalThis.fetch = ((
    path: string,
    init: { method?: string; body?: string | Blob; headers?: Record<string, string> } = {},
  ) => {
    const { method = 'GET', body = '{}', headers = {} } = init;
    // A file is sent as it is.
    const read = typeof body === 'string' ? (JSON.parse(body) as Record<string, unknown>) : {};
    const sent = { method, path, body: read, key: headers['idempotency-key'] };
    (method === 'GET' ? state.asked : state.writes).push(sent);
    const plan = method === 'GET' ? undefined : state.plan.shift();
    if (plan === 'away') return Promise.reject(new TypeError('refused'));
    const said = plan ?? answer(sent);
    const status = plan?.status ?? 200;
    return Promise.resolve({
      ok: status < 400,
      status,
      headers: new Headers(),
      json: () => Promise.resolve(JSON.parse(JSON.stringify(said)) as unknown),
    });
  }) as unknown as typeof fetch;
  return state;
};
