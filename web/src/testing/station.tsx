import type { ReactNode } from 'react';
import { act } from '@testing-library/react';
import type { BatchDocument } from '@bistre/contract';
import type { StationId } from '@bistre/core';
import type { Shown } from '../data/shown';
import { AtStation } from '../views/AtStation';
import { showPage, type Written } from './page';
import { reckonShown } from './reckon';

/** Waits until what is fetched when it is first shown is there. */
export const settled = async (page: Element): Promise<void> => {
  for (let i = 0; i < 100 && /^…|Opening …/.test(page.textContent ?? ''); i += 1)
    await act(() => new Promise((done) => setTimeout(done, 10)));
};

/**
 * A station of a batch as the workspace shows it: drawing and sheet. What is written is kept; what was reckoned
 * stays as it was for the batch at first.
 *
 * @param known lists that the server would answer, by name
 * @param options whether its questions reach a server; what else is on the page
 */
export const showStation = async (
  batch: BatchDocument,
  station: StationId,
  known: Readonly<Record<string, unknown>> = {},
  { asks = false, beside }: { readonly asks?: boolean; readonly beside?: ReactNode } = {},
): Promise<Awaited<ReturnType<typeof showPage>> & Written & { readonly shown: Shown }> => {
  const server = globalThis.fetch;
  const shown = await reckonShown(batch, 200);
  // The worker asked for its alphabets; from here on the page asks.
  if (asks) globalThis.fetch = server;
  const page = await showPage(
    batch,
    (handle) => (
      <>
        <AtStation handle={handle} shown={shown} current={station} picture={null} draw={() => undefined} />
        {beside}
      </>
    ),
    known,
    asks,
  );
  await settled(page.container);
  return { ...page, shown };
};

/** The Run station with what goes on the pieces in sight, which stands behind a link while a load is on. */
export const showContents = async (
  batch: BatchDocument,
  known: Readonly<Record<string, unknown>> = {},
): ReturnType<typeof showStation> => {
  const page = await showStation(batch, 'run', known);
  const link = [...page.container.querySelectorAll('button')].find((b) =>
    b.textContent?.startsWith('names, lettering'),
  );
  if (link) act(() => link.click());
  return page;
};
