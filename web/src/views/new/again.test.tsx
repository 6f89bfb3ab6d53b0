import { fireEvent, screen, waitFor } from '@testing-library/react';
import { testBatch } from '../../../../core/src/test-batch';
import { documentOf } from '../../testing/batch';
import { showApp } from '../../testing/app';

const batch = { ...documentOf(testBatch()), closedAt: '2025-07-02T10:00:00.000Z' };

describe('the same again', () => {
  it('shows what comes along and asks how many, when and whose', async () => {
    await showApp(`/batches/${batch.id}/again`, { batch, lists: {} });
    expect(await screen.findByRole('heading', { name: 'The same again' })).toBeTruthy();
    expect(document.body.textContent).toContain(`as ${batch.name}, 24 pieces of 2 July 2025`);
    for (const words of [batch.blank.name, batch.machine.name, batch.recipe!.name]) expect(screen.getByText(words)).toBeTruthy(); // prettier-ignore
    expect(screen.getByText('Lettered are: name and seat.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('Quantity').value).toBe('24');
  });

  it('begins it with what was asked, and says what changed since before it goes on', async () => {
    const sent: unknown[] = [];
    await showApp(`/batches/${batch.id}/again`, {
      batch,
      lists: {},
      answer: ({ path, body }) => {
        if (!path.endsWith('/again')) return undefined;
        sent.push(body);
        return { id: (body as { id: string }).id, since: ['2 sizes of Boat tag were measured since.'] };
      },
    });
    fireEvent.change(await screen.findByLabelText('Quantity'), { target: { value: '36' } });
    fireEvent.click(screen.getByRole('button', { name: 'Begin' }));
    await waitFor(() => expect(screen.getByText('2 sizes of Boat tag were measured since.')).toBeTruthy());
    expect(sent[0]).toMatchObject({ name: batch.name, quantity: 36 });
    expect(screen.getByRole('button', { name: 'Go on with it' })).toBeTruthy();
  });
});
