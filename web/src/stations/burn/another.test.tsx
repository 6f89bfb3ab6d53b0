import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { machineProfile } from '@bistre/contract';
import { freshMachine } from '@bistre/core';
import { AskHost } from '../../parts/ask';
import { DOCUMENTS, idOf } from '../../testing/batch';
import { pick, press } from '../../testing/pick';
import { showStation } from '../../testing/station';

const batch = DOCUMENTS.pockets;
const other = {
  id: idOf('other'),
  name: 'Bench B',
  version: 1,
  profile: machineProfile.parse(freshMachine),
  changes: [],
};
const show = (machines: readonly object[] = [{ ...other, id: batch.machine.id, name: 'Bench A' }, other]) =>
  showStation(batch, 'burn', { machines }, { beside: <AskHost /> });

describe('the rest of a batch on another machine', () => {
  it('names what is forgotten before it moves, and moves on a yes', async () => {
    const page = await show();
    await press('do the rest on another machine');
    await pick(/the rest on/, 'Bench B');
    const dialog = await screen.findByRole('alertdialog');
    expect(dialog.textContent).toContain(`Do the rest of ${batch.name} on Bench B?`);
    expect(dialog.textContent).toContain(`recipe ${batch.recipe!.name}`);
    await userEvent.click(screen.getByRole('button', { name: 'Move it to Bench B' }));
    expect(page.acts.map((a) => [a.path, (a.input as { body?: unknown }).body])).toEqual([['/api/batches/:id/machine', { machineId: other.id }]]); // prettier-ignore
  });

  it('is not offered where there is one machine', async () => {
    await show([{ ...other, id: batch.machine.id, name: 'Bench A' }]);
    expect(screen.queryByRole('button', { name: 'do the rest on another machine' })).toBeNull();
  });
});
