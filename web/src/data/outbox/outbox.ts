import type { SectionName } from '@bistre/contract';
import { nextToSend, partOf, rebased, type Kept, type Refusal } from './kept';
import type { Store } from './store';

/** How the server answered a write; `away` when it did not. */
export type Answer =
  | { readonly kind: 'taken'; readonly reply: unknown; readonly version: number | null }
  | { readonly kind: 'refused'; readonly refusal: Refusal }
  | { readonly kind: 'away'; readonly why: string };

/** What became of a write as far as its maker waits for it: kept means that it will be sent. */
export type Outcome = Exclude<Answer, { kind: 'away' }> | { readonly kind: 'kept' };

/** What is written, by its maker. */
export type Draft = Pick<Kept, 'scope' | 'call' | 'params' | 'body' | 'base' | 'words' | 'by' | 'whole'>;

/** What an outbox needs of the browser. */
export interface World {
  readonly store: Store;
  readonly send: (kept: Kept) => Promise<Answer>;
  /** Does a job while no other tab does one for the same scope. */
  readonly alone: (scope: string, job: () => Promise<void>) => Promise<void>;
  /** Tells other tabs that something changed. */
  readonly tell: () => void;
  readonly key: () => string;
  readonly now: () => number;
  readonly wait: (ms: number) => Promise<void>;
  /** A write was answered: shows what is stored now. */
  readonly answered: (kept: Kept, answer: Exclude<Answer, { kind: 'away' }>, waitedFor: boolean) => Promise<void>;
}

/** What waits, and why the server did not take it when it was last asked; null when it did. */
export interface Waiting {
  readonly kept: readonly Kept[];
  readonly away: string | null;
}

/** How long typing rests before a part of the setup is sent, ms. */
const QUIET = 500;
/** Longest pause before a server that did not answer is asked again, ms. */
const LONGEST_PAUSE = 8_000;
const FIRST_PAUSE = 500;
const NOTHING = -1;
const AWAY = -2;

/** Whether somebody has to choose between two values. */
export const contested = ({ refused }: Kept): boolean => refused?.problem.code === 'stale';

/**
 * Every write of the page: kept before it is sent, sent in order for each scope, once each, by one tab at a time,
 * until the server has answered it.
 */
export class Outbox {
  #waiting: Waiting = { kept: [], away: null };
  readonly #listeners = new Set<() => void>();
  readonly #makers = new Map<number, (outcome: Outcome) => void>();
  readonly #under = new Map<string, Promise<void>>();
  /** Scopes whose parts leave at once: something else waits behind them. */
  readonly #hurry = new Set<string>();
  /** The last writes that were taken, by scope and part, with the version they made: the page may not show it yet. */
  readonly #taken = new Map<string, { readonly kept: Kept; readonly version: number }>();
  /** What is written to the store, one after the other. */
  #line: Promise<unknown> = Promise.resolve();

  constructor(private readonly world: World) {}

