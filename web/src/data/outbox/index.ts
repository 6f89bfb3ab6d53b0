import { useSyncExternalStore } from 'react';
import { toast } from 'sonner';
import { api, carriesVersion, type AnyEndpoint, type BatchDocument } from '@bistre/contract';
import { CallFailed, newKey, sendOnce } from '../api';
import { queryClient } from '../queries';
import { showReply } from '../show';
import type { Kept } from './kept';
import { Outbox, type Answer, type Waiting } from './outbox';
import { openStore } from './store';

export { contested, type Outcome } from './outbox';
export type { Kept } from './kept';
export { laidOver } from './overlay';
export { manyWords, wordsOf } from './words';

const CALLS = api as unknown as Readonly<Record<string, AnyEndpoint>>;
const NAMES = new Map(Object.entries(CALLS).map(([name, endpoint]) => [endpoint, name]));
/** The name of a call in the contract. */
export const nameOf = (endpoint: AnyEndpoint): string => NAMES.get(endpoint)!;

/** Answers by which a server says that it cannot at the moment, or that a proxy before it could not reach it. */
const LATER = new Set([0, 408, 425, 429, 502, 503, 504, 507]);

const send = async (kept: Kept): Promise<Answer> => {
  const endpoint = CALLS[kept.call];
  if (!endpoint) {
    const message = `This page does not know how to send “${kept.words}”. Renew the page.`;
    return { kind: 'refused', refusal: { status: 400, problem: { code: 'unknown-call', message } } };
  }
  const body = carriesVersion(endpoint) ? { ...(kept.body as object), version: kept.base } : kept.body;
  try {
    const reply: unknown = await sendOnce(endpoint, { params: kept.params, body } as never, kept.key, kept.by);
    const { version } = (reply ?? {}) as { version?: number };
    return { kind: 'taken', reply, version: version ?? null };
  } catch (error) {
    if (!(error instanceof CallFailed)) throw error;
    const { status, problem } = error;
    return LATER.has(status) || problem.code === 'overtaken'
      ? { kind: 'away', why: problem.message }
      : { kind: 'refused', refusal: { status, problem } };
  }
};

/** Shows what is stored now, and says what nobody waits for any more. */
const answered = async (kept: Kept, answer: Exclude<Answer, { kind: 'away' }>, waitedFor: boolean): Promise<void> => {
  const key = ['batch', kept.scope];
  const now = answer.kind === 'taken' ? answer.reply : answer.refusal.problem.now;
  if (now && typeof now === 'object' && 'setup' in now) await showReply(queryClient, key, now as BatchDocument);
  else void queryClient.invalidateQueries({ queryKey: key });
  void queryClient.invalidateQueries({ queryKey: ['batches'] });
  if (answer.kind === 'refused' && !waitedFor && !kept.section)
    toast.error(`Not taken, ${kept.words}: ${answer.refusal.problem.message}`, { duration: 20_000 });
};

const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('bistre-outbox');

/** One tab sends at a time; a browser without locks has to do with one that holds within its own tab. */
const alone = async (scope: string, job: () => Promise<void>): Promise<void> => {
  const locks = navigator.locks as LockManager | undefined;
  await (locks ? locks.request(`bistre-outbox ${scope}`, job) : job());
};

/** The outbox of this browser. */
export const outbox = new Outbox({
  store: openStore(),
  send,
  alone,
  tell: () => channel?.postMessage('changed'),
  key: newKey,
  now: () => Date.now(),
  wait: (ms) => new Promise((done) => setTimeout(done, ms)),
  answered,
});
channel?.addEventListener('message', () => void outbox.look());

export const useWaiting = (): Waiting => useSyncExternalStore(outbox.subscribe, outbox.get);
