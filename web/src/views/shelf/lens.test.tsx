import { screen, waitFor } from '@testing-library/react';
import { api, machineProfile, type BodyOf, type MachineDocument } from '@bistre/contract';
import { freshMachine, spotOf } from '@bistre/core';
import { queryClient } from '../../data/queries';
import { showApp } from '../../testing/app';
import { idOf } from '../../testing/batch';
import { enter, press } from '../../testing/pick';

const machine = (part: object = {}): MachineDocument => ({ id: idOf('m'), name: 'Bench A', version: 1, profile: machineProfile.parse({ ...freshMachine, ...part }), changes: [] }); // prettier-ignore
const show = (m: MachineDocument) =>
  showApp(`/shelf/machines/${m.id}`, { lists: { machines: [m] }, answer: ({ method, path }) => (path.startsWith('/api/runs/') ? [] : method === 'PUT' ? m : undefined) }); // prettier-ignore

beforeEach(() => queryClient.clear());

describe('the lens of a machine', () => {
  it('that nobody said is asked for; its spot follows from what is typed, and is saved', async () => {
    const m = machine();
    const page = await show(m);
    expect(await screen.findByText(/recipes of other lenses cannot be brought to its spot/)).toBeTruthy();
    await press('say its lens and beam');
    await enter(screen.getByLabelText('Focal length of the lens'), '63.5');
    await enter(screen.getByLabelText('Beam at the lens'), '6');
    await enter(screen.getByLabelText('Beam quality, M²'), '1');
    // 4 · 10.6 µm · 63.5 / (π · 6), as any laser text has it.
    await waitFor(() => expect(screen.getByText(/Its spot is 0\.143 mm wide/)).toBeTruthy());
    await press('Save');
    await waitFor(() => expect(page.writes).toHaveLength(1));
    const { profile } = page.writes[0]!.body as BodyOf<typeof api.saveMachine>;
    expect(spotOf(profile.optics!)).toBeCloseTo(0.1428, 4);
  });

  it('is forgotten on purpose', async () => {
    await show(machine({ optics: { wavelength: 1.064, focal: 160, beam: 7, quality: 1.4 } }));
    expect((await screen.findByText(/Its spot is/)).textContent).toMatch(/off its focus it has twice the area/);
    const [forget] = screen.getAllByRole('button', { name: 'forget it' });
    expect(forget).toBeTruthy();
    await press(/^forget it$/, { findByRole: () => Promise.resolve(forget!) } as never);
    expect(await screen.findByText(/recipes of other lenses/)).toBeTruthy();
  });
});
