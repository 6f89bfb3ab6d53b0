import { screen, within } from '@testing-library/react';
import type { BatchDocument } from '@bistre/contract';
import { loadedPieces, testBatch } from '../../../../core/src/test-batch';
import { documentOf } from '../../testing/batch';
import { enter, press, tick } from '../../testing/pick';
import { showStation } from '../../testing/station';

const GIVEN = { revision: 1, at: '2026-11-20T08:00:00.000Z', by: 'Imre', signedBy: 'the committee', note: 'Lane 4 in capitals' }; // prettier-ignore
const done = { pieces: [{ ...loadedPieces([1])[0]!, state: 'done' as const }] };
const show = (approval: Partial<BatchDocument['approval']>, change: Parameters<typeof testBatch>[0] = done) =>
  showStation(
    {
      ...documentOf(testBatch(change)),
      approval: { wanted: true, revision: 1, given: null, differs: [], differences: 0, ...approval },
    },
    'run',
  );
const sent = (page: Awaited<ReturnType<typeof show>>) => page.acts.map((a) => [a.path, (a.input as { body?: unknown }).body]); // prettier-ignore
const part = () => screen.getByRole('region', { name: 'The customer’s approval' });

describe('the customer’s approval, at Run', () => {
  it('is asked for by one tick, and asks nothing before', async () => {
    const page = await show({ wanted: false });
    expect(within(part()).queryByRole('button')).toBeNull();
    await tick(/The customer approves the proof/);
    expect(sent(page)).toEqual([['/api/batches/:id/approval', { wanted: true }]]);
  });

  it('is kept with the name of who gave it and their words', async () => {
    const page = await show({ revision: 2 });
    expect(part().textContent).toContain('Proof revision 2 waits for it');
    await press('Keep the approval of revision 2');
    // Nobody’s approval is none.
    expect(sent(page)).toEqual([]);
    await enter(screen.getByLabelText(/Approved by/), 'the regatta committee');
    await enter(screen.getByLabelText(/Their words/), 'as shown');
    await press('Keep the approval of revision 2');
    expect(sent(page)).toEqual([
      ['/api/batches/:id/approvals', { signedBy: 'the regatta committee', note: 'as shown' }],
    ]);
  });

  it('says who approved what and when; there is nothing to do then', async () => {
    await show({ given: GIVEN });
    expect(part().textContent).toContain(
      'Revision 1 was approved by the committee on 20 November 2026, kept by Imre: Lane 4 in capitals.',
    );
    expect(within(part()).queryByRole('button')).toBeNull();
  });

  it('says what is shown otherwise since, and asks again', async () => {
    const differs = ['Piece 3, boat: “PUFFIN” → “GREBE”.', 'Pieces: 3 → 4.'];
    await show({ revision: 2, given: GIVEN, differs, differences: 5 });
    const list = within(part()).getByRole('list', { name: 'Shown otherwise since' });
    expect([...list.children].map((li) => li.textContent)).toEqual([...differs, 'and 3 more.']);
    expect(part().textContent).toContain('5 things are shown otherwise');
    // Whoever approved it before is likely to again.
    expect(screen.getByLabelText<HTMLInputElement>(/Approved by/).value).toBe('the committee');
  });

  it('holds the next load at the desk, and lets the first piece be made', async () => {
    const first = await show({}, { pieces: [], firstApproved: false });
    expect(screen.getByRole('region', { name: 'Next at the desk' }).textContent).not.toContain('customer');
    expect(first.acts).toEqual([]);
  });

  it('says at the desk which revision it waits for', async () => {
    await show({ revision: 3 }, { ...done, firstApproved: true });
    const desk = screen.getByRole('region', { name: 'Next at the desk' });
    expect(desk.textContent).toContain('The rest waits for the customer’s approval of proof revision 3.');
    expect(within(desk).queryByRole('button')).toBeNull();
  });

  it('offers no second first piece while the customer waits', async () => {
    await show({}, { ...done, firstApproved: false });
    expect(screen.getByRole('button', { name: 'Approve the first piece' })).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Make another first piece' })).toBeNull();
  });
});
