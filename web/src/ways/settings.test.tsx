import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { heldSection } from '@bistre/contract';
import { WAY_IDS, type WayId } from '@bistre/core';
import { DOCUMENTS } from '../testing/batch';
import { showPage } from '../testing/page';
import { reckonShown } from '../testing/reckon';
import { useWayPages } from '.';
import { FeedFields } from './feed/FeedFields';
import type { BatchProps } from './pages';

const Settings = ({ handle, shown }: BatchProps) => {
  const { hold } = useWayPages(handle.batch);
  // A feeder has a station of its own in place of Hold.
  return hold ? <hold.Settings handle={handle} shown={shown} /> : <FeedFields handle={handle} more />;
};

const show = async (way: WayId) => {
  const shown = await reckonShown(DOCUMENTS[way]);
  const page = await showPage(DOCUMENTS[way], (handle) => <Settings handle={handle} shown={shown} />);
  await waitFor(() => expect(page.container.textContent).not.toBe('…'));
  for (const more of screen.queryAllByText(/^more/)) fireEvent.click(more);
  return page;
};
/** Fields that are typed into. */
const inputs = (page: HTMLElement): HTMLInputElement[] =>
  within(page)
    .queryAllByRole('textbox')
    .filter((e): e is HTMLInputElement => e instanceof HTMLInputElement && e.hasAttribute('aria-describedby'));
const labelOf = (input: HTMLInputElement): string => input.labels?.[0]?.textContent ?? '';
const noteOf = (input: HTMLInputElement): string =>
  document.getElementById(input.getAttribute('aria-describedby')!)?.textContent ?? '';
const isText = (input: HTMLInputElement): boolean => /name/i.test(labelOf(input));
const leaves = (value: unknown, path = ''): [string, unknown][] =>
  typeof value === 'object' && value !== null
    ? Object.entries(value).flatMap(([k, v]) => leaves(v, `${path}.${k}`))
    : [[path, value]];
const changed = (a: unknown, b: unknown): [string, unknown][] => {
  const before = new Map(leaves(a));
  return leaves(b).filter(([path, v]) => before.get(path) !== v);
};

const HELD = WAY_IDS.filter((way) => way !== 'drive' && way !== 'cradle');

describe.each(HELD)('the settings of %s', (way) => {
  it('each change one number of its choice or what stands beside it, to what was typed', async () => {
    const page = await show(way);
    const fields = inputs(page.container);
    expect(fields.length).toBeGreaterThan(1);
    for (const label of fields.map(labelOf)) {
      const input = inputs(page.container).find((i) => labelOf(i) === label)!;
      if (isText(input)) continue;
      const was = Number(input.value);
      // A little less or more is within the limits of nearly every field; the rest say that they are not.
      const typed = input.value.includes('.') || was === 0 ? Number((was + 0.5).toFixed(3)) : was + 1;
      const before = page.batch().setup;
      fireEvent.focus(input);
      fireEvent.change(input, { target: { value: String(typed) } });
      fireEvent.blur(input);
      await waitFor(() => expect(page.batch().setup).not.toBe(before));
      const [first, ...others] = changed(before, page.batch().setup);
      expect({ label, value: first?.[1] }).toEqual({ label, value: typed });
      expect({ label, others }).toEqual({ label, others: [] });
      expect(heldSection.safeParse(page.batch().setup.held).success).toBe(true);
    }
  });

  it('refuse what the contract refuses: the entry stays with the reason, the value as it was', async () => {
    const page = await show(way);
    for (const input of inputs(page.container)) {
      if (isText(input)) continue;
      const before = page.batch().setup;
      fireEvent.change(input, { target: { value: '900000' } });
      expect(`${labelOf(input)}: ${noteOf(input)}`).toMatch(/must be a (whole )?number between/);
      expect([input.value, input.getAttribute('aria-invalid')]).toEqual(['900000', 'true']);
      expect(page.batch().setup).toBe(before);
    }
  });

  it('keep the last name while its field is empty', async () => {
    const page = await show(way);
    const input = inputs(page.container).find(isText);
    if (!input) return;
    fireEvent.change(input, { target: { value: '' } });
    expect(noteOf(input)).toBe('Empty: the last value is kept.');
    fireEvent.change(input, { target: { value: 'REGATTA' } });
    await waitFor(() => expect((page.batch().setup.held.choice as { name: string }).name).toBe('REGATTA'));
  });
});

describe('a board', () => {
  it('is asked for by its rows and columns, and says how many it holds the other way', async () => {
    const page = await show('pockets');
    fireEvent.click(screen.getByText('rows × columns'));
    await waitFor(() => expect(page.batch().setup.held.choice).toMatchObject({ extent: { kind: 'grid', columns: 4, rows: 6 } })); // prettier-ignore
    const columns = screen.getByLabelText('Columns');
    fireEvent.focus(columns);
    fireEvent.change(columns, { target: { value: '0' } });
    fireEvent.blur(columns);
    expect(await screen.findByText(/Columns must be a whole number between 1 and 500/)).toBeTruthy();
    fireEvent.focus(columns);
    fireEvent.change(columns, { target: { value: '7' } });
    fireEvent.blur(columns);
    await waitFor(() => expect(page.batch().setup.held.choice).toMatchObject({ extent: { columns: 7, rows: 6 } }));
    const { BoardReckon } = await import('./flat/BoardReckon');
    const shown = await reckonShown(page.batch());
    await showPage(page.batch(), (handle) => <BoardReckon handle={handle} shown={shown} />);
    expect(screen.getByText('in 7 × 6')).toBeTruthy();
    expect(screen.getByText(/^\d+ loads?: .*; the other way \d+$/)).toBeTruthy();
  });
});
