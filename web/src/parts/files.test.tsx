import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { toast } from 'sonner';
import { outbox } from '../data/outbox';
import { FileLinks, GatesOf } from './FileLinks';

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

describe('a file that the gate holds back', () => {
  const magnet = {
    code: 'collision',
    message: 'magnet stands in the head’s path: it would be hit.',
    field: 'hold',
    waits: false,
  };
  const blank = {
    code: 'roster',
    message: 'Piece 5 would be blank: name is empty in the list.',
    field: 'run',
    waits: false,
  };
  const show = (gates: object) =>
    render(
      <MemoryRouter>
        <GatesOf value={gates}>
          <FileLinks
            batchId={ID}
            files={[
              ['load.gcode', 'G-code'],
              ['load.svg', 'SVG'],
              ['walk.gcode', 'Walk'],
            ]}
            label="This load"
          />
        </GatesOf>
      </MemoryRouter>,
    );
  const open = (): string[] =>
    screen.getAllByRole<HTMLButtonElement>('button').filter((b) => !b.disabled).map((b) => b.textContent); // prettier-ignore

  it('is no button to press; every reason stands once, with the way to where it is mended', () => {
    show({ load: [magnet, blank], 'load.gcode': [magnet, blank], 'walk.gcode': [magnet] });
    expect(open()).toEqual([]);
    const list = screen.getByRole('list', { name: 'Held back' });
    expect([...list.children].map((li) => li.textContent)).toEqual([
      `Held back:${magnet.message} to Hold`,
      `Held back:${blank.message} to Run`,
    ]);
    expect(screen.getByRole('link', { name: 'to Hold' }).getAttribute('href')).toBe(`/batches/${ID}/hold`);
  });

  it('leaves its neighbours open; the rest of many reasons is counted', () => {
    const many = Array.from({ length: 9 }, (_, i) => ({ ...blank, message: `Piece ${i + 1} would be blank.` }));
    show({ load: many, 'load.gcode': many });
    expect(open()).toEqual(['Walk']);
    expect(screen.getByText('and 3 more reasons.')).toBeTruthy();
  });

  it('says what it waits for as something to do, after what is wrong', () => {
    const recipe = { code: 'no-recipe', message: 'Choose a recipe at the Burn station first.', field: 'burn', waits: true }; // prettier-ignore
    show({ 'load.gcode': [recipe] });
    expect(open()).toEqual(['SVG', 'Walk']);
    expect([...screen.getByRole('list', { name: 'First' }).children].map((li) => li.textContent)).toEqual([`First:${recipe.message} to Burn`]); // prettier-ignore
    cleanup();
    show({ 'load.gcode': [magnet, recipe], load: [magnet] });
    expect([...screen.getByRole('list', { name: 'Held back' }).children].map((li) => li.textContent!.split(':')[0])).toEqual(['Held back', 'First']); // prettier-ignore
  });

  it('says all that the server has against it, where it knows more', async () => {
    globalThis.fetch = (() => Promise.resolve({ ok: false, status: 422, json: () => Promise.resolve({ ...magnet, reasons: [magnet, blank] }) })) as unknown as typeof fetch; // prettier-ignore
    const said = jest.spyOn(toast, 'error').mockImplementation(() => '');
    show({});
    await userEvent.click(screen.getByText('Walk'));
    await waitFor(() => expect(said).toHaveBeenLastCalledWith(magnet.message, { duration: 10_000, description: blank.message })); // prettier-ignore
    said.mockClear();
  });
});

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

  it('that takes long says so and for how long, and is stopped without a word', async () => {
    let signal: AbortSignal | undefined;
    globalThis.fetch = ((_path: string, init: RequestInit) => {
      signal = init.signal!;
      return new Promise((_done, fail) => signal!.addEventListener('abort', () => fail(new Error('aborted'))));
    }) as unknown as typeof fetch;
    const loading = jest.spyOn(toast, 'loading').mockImplementation(() => '');
    const error = jest.spyOn(toast, 'error').mockImplementation(() => '');
    const gone = jest.spyOn(toast, 'dismiss').mockImplementation(() => '');
    error.mockClear();
    render(<FileLinks batchId={ID} files={[['proof-all.pdf', 'Proof']]} label="Papers" />);
    await userEvent.click(screen.getByText('Proof'));
    await waitFor(() => expect(loading).toHaveBeenCalled(), { timeout: 8_000 });
    const [words, { action }] = loading.mock.calls[0] as unknown as [string, { action: { label: string; onClick: () => void } }]; // prettier-ignore
    expect(words).toMatch(/^Writing proof-all\.pdf, \d+ s …$/);
    expect(action.label).toBe('Stop');
    action.onClick();
    await waitFor(() => expect(gone).toHaveBeenCalledWith('writing proof-all.pdf'));
    expect(signal!.aborted).toBe(true);
    expect(error).not.toHaveBeenCalled();
  }, 30_000);
});
