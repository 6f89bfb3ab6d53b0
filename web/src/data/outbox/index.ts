import { useSyncExternalStore } from 'react';
import { toast } from 'sonner';
import { api, carriesVersion, type AnyEndpoint, type BatchDocument } from '@bistre/contract';
import { CallFailed, newKey, NotUnderstood, sendOnce } from '../api';
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

const sayForbidden = (): void =>
  void toast.error('This browser lets nothing be kept: what waits is lost when this page is closed or renewed.', { duration: Infinity }); // prettier-ignore

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
    const { id, version } = (reply ?? {}) as { id?: string; version?: number };
    // Only what the write was about has the version that later writes are laid over.
    return { kind: 'taken', reply, version: id === kept.scope ? (version ?? null) : null };
  } catch (error) {
    if (!(error instanceof CallFailed)) throw error;
    // It was taken; only its answer is beyond this page.
    if (error instanceof NotUnderstood) return { kind: 'taken', reply: null, version: null };
    const { status, problem } = error;
    return LATER.has(status) || problem.code === 'overtaken'
      ? { kind: 'away', why: problem.message }
      : { kind: 'refused', refusal: { status, problem } };
  }
};

/** The things of the Shelf, as the calls that make and change them name them, and where they are listed. */
const LISTS = {
  Blank: 'blanks',
  Machine: 'machines',
  Recipe: 'recipes',
  Drive: 'drives',
  Feeder: 'feeders',
  Artwork: 'artworks',
  Step: 'steps',
  Trial: 'trials',
};
/** Calls that answer with the trial as it stands now. */
const OF_TRIALS: readonly string[] = ['burnedTrial', 'simulateTrial', 'scoreCell', 'dropScore'];
const listOf = (call: string): string | undefined =>
  OF_TRIALS.includes(call) ? 'trials' : LISTS[call.replace(/^(save|create|revise)/, '') as keyof typeof LISTS];

/** What is to be fetched again after a write that answers with no batch; everything where that is not known. */
const touched = ({ call, scope }: Kept): readonly (readonly string[])[] => {
  const list = listOf(call);
  if (list) return [[list], ['batch'], ['shelf-undo', scope]];
  if (call === 'addSample' || call === 'dropSample') return [['batch', scope], ['blanks']];
  if (call === 'addMachineChange' || call === 'dropMachineChange')
    return [['machines'], ['batch'], ['shelf-undo', scope]];
  if (call === 'proveRecipe') return [['trials'], ['recipes'], ['batch']];
  if (call === 'keepOffcuts') return [['offcuts']];
  if (call === 'createBatch' || call === 'againBatch') return [['batches']];
  return call === 'wroteFile' ? [['log']] : [[]];
};

/** Shows what is stored now, and says what nobody waits for any more. */
const answered = async (kept: Kept, answer: Exclude<Answer, { kind: 'away' }>, waitedFor: boolean): Promise<void> => {
  const key = ['batch', kept.scope];
  const now = answer.kind === 'taken' ? answer.reply : answer.refusal.problem.now;
  if (now && typeof now === 'object' && 'setup' in now) await showReply(queryClient, key, now as BatchDocument);
  else {
    const list = listOf(kept.call);
    // What is listed is right at once; the rest follows.
    if (list && now && typeof now === 'object' && 'version' in now)
      queryClient.setQueryData<{ id: string }[]>([list], (old) =>
        old?.map((t) => (t.id === kept.scope ? (now as unknown as typeof t) : t)),
      );
    for (const queryKey of touched(kept)) void queryClient.invalidateQueries({ queryKey });
  }
  if (kept.params['id'] === kept.scope) void queryClient.invalidateQueries({ queryKey: ['batches'] });
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
  store: openStore(undefined, sayForbidden),
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
