import { QueryClientProvider } from '@tanstack/react-query';
import { act, render } from '@testing-library/react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { api, type BatchDocument, type BatchRow } from '@bistre/contract';
import { queryClient } from '../data/queries';
import { routes } from '../router';
import { worker } from './reckon';
import { pretend, type Sent } from './server';

/** What the shop has, as the server would list it. */
export interface Shop {
  readonly batch?: BatchDocument;
  readonly lists: Readonly<Partial<Record<string, readonly unknown[]>>>;
  /** Answers that are not lists; undefined leaves it to the lists. */
  readonly answer?: (sent: Sent) => unknown;
}

/** A row of the Board. */
export const rowOf = (batch: BatchDocument, more: Partial<BatchRow> = {}): BatchRow => ({
  id: batch.id,
  name: batch.name,
  customer: batch.customer,
  quantity: batch.quantity,
  spares: batch.spares,
  tolerance: batch.tolerance,
  dueAt: null,
  machineId: batch.machine.id,
  machineName: batch.machine.name,
  blankId: batch.blank.id,
  blankName: batch.blank.name,
  version: batch.version,
  closedAt: null,
  station: 'place',
  route: ['blank', 'hold', 'place', 'burn', 'run', 'close'],
  waits: 'read mark 1',
  done: 0,
  budget: null,
  yieldShare: null,
  openPutbacks: 0,
  outOfDate: [],
  way: batch.setup.held.way,
  picture: {
    box: { minX: 0, minY: 0, maxX: 60, maxY: 25 },
    outline: 'M0 0L60 0L60 25L0 25Z',
    fill: '',
    line: '',
    cut: '',
  },
  work: { hands: 30, burning: 60 },
  ...more,
});

/** All of Bistre's pages at an address, with a server that has this shop. */
export const showApp = async (path: string, { batch, lists, answer }: Shop) => {
  await worker();
  const alphabets = globalThis.fetch;
  const server = pretend((sent) => {
    const own = answer?.(sent);
    if (own !== undefined) return own;
    if (sent.path === '/api/batches' || sent.path.startsWith('/api/batches?'))
      return lists[sent.path.includes('closed=yes') ? 'closed' : 'batches'] ?? [];
    if (/^\/api\/shelf\/[^/]+\/undo$/.test(sent.path)) return { change: null };
    if (batch && sent.path.startsWith(`/api/batches/${batch.id}`)) return batch;
    const kind = /^\/api\/([a-z]+)(?:\?|$)/.exec(sent.path)?.[1];
    if (kind === 'log') return { rows: [], next: null };
    return sent.method === 'GET' ? (lists[kind ?? ''] ?? []) : { id: batch?.id };
  });
  const asked = globalThis.fetch;
  // Alphabets are asked for by the worker, which stands where the test is.
  globalThis.fetch = ((url: string, init?: RequestInit) =>
    url.startsWith('/api/alphabets/') ? alphabets(url) : asked(url, init)) as typeof fetch;
  const router = createMemoryRouter(routes, { initialEntries: [path] });
  const page = render(
    <QueryClientProvider client={queryClient}>
      <RouterProvider router={router} />
    </QueryClientProvider>,
  );
  await act(() => Promise.resolve());
  return { ...page, ...server, at: () => router.state.location.pathname + router.state.location.search, path: api };
};
