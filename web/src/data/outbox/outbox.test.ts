import type { ApiProblem } from '@bistre/contract';
import { nextToSend, rebased, type Kept } from './kept';
import { contested, Outbox, type Answer, type Draft, type World } from './outbox';
import { openStore } from './store';

const kept = (part: Partial<Kept> = {}): Kept => ({
  seq: 1,
  key: 'k1',
  scope: 'b',
  call: 'saveSection',
  section: 'held',
  params: { id: 'b' },
  body: { section: 'held', value: 1 },
  base: 7,
  words: 'held',
  by: 'Odile',
  tried: false,
  refused: null,
  madeAt: 0,
  ...part,
});
const stale: ApiProblem = { code: 'stale', message: 'Odile changed this.' };
let shops = 0;

/** A server that keeps what it was sent, and tabs of one browser in front of it. */
const shop = () => {
  shops += 1;
  const name = `outbox-${shops}`;
  let clock = 1_000;
  let keys = 0;
  const server = {
    version: 7,
    /** Writes that it has done, by key. */
    done: new Map<string, { call: string; body: unknown; version: number | null }>(),
    sent: [] as Kept[],
    /** What it does with the next writes, one each; then it takes them. */
    plan: [] as ('away' | 'lost' | 'stale' | 'bad')[],
  };
  const locks = new Map<string, Promise<void>>();
  const tell = new Set<() => void>();
  const answered: { kept: Kept; kind: string; waitedFor: boolean }[] = [];
  const world = (): World => ({
    store: openStore(name),
    send: (write): Promise<Answer> => {
      server.sent.push(write);
      const plan = server.plan.shift();
      if (plan === 'away') return Promise.resolve({ kind: 'away', why: 'No answer.' });
      if (plan === 'stale' || plan === 'bad') {
        const problem = plan === 'stale' ? stale : { code: 'bad-input', message: 'Wall must be a number.' };
        return Promise.resolve({ kind: 'refused', refusal: { status: plan === 'stale' ? 409 : 400, problem } });
      }
      if (!server.done.has(write.key)) {
        server.version += 1;
        server.done.set(write.key, { call: write.call, body: write.body, version: write.base });
      }
      // Its answer is lost on the way: it did what was asked.
      if (plan === 'lost') return Promise.resolve({ kind: 'away', why: 'No answer.' });
      return Promise.resolve({ kind: 'taken', reply: { version: server.version }, version: server.version });
    },
    alone: async (scope, job) => {
      const before = locks.get(scope);
      const run = (async () => {
        await before;
        await job();
      })();
      locks.set(scope, run);
      await run;
    },
    tell: () => tell.forEach((l) => l()),
    key: () => `key-${(keys += 1)}`,
    now: () => clock,
    wait: (ms) => {
      clock += ms;
      return new Promise((done) => setTimeout(done, 1));
    },
    answered: (write, answer, waitedFor) => {
      answered.push({ kept: write, kind: answer.kind, waitedFor });
      return Promise.resolve();
    },
  });
  return { server, answered, store: openStore(name), tab: () => new Outbox(world()) };
};
const tick = (step: string): Draft => ({
  scope: 'b',
  call: 'tick',
  params: { id: 'b', step },
  body: { done: true },
  base: 7,
  words: `tick ${step}`,
  by: 'Odile',
});
const part = (section: 'held' | 'beside', value: unknown, base = 7) => ({
  scope: 'b',
  call: 'saveSection',
  section,
  params: { id: 'b' },
  body: { section, value },
  base,
  words: section,
  by: 'Odile',
});
const bodies = (server: ReturnType<typeof shop>['server']): unknown[] => [...server.done.values()].map((d) => d.body);

describe('what leaves next', () => {
  it('is the first of its scope; a part to decide about holds back the same part only', () => {
    const all = [
      kept({ seq: 1, scope: 'other' }),
      kept({ seq: 2, refused: { status: 409, problem: stale } }),
      kept({ seq: 3 }),
      kept({ seq: 4, section: 'beside' }),
    ];
    expect(nextToSend(all, 'b')?.seq).toBe(4);
    expect(nextToSend(all.slice(0, 3), 'b')).toBeNull();
    expect(nextToSend(all, 'other')?.seq).toBe(1);
  });
});

