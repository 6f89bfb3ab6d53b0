import type { ApiProblem, SectionName } from '@bistre/contract';

/** What stands against a write that the server did not take. */
export interface Refusal {
  readonly status: number;
  readonly problem: ApiProblem;
}

/** A write that is kept until the server has answered it. */
export interface Kept {
  /** Its place in the order in which they were made. */
  readonly seq: number;
  /** Its idempotency key, from birth: however often it is sent, it happens once. */
  readonly key: string;
  /** What it changes: writes to the same leave one after the other. */
  readonly scope: string;
  /** The call of the contract. */
  readonly call: string;
  readonly params: Readonly<Record<string, unknown>>;
  /** As typed, without the version. */
  readonly body: unknown;
  /** The version that was shown when it was made, raised by answers to the writes before it. */
  readonly base: number;
  /** Who made it. */
  readonly by: string;
  /** What it does, for people. */
  readonly words: string;
  /** Which part of a setup it replaces; another value for the same part takes its place. */
  readonly section?: SectionName | undefined;
  /** Whether it makes or replaces a thing as a whole: refused when nobody waits for it any more, it waits for somebody. */
  readonly whole?: boolean | undefined;
  /** Whether it may have reached the server: then nothing in it changes any more. */
  readonly tried: boolean;
  /** Why it was not taken; it waits for somebody to decide. */
  readonly refused: Refusal | null;
  readonly madeAt: number;
}

/** What of a setup a write replaces, or what call it is: the same twice replaces the same. */
export const partOf = ({ call, section }: Pick<Kept, 'call' | 'section'>): string =>
  section ? `${call}:${section}` : call;

/**
 * What waits, once one of them was answered: those that replace the same part are laid over the answer, for nobody
 * else changed that part up to it, or it would not have been taken. Those of other parts only when nobody else
 * wrote in between: else the server is to see what they were made over.
 * @param version of the batch with the answered write in it
 */
export const rebased = (waiting: readonly Kept[], answered: Kept, version: number): Kept[] =>
  waiting.flatMap((w) => {
    if (w.scope !== answered.scope || w.seq === answered.seq || w.tried || w.refused || w.base >= version) return [];
    const same = partOf(w) === partOf(answered);
    return same || (w.base === answered.base && version === answered.base + 1) ? [{ ...w, base: version }] : [];
  });

/**
 * The write that leaves next for a scope; null when none can. A part that somebody has to decide about holds back
 * later values for the same part, and nothing else.
 */
export const nextToSend = (all: readonly Kept[], scope: string): Kept | null => {
  const held = new Set<string>();
  for (const w of all) {
    if (w.scope !== scope) continue;
    if (w.refused) held.add(partOf(w));
    else if (!held.has(partOf(w))) return w;
  }
  return null;
};
