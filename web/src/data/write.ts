import { useMutation, type UseMutationResult } from '@tanstack/react-query';
import type { AnyEndpoint, BodyOf, ParamsOf, ReplyOf } from '@bistre/contract';
import { CallFailed, operatorName } from './api';
import { nameOf, outbox, wordsOf } from './outbox';

/** A body without the version: the outbox knows over which one it is laid. */
export type Unversioned<B> = B extends { version: number } ? Omit<B, 'version'> : B;

/** A write that is not of the batch that is open: to the Shelf, or of something new. */
export interface Write<E extends AnyEndpoint> {
  readonly endpoint: E;
  readonly params?: ParamsOf<E>;
  readonly body?: Unversioned<BodyOf<E>>;
  /** What it changes, by its id; writes to the same leave in their order. Something new: `new`. */
  readonly scope: string;
  /** The version that was shown; 0 for what has none. */
  readonly base?: number;
  /** Whether what was typed is to wait for somebody when it is refused after its maker has left. */
  readonly whole?: boolean;
}

/** What became of a write: kept, to be sent by itself when the server is back, or taken, with the answer. */
export type Written<R> = { readonly kept: true } | { readonly kept: false; readonly reply: R | null };

/**
 * Writes through the outbox.
 * @throws CallFailed where it was refused
 */
export const write = async <E extends AnyEndpoint>({
  endpoint,
  params,
  body,
  scope,
  base = 0,
  whole = false,
}: Write<E>): Promise<Written<ReplyOf<E>>> => {
  const call = nameOf(endpoint);
  const outcome = await outbox.add({
    scope,
    call,
    params: (params ?? {}) as Record<string, unknown>,
    body,
    base,
    words: wordsOf(call, body),
    by: operatorName(),
    whole,
  });
  if (outcome.kind === 'refused') throw new CallFailed(outcome.refusal.status, outcome.refusal.problem);
  return outcome.kind === 'taken' ? { kept: false, reply: outcome.reply as ReplyOf<E> | null } : { kept: true };
};

/**
 * A write and how it goes, for a form. The order is the outbox's, by its scopes: a scope of the mutation itself would
 * hold a write back before it is kept.
 */
export const useWrite = (): UseMutationResult<Written<unknown>, Error, Write<AnyEndpoint>> =>
  useMutation({ mutationFn: write });

/** What is said of a write that is kept. */
export const KEPT = 'The server does not answer. It is kept here and sent when it does.';
