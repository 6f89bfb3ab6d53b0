import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { DEMO_CUSTOMER, type BatchRow } from '@bistre/contract';
import { queryClient } from '../../data/queries';
import { rowOf, showApp } from '../../testing/app';
import { DOCUMENTS, idOf } from '../../testing/batch';
import { inTimeOf } from './in-time';

const NOW = Date.parse('2026-11-20T08:00:00Z');
const row = (id: string, dueAt: string | null, hands: number, burning: number | null = 0): BatchRow => rowOf(DOCUMENTS.pockets, { id: idOf(id), dueAt, work: { hands, burning } }); // prettier-ignore

afterEach(() => {
  queryClient.clear();
  localStorage.clear();
  sessionStorage.clear();
});

describe('whether a batch will be in time', () => {
  const one = (dueAt: string | null, hands: number, burning: number | null = 0) => inTimeOf([row('a', dueAt, hands, burning)], NOW).get(idOf('a'))!; // prettier-ignore
  it('follows from the work that is left and the time until it is due', () => {
    expect(one('2026-11-20T20:00:00Z', 60, 120)).toMatchObject({ minutes: 180, state: 'in time', atLeast: false });
    // 8 of 12 hours: worked at without a pause it would do, a shop has pauses.
    expect(one('2026-11-20T20:00:00Z', 480)).toMatchObject({ state: 'close' });
    expect(one('2026-11-20T20:00:00Z', 730)).toMatchObject({ state: 'late' });
    expect(one('2026-11-19T20:00:00Z', 1)).toMatchObject({ state: 'late' });
    expect(one(null, 9_000)).toMatchObject({ state: 'no time set' });
    expect(one('2026-11-20T20:00:00Z', 60, null)).toMatchObject({ minutes: 60, atLeast: true });
  });

  it('and from what is due before it on the same machine: a machine does one after the other', () => {
    const times = inTimeOf([row('late', '2026-11-20T20:00:00Z', 400), row('first', '2026-11-20T19:00:00Z', 400), row('none', null, 5)], NOW); // prettier-ignore
    expect([...times.values()].map((t) => t.at)).toEqual([400, 800, 805].map((m) => NOW + m * 60_000));
    expect(times.get(idOf('late'))!.state).toBe('late');
  });
});

describe('the Board', () => {
  const demo = (way: string): BatchRow => rowOf(DOCUMENTS.pockets, { id: idOf(way), name: `Demo ${way}`, way, customer: DEMO_CUSTOMER }); // prettier-ignore
  const lists = { batches: ['pockets', 'drive', 'sheet'].map(demo) };

  it('draws each batch’s piece, and says how much work is left and whether it is in time', async () => {
    const late = rowOf(DOCUMENTS.pockets, { dueAt: new Date(Date.now() + 60_000).toISOString(), work: { hands: 30, burning: 600 } }); // prettier-ignore
    await showApp('/', { lists: { batches: [late] } });
    expect(await screen.findByText('will be late')).toBeTruthy();
    expect(screen.getByText(/11 h of work/)).toBeTruthy();
    expect(screen.getByRole('img', { name: `${late.blankName}, 60 × 25 mm` }).querySelector('path')!.getAttribute('d')).toBe(late.picture.outline); // prettier-ignore
  });

  it('offers three walks on a first visit to the demo shop, which open the bench with the stand-ins on', async () => {
    const page = await showApp('/', { lists });
    await userEvent.setup().click(await screen.findByRole('button', { name: /^A flask/ }));
    await waitFor(() => expect(page.at()).toBe(`/batches/${idOf('drive')}/bench`));
    expect(sessionStorage.getItem('bistre.sim')).toBe('yes');
  });

  it('and never again once they were declined, nor where the shop is not the demo’s', async () => {
    const first = await showApp('/', { lists });
    await userEvent.setup().click(await screen.findByRole('button', { name: 'No, thank you' }));
    expect(screen.queryByRole('region', { name: 'First walks' })).toBeNull();
    first.unmount();
    const again = await showApp('/', { lists });
    await screen.findByText('Demo drive');
    expect(screen.queryByRole('region', { name: 'First walks' })).toBeNull();
    again.unmount();
    localStorage.clear();
    queryClient.clear();
    await showApp('/', { lists: { batches: lists.batches.map((r) => ({ ...r, customer: 'Own' })) } });
    await screen.findByText('Demo drive');
    expect(screen.queryByRole('region', { name: 'First walks' })).toBeNull();
  });
});