describe('what waits after an answer', () => {
  const answered = kept({ seq: 1, base: 7 });
  const waiting = [
    kept({ seq: 2 }),
    kept({ seq: 3, section: 'beside' }),
    kept({ seq: 4, call: 'chooseRecipe', section: undefined }),
  ];
  it('is laid over it when nobody else wrote in between', () => {
    expect(rebased(waiting, answered, 8).map((w) => [w.seq, w.base])).toEqual([
      [2, 8],
      [3, 8],
      [4, 8],
    ]);
  });
  it('only for the same part when somebody did: the server is to see what the others were made over', () => {
    expect(rebased(waiting, answered, 9).map((w) => [w.seq, w.base])).toEqual([[2, 9]]);
  });
  it('stays as it is once it may have reached the server, is refused, belongs elsewhere, or was made later', () => {
    const others = [
      kept({ seq: 5, tried: true }),
      kept({ seq: 6, refused: { status: 409, problem: stale } }),
      kept({ seq: 7, scope: 'c' }),
      kept({ seq: 8, base: 8 }),
    ];
    expect(rebased(others, answered, 8)).toEqual([]);
  });
});

describe('the outbox', () => {
  it('keeps a write before it is sent, and forgets it when it was answered', async () => {
    const { server, tab, store } = shop();
    server.plan = ['away', 'away'];
    const box = tab();
    expect(await box.add(tick('home'))).toEqual({ kind: 'kept' });
    expect((await store.all()).map((k) => k.words)).toEqual(['tick home']);
    expect(box.get().away).toBe('No answer.');
    await box.flush('b');
    expect(await store.all()).toEqual([]);
    expect(box.get()).toEqual({ kept: [], away: null });
    expect(server.done.size).toBe(1);
  });

  it('keeps writes as long as the page is open where the browser forbids more, and says so once', async () => {
    const forbidden = jest.spyOn(indexedDB, 'open').mockImplementation(() => {
      throw new Error('SecurityError');
    });
    const said = jest.fn();
    const store = openStore('forbidden', said);
    const one = await store.add(kept({ words: 'wall' }));
    await store.add(kept({ words: 'gap' }));
    expect((await store.all()).map((k) => k.words)).toEqual(['wall', 'gap']);
    expect(await store.change(one.seq, (k) => ({ ...k, tried: true }))).toMatchObject({ words: 'wall', tried: true });
    expect(await store.change(99, (k) => k)).toBeNull();
    await store.put({ ...one, base: 9 });
    expect((await store.all())[0]).toMatchObject({ base: 9 });
    await store.remove(one.seq);
    expect((await store.all()).map((k) => k.words)).toEqual(['gap']);
    expect(said).toHaveBeenCalledTimes(1);
    forbidden.mockRestore();
  });

  it('sends in order, each once, though answers are lost on the way', async () => {
    const { server, tab } = shop();
    server.plan = ['lost', 'away', 'lost', 'lost'];
    const box = tab();
    await Promise.all(['a', 'b', 'c'].map((step) => box.add(tick(step))));
    await box.flush('b');
    expect([...server.done.values()].map((d) => d.call)).toEqual(['tick', 'tick', 'tick']);
    const order = server.sent.map((k) => (k.params as { step: string }).step);
    expect(order).toEqual([...order].sort());
    // A write that may have arrived is sent again as it was: the same key, the same body.
    const of = (step: string) => server.sent.filter((k) => k.params['step'] === step);
    for (const step of ['a', 'b', 'c']) expect(new Set(of(step).map((k) => k.key)).size).toBe(1);
  });

  it('lets nobody wait for the next attempt once the server is known to be away', async () => {
    const { server, tab } = shop();
    server.plan = Array.from({ length: 9 }, () => 'away' as const);
    const box = tab();
    await box.add(tick('a'));
    const sent = server.sent.length;
    expect(await box.add(tick('b'))).toEqual({ kind: 'kept' });
    expect(server.sent.length).toBeLessThanOrEqual(sent + 1);
    await box.flush('b');
    expect(server.done.size).toBe(2);
  });

  it('goes on after a reload where it stood', async () => {
    const { server, tab, answered } = shop();
    server.plan = Array.from({ length: 3 }, () => 'away' as const);
    const before = tab();
    await before.add(tick('home'));
    const after = tab();
    await after.look();
    await after.flush('b');
    expect(server.done.size).toBe(1);
    // Nobody waits for it any more, so that its answer has to be told.
    expect(answered.some((a) => a.kind === 'taken')).toBe(true);
  });

  it('sends only the last value of a part, once typing rests', async () => {
    const { server, tab } = shop();
    const box = tab();
    for (const value of [1, 12, 123]) await box.revise(part('held', value));
    await box.flush('b');
    expect(bodies(server)).toEqual([{ section: 'held', value: 123 }]);
  });

  it('does not change a value that may have reached the server: another goes behind it', async () => {
    const { server, tab } = shop();
    server.plan = ['lost'];
    const box = tab();
    await box.revise(part('held', 1));
    const first = box.flush('b');
    await new Promise((done) => setTimeout(done, 5));
    await box.revise(part('held', 2));
    await first;
    await box.flush('b');
    expect(bodies(server)).toEqual([
      { section: 'held', value: 1 },
      { section: 'held', value: 2 },
    ]);
    // One’s own first change is no conflict for the second.
    expect([...server.done.values()].map((d) => d.version)).toEqual([7, 8]);
  });

  it('keeps what another changed meanwhile until somebody has chosen, and sends the rest', async () => {
    const { server, tab, store } = shop();
    server.plan = ['stale'];
    const box = tab();
    await box.revise(part('held', 'mine'));
    await box.revise(part('beside', 'also mine'));
    await box.flush('b');
    expect(bodies(server)).toEqual([{ section: 'beside', value: 'also mine' }]);
    const [waits] = await store.all();
    expect(contested(waits!)).toBe(true);
    // Typed on: still to be decided.
    await box.revise(part('held', 'mine, and more'));
    await box.flush('b');
    expect((await store.all()).map((k) => [k.body, contested(k)])).toEqual([
      [{ section: 'held', value: 'mine, and more' }, true],
    ]);
    await box.settle('b', 'held', 'mine', 11);
    expect([...server.done.values()].at(-1)).toEqual({
      call: 'saveSection',
      body: { section: 'held', value: 'mine, and more' },
      version: 11,
    });
    expect(await store.all()).toEqual([]);
  });

  it('lets mine go when theirs is taken', async () => {
    const { server, tab, store } = shop();
    server.plan = ['stale'];
    const box = tab();
    await box.revise(part('held', 'mine'));
    await box.flush('b');
    await box.settle('b', 'held', 'theirs', 9);
    expect([await store.all(), server.done.size]).toEqual([[], 0]);
  });

  it('mends what was refused for itself by another value, under another key', async () => {
    const { server, tab, store } = shop();
    server.plan = ['bad'];
    const box = tab();
    await box.revise(part('held', -1));
    await box.flush('b');
    expect((await store.all())[0]!.refused?.problem.message).toBe('Wall must be a number.');
    await box.revise(part('held', 3));
    await box.flush('b');
    expect(bodies(server)).toEqual([{ section: 'held', value: 3 }]);
    expect(server.sent[0]!.key).not.toBe(server.sent[1]!.key);
  });

  it('tells its maker what was refused, and forgets it', async () => {
    const { server, tab, store } = shop();
    server.plan = ['bad'];
    const outcome = await tab().add(tick('home'));
    expect(outcome).toMatchObject({ kind: 'refused', refusal: { status: 400 } });
    expect(await store.all()).toEqual([]);
  });

  it('is shared by the tabs of a browser: each write is done once, whichever sends it', async () => {
    const { server, tab, store } = shop();
    server.plan = ['away', 'lost'];
    const tabs = [tab(), tab(), tab()];
    await Promise.all(tabs.map((t, i) => t.add(tick(`step ${i}`))));
    await Promise.all(tabs.map((t) => t.look()));
    await Promise.all(tabs.map((t) => t.flush('b')));
    expect(server.done.size).toBe(3);
    expect(await store.all()).toEqual([]);
  });
});
