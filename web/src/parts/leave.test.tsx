import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { machineProfile } from '@bistre/contract';
import { freshMachine } from '@bistre/core';
import { queryClient } from '../data/queries';
import { showApp } from '../testing/app';
import { DOCUMENTS } from '../testing/batch';

const machine = {
  id: DOCUMENTS.pockets.machine.id,
  name: 'Bench A',
  version: 3,
  profile: machineProfile.parse(freshMachine),
};
const lists = { machines: [machine], blanks: [DOCUMENTS.pockets.blank] };
afterEach(() => queryClient.clear());

describe.each([
  [`/shelf/machines/${machine.id}`, 'Bed width', '/shelf/machines'],
  ['/new', 'What is it called?', '/'],
])('Esc at %s', (path, label, after) => {
  it('leaves a form that nobody touched, at once', async () => {
    const page = await showApp(path, { lists });
    await screen.findByLabelText(label);
    await userEvent.setup().keyboard('{Escape}');
    await waitFor(() => expect(page.at()).toBe(after));
  });

  it('asks before what was typed is gone, and stays where that was not meant', async () => {
    const user = userEvent.setup();
    const page = await showApp(path, { lists });
    await user.type(await screen.findByLabelText(label), '3');
    await user.keyboard('{Escape}');
    const asked = await screen.findByRole('alertdialog');
    expect(asked.textContent).toContain('Leave what you typed?');
    await user.click(within(asked).getByRole('button', { name: 'Stay' }));
    await waitFor(() => expect(screen.queryByRole('alertdialog')).toBeNull());
    expect(page.at()).toBe(path);
    expect(screen.getByLabelText<HTMLInputElement>(label).value).toMatch(/3$/);
    await user.click(screen.getByRole('button', { name: 'Leave it' }));
    await user.click(within(await screen.findByRole('alertdialog')).getByRole('button', { name: 'Leave it' }));
    await waitFor(() => expect(page.at()).toBe(after));
    expect(page.writes).toEqual([]);
  });
});
