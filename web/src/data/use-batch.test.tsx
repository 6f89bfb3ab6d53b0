import { QueryClientProvider } from '@tanstack/react-query';
import { act, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { api, type BatchDocument } from '@bistre/contract';
import { DOCUMENTS } from '../testing/batch';
import { outbox } from './outbox';
import { queryClient } from './queries';
import { useBatch } from './use-batch';

const notes = (text: string): BatchDocument['setup']['close'] => ({ notes: text, keep: '' });
let ids = 0;

/** A server with one batch: what it was asked, and what it does with the next writes. */
const server = () => {
  ids += 1;
  const id = `b0000000-0000-4000-8000-00000000010${ids}`;
  const state = {
    batch: { ...DOCUMENTS.pockets, id } as BatchDocument,
    writes: [] as { path: string; body: Record<string, unknown>; key: string }[],
    plan: [] as ('away' | 'stale' | 'closed')[],
  };
  const answer = (status: number, body: unknown) =>
    Promise.resolve({ ok: status < 400, status, headers: new Headers(), json: () => Promise.resolve(body) });
  globalThis.fetch = ((path: string, init: { method: string; body?: string; headers: Record<string, string> }) => {
    if (init.method === 'GET') return answer(200, state.batch);
    const body = JSON.parse(init.body ?? '{}') as Record<string, unknown>;
    state.writes.push({ path, body, key: init.headers['idempotency-key']! });
    const plan = state.plan.shift();
    if (plan === 'away') return Promise.reject(new TypeError('refused'));
    if (plan === 'stale')
      return answer(409, { code: 'stale', message: 'Odile changed this at 09:12.', now: state.batch });
    if (plan === 'closed') return answer(409, { code: 'closed', message: 'This batch was closed by Odile.' });
    const { batch } = state;
    const setup = path.endsWith('/setup') ? { ...batch.setup, [String(body['section'])]: body['value'] } : batch.setup;
    const ticks = /ticks/.test(path) ? [{ step: 'place.home', by: 'Odile', at: batch.updatedAt }] : batch.ticks;
    state.batch = { ...batch, setup, ticks, version: batch.version + 1 };
    return answer(200, state.batch);
  }) as unknown as typeof fetch;
  return { id, state };
};
const wrapper = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={queryClient}>{children}</QueryClientProvider>
);
const open = async (id: string) => {
  const { result } = renderHook(() => useBatch(id), { wrapper });
  await waitFor(() => expect(result.current.handle).not.toBeNull());
  return { handle: () => result.current.handle! };
};

afterEach(() => queryClient.clear());

describe('a batch as it is worked on', () => {
  it('shows what is typed at once, and sends its last value once typing rests', async () => {
    const { id, state } = server();
    const { handle } = await open(id);
    for (const text of ['w', 'wi', 'wipe']) act(() => handle().update('close', notes(text)));
    expect(handle().batch.setup.close.notes).toBe('wipe');
    expect(handle().save.kind).toBe('saving');
    await waitFor(() => expect(handle().save.kind).toBe('saved'), { timeout: 4000 });
    expect(state.writes.map((w) => w.body)).toEqual([{ section: 'close', value: notes('wipe'), version: 7 }]);
    expect(state.batch.setup.close.notes).toBe('wipe');
  });

  it('sends what was typed before anything that is done after it', async () => {
    const { id, state } = server();
    const { handle } = await open(id);
    let good: boolean | undefined;
    await act(async () => {
      handle().update('close', notes('first'));
      await new Promise((done) => setTimeout(done, 20));
      good = await handle().act(api.tick, { params: { step: 'place.home' }, body: { done: true } });
    });
    expect(good).toBe(true);
    expect(state.writes.map((w) => w.path.split('/').at(-1))).toEqual(['setup', 'place.home']);
  });

  it('goes on while the server is away: what was done shows, is kept, and is sent when it is back', async () => {
    const { id, state } = server();
    const { handle } = await open(id);
    state.plan = ['away', 'away'];
    let good: boolean | undefined;
    await act(async () => {
      good = await handle().act(api.tick, { params: { step: 'place.home' }, body: { done: true } });
    });
    expect(good).toBe(true);
    expect(handle().save.kind).toBe('waits');
    expect(handle().batch.ticks.map((t) => t.step)).toEqual(['place.home']);
    await waitFor(() => expect(handle().save.kind).toBe('saved'), { timeout: 6000 });
    expect(new Set(state.writes.map((w) => w.key)).size).toBe(1);
    expect(outbox.get().kept).toEqual([]);
  });

  it('shows mine and asks while another changed the same; theirs when that is chosen', async () => {
    const { id, state } = server();
    const { handle } = await open(id);
    state.batch = { ...state.batch, version: 8, setup: { ...state.batch.setup, close: notes('theirs') } };
    state.plan = ['stale'];
    act(() => handle().update('close', notes('mine')));
    await waitFor(() => expect(handle().save).toMatchObject({ kind: 'unsaved', contested: true, section: 'close' }), {
      timeout: 4000,
    });
    expect(handle().batch.setup.close.notes).toBe('mine');
    act(() => handle().settle('close', 'theirs'));
    await waitFor(() => expect(handle().batch.setup.close.notes).toBe('theirs'));
    expect(state.writes).toHaveLength(1);
  });

  it('lays mine over theirs when that is chosen', async () => {
    const { id, state } = server();
    const { handle } = await open(id);
    state.batch = { ...state.batch, version: 8 };
    state.plan = ['stale'];
    act(() => handle().update('close', notes('mine')));
    await waitFor(() => expect(handle().save.kind).toBe('unsaved'), { timeout: 4000 });
    act(() => handle().settle('close', 'mine'));
    await waitFor(() => expect(handle().save.kind).toBe('saved'), { timeout: 4000 });
    expect(state.writes.at(-1)!.body).toEqual({ section: 'close', value: notes('mine'), version: 8 });
  });

  it('says why a part is not taken, and lets it go', async () => {
    const { id, state } = server();
    const { handle } = await open(id);
    state.plan = ['closed'];
    act(() => handle().update('close', notes('too late')));
    await waitFor(
      () =>
        expect(handle().save).toMatchObject({
          kind: 'unsaved',
          contested: false,
          why: 'This batch was closed by Odile.',
        }),
      { timeout: 4000 },
    );
    act(() => handle().settle('close', 'theirs'));
    await waitFor(() => expect(handle().save.kind).toBe('saved'));
    expect(handle().batch.setup.close.notes).toBe('');
  });

  it('takes in what an earlier page kept in its own way', async () => {
    const { id, state } = server();
    localStorage.setItem(`bistre.unsaved.${id}`, JSON.stringify({ close: notes('from before') }));
    const { handle } = await open(id);
    await waitFor(() => expect(state.batch.setup.close.notes).toBe('from before'), { timeout: 4000 });
    expect(handle().batch.setup.close.notes).toBe('from before');
    expect(localStorage.getItem(`bistre.unsaved.${id}`)).toBeNull();
  });
});
