import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, render, type RenderResult } from '@testing-library/react';
import { Suspense, useState, type ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import type { BatchDocument, SectionName, Setup } from '@bistre/contract';
import type { BatchHandle } from '../data/use-batch';

export interface Written {
  readonly updates: { readonly section: SectionName; readonly value: Setup[SectionName] }[];
  readonly acts: { readonly method: string; readonly path: string; readonly input: unknown }[];
}

/** What a page asked to be done: the call's path within its batch, and what went with it. */
export const calls = (page: Pick<Written, 'acts'>) =>
  page.acts.map(({ path, input }) => [path.replace('/api/batches/:id/', ''), input] as const);

/**
 * A page in a browser without a server: what it would write is kept, and shown as if it were saved.
 *
 * @param known lists that the server would answer, by name
 * @param asks whether its questions reach a server; without, they wait
 */
export const showPage = async (
  start: BatchDocument,
  page: (handle: BatchHandle) => ReactNode,
  known: Readonly<Record<string, unknown>> = {},
  asks = false,
): Promise<RenderResult & Written & { readonly batch: () => BatchDocument }> => {
  const written: Written = { updates: [], acts: [] };
  let now = start;
  const Page = () => {
    const [batch, setBatch] = useState(start);
    now = batch;
    const handle: BatchHandle = {
      batch,
      save: { kind: 'saved', at: '08:00' },
      update: (section, value) => {
        written.updates.push({ section, value });
        setBatch((old) => ({ ...old, setup: { ...old.setup, [section]: value } }));
      },
      act: (endpoint, input = {}) => {
        written.acts.push({ method: endpoint.method, path: endpoint.path, input });
        return Promise.resolve(true);
      },
      undo: () => undefined,
      settle: () => undefined,
    };
    return <>{page(handle)}</>;
  };
  const client = new QueryClient({ defaultOptions: { queries: { retry: false, enabled: asks } } });
  for (const [name, list] of Object.entries(known)) client.setQueryData([name], list);
  let result: RenderResult | undefined;
  await act(async () => {
    result = render(
      <QueryClientProvider client={client}>
        <MemoryRouter>
          <Suspense fallback="…">
            <Page />
          </Suspense>
        </MemoryRouter>
      </QueryClientProvider>,
    );
    await Promise.resolve();
  });
  return { ...result!, ...written, batch: () => now };
};