  readonly get = (): Waiting => this.#waiting;
  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  /** Reads what waits from before, and what other tabs changed; sends what can be sent. */
  async look(): Promise<void> {
    await this.#read();
    for (const scope of new Set(this.#waiting.kept.map((k) => k.scope))) void this.#deliver(scope);
  }

  /** Keeps a write and sends it; resolves when it was answered, or when it is plain that it has to wait. */
  async add(draft: Draft): Promise<Outcome> {
    const kept = await this.#inLine(() => this.world.store.add(this.#fresh(draft)));
    const outcome = new Promise<Outcome>((resolve) => this.#makers.set(kept.seq, resolve));
    this.#hurry.add(draft.scope);
    await this.#changed();
    void this.#deliver(draft.scope);
    // Known to be away: nobody waits for the next attempt.
    if (this.#waiting.away !== null) this.#tellMaker(kept.seq, { kind: 'kept' });
    return outcome;
  }

  /** Keeps another value for a part of a setup: in place of one that was not sent yet, else behind it. */
  async revise(draft: Draft & { readonly section: SectionName }): Promise<void> {
    await this.#inLine(async () => {
      const all = await this.world.store.all();
      const last = all.filter((k) => k.scope === draft.scope && k.section === draft.section).at(-1);
      // What was refused for itself is mended by another value; what is contested waits for a choice.
      const replaced =
        last &&
        (await this.world.store.change(last.seq, (now) =>
          now.tried
            ? null
            : { ...now, body: draft.body, refused: contested(now) ? now.refused : null, madeAt: this.world.now() },
        ));
      if (!replaced) await this.world.store.add(this.#fresh(draft));
    });
    await this.#changed();
    void this.#deliver(draft.scope);
  }

  /** Decides a contested part: mine is laid over what is stored now, or let go. */
  async settle(scope: string, section: SectionName, whose: 'mine' | 'theirs', version: number): Promise<void> {
    await this.#inLine(async () => {
      for (const k of await this.world.store.all()) {
        if (k.scope !== scope || k.section !== section || !k.refused) continue;
        if (whose === 'theirs') await this.world.store.remove(k.seq);
        else await this.world.store.put({ ...k, refused: null, base: version });
      }
    });
    this.#hurry.add(scope);
    await this.#changed();
    await this.#deliver(scope);
  }

  /** Lets a refused write go: somebody took up what was typed in it, or gave it up. */
  async letGo({ seq }: Kept): Promise<void> {
    await this.#inLine(async () => {
      const all = await this.world.store.all();
      if (all.some((k) => k.seq === seq && k.refused)) await this.world.store.remove(seq);
    });
    await this.#changed();
  }

  /** Sends what waits for a scope now, and resolves when nothing more can be sent. */
  async flush(scope: string): Promise<void> {
    this.#hurry.add(scope);
    await this.#deliver(scope);
  }

  #fresh(draft: Draft & { readonly section?: SectionName }): Omit<Kept, 'seq'> {
    const fresh: Kept = {
      ...draft,
      seq: -1,
      key: this.world.key(),
      tried: false,
      refused: null,
      madeAt: this.world.now(),
    };
    let { base } = fresh;
    for (const { kept, version } of this.#taken.values())
      base = Math.max(base, ...rebased([fresh], kept, version).map((raised) => raised.base));
    const { seq: _none, ...rest } = fresh;
    return { ...rest, base };
  }

  #inLine<T>(job: () => Promise<T>): Promise<T> {
    const done = this.#line.then(job);
    this.#line = done.catch(() => undefined);
    return done;
  }

  #show(part: Partial<Waiting>): void {
    this.#waiting = { ...this.#waiting, ...part };
    this.#listeners.forEach((l) => l());
  }

  async #read(): Promise<void> {
    this.#show({ kept: await this.#inLine(() => this.world.store.all()) });
  }

  async #changed(): Promise<void> {
    await this.#read();
    this.world.tell();
  }

  #tellMaker(seq: number, outcome: Outcome): void {
    this.#makers.get(seq)?.(outcome);
    this.#makers.delete(seq);
  }

  /** One delivery a scope at a time in this tab; what is asked for meanwhile is done by it, or right after it. */
  #deliver(scope: string): Promise<void> {
    const before = this.#under.get(scope);
    const run = async (): Promise<void> => {
      await before;
      await this.#empty(scope);
    };
    const done = run().finally(() => {
      if (this.#under.get(scope) === done) this.#under.delete(scope);
    });
    this.#under.set(scope, done);
    return done;
  }

  /** Sends until nothing can be sent; other tabs may have their turn between two attempts. */
  async #empty(scope: string): Promise<void> {
    for (let pause = FIRST_PAUSE; ;) {
      let left = 0;
      await this.world.alone(scope, async () => {
        left = await this.#sendAll(scope);
      });
      if (left === NOTHING) break;
      if (left === AWAY) {
        // Whoever waits for these goes on: they are kept.
        for (const k of this.#waiting.kept) if (k.scope === scope) this.#tellMaker(k.seq, { kind: 'kept' });
        await this.world.wait(pause);
        pause = Math.min(LONGEST_PAUSE, pause * 2);
      } else await this.world.wait(Math.min(left, 100));
    }
    this.#hurry.delete(scope);
  }

  /** @returns that nothing is left, that the server does not answer, or the ms for which typing should rest */
  async #sendAll(scope: string): Promise<number> {
    for (;;) {
      await this.#read();
      const next = nextToSend(this.#waiting.kept, scope);
      if (!next) return NOTHING;
      const early = next.madeAt + QUIET - this.world.now();
      if (next.section && early > 0 && !this.#hurry.has(scope)) return early;
      if ((await this.#sendOne(next)).kind === 'away') return AWAY;
    }
  }

  async #sendOne(next: Kept): Promise<Answer> {
    const sent = await this.#inLine(() => this.world.store.change(next.seq, (now) => ({ ...now, tried: true })));
    // Another tab sent it, or let it go.
    if (!sent) return { kind: 'taken', reply: null, version: null };
    const answer = await this.world.send(sent);
    if (answer.kind === 'away') {
      this.#show({ away: answer.why });
      return answer;
    }
    await this.#inLine(() => this.#settleAnswer(sent, answer));
    await this.world.answered(sent, answer, this.#makers.has(sent.seq));
    this.#tellMaker(sent.seq, answer);
    this.#show({ away: null });
    await this.#changed();
    return answer;
  }

  /** What the store keeps after an answer: what was taken goes, what was refused waits under a new key. */
  async #settleAnswer(sent: Kept, answer: Exclude<Answer, { kind: 'away' }>): Promise<void> {
    const { store } = this.world;
    if (answer.kind === 'refused' && (sent.section || (sent.whole && !this.#makers.has(sent.seq)))) {
      await store.put({ ...sent, tried: false, key: this.world.key(), refused: answer.refusal });
      return;
    }
    await store.remove(sent.seq);
    if (answer.kind === 'taken' && answer.version !== null) {
      this.#taken.set(`${sent.scope} ${partOf(sent)}`, { kept: sent, version: answer.version });
      const raised = rebased(await store.all(), sent, answer.version);
      if (raised.length > 0) await store.put(...raised);
    }
  }
}
