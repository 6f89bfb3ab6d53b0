import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { toast } from 'sonner';
import { outbox } from '../data/outbox';
import { FileLinks } from './FileLinks';

const ID = 'c0000000-0000-4000-8000-000000000001';
const write = {
  scope: ID,
  call: 'saveSection',
  section: 'beside',
  params: { id: ID },
  body: { section: 'beside', value: {} },
  base: 1,
  words: 'what stands beside it',
  by: 'Odile',
} as const;

describe('a file of a batch', () => {
  it('is not made without what is shown and not stored, and is once it is', async () => {
    const asked: string[] = [];
    let away = true;
    globalThis.fetch = ((path: string) => {
      asked.push(path);
      if (away) return Promise.reject(new TypeError('refused'));
      const body = /files/.test(path) ? { code: 'no-board', message: 'There is no board yet.' } : { version: 2 };
      const ok = !/files/.test(path);
      const status = ok ? 200 : 422;
      return Promise.resolve({ ok, status, headers: new Headers(), json: () => Promise.resolve(body) });
    }) as unknown as typeof fetch;
    const said = jest.spyOn(toast, 'error').mockImplementation(() => '');
    render(<FileLinks batchId={ID} files={[['board.svg', 'SVG']]} label="Board" />);
    await outbox.revise(write);
    const user = userEvent.setup();
    await user.click(screen.getByText('SVG'));
    await waitFor(() => expect(said).toHaveBeenCalledTimes(1), { timeout: 6_000 });
    expect(said.mock.calls[0]![0]).toBe('Not saved yet: what stands beside it. The file would be made without it.');
    expect(asked.filter((path) => /files/.test(path))).toEqual([]);

    away = false;
    await user.click(screen.getByText('SVG'));
    // Now it is asked for; what the server says against it is said.
    await waitFor(() => expect(said).toHaveBeenLastCalledWith('There is no board yet.', { duration: 10_000 }), {
      timeout: 12_000,
    });
    expect(outbox.get().kept).toEqual([]);
    expect(asked.at(-1)).toBe(`/api/batches/${ID}/files/board.svg`);
  }, 30_000);
});
