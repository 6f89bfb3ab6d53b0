import { userEvent } from '@testing-library/user-event';
import { screen, waitFor, within } from '@testing-library/react';
import {
  api,
  machineProfile,
  recipeSpec,
  type BodyOf,
  type MachineDocument,
  type RecipeDocument,
} from '@bistre/contract';
import { freshMachine } from '@bistre/core';
import { queryClient } from '../../data/queries';
import { showApp } from '../../testing/app';
import { idOf } from '../../testing/batch';
import { enter, press } from '../../testing/pick';
import { wrongOn } from '../../testing/looks';

const machine = (part: object = {}): MachineDocument => ({ id: idOf('m'), name: 'Bench A', version: 1, profile: machineProfile.parse({ ...freshMachine, power: 36, ...part }), changes: [] }); // prettier-ignore
const second = { source: 'fibre', power: 20, leastPower: 0, offset: { x: 42, y: -8 } } as const;
const burn = { power: 1, speed: 250, interval: 0.0847, passes: 1 };
const recipe = (part: object = {}): RecipeDocument => ({ id: idOf('r'), name: 'Oak, deep', version: 3, machineId: idOf('m'), spec: recipeSpec.parse({ material: 'oak', engrave: burn, cut: { ...burn, power: 0.7, speed: 9 }, note: '', ...part }), proof: null }); // prettier-ignore

const show = (r: RecipeDocument, m = machine()) =>
  showApp(`/shelf/recipes/${r.id}`, { lists: { machines: [m], recipes: [r] }, answer: ({ method }) => (method === 'PUT' ? r : undefined) }); // prettier-ignore
const saved = async (page: Awaited<ReturnType<typeof show>>) => {
  await press('Save');
  await waitFor(() => expect(page.writes).toHaveLength(1));
  return (page.writes[0]!.body as BodyOf<typeof api.saveRecipe>).spec;
};
const energy = () => screen.getByRole('region', { name: 'Energy on the surface' });

beforeEach(() => queryClient.clear());

describe('a recipe as a program', () => {
  it('is one burn whose energy follows from what is typed', async () => {
    const page = await show(recipe());
    // 36 W at 250 mm/s and 300 lines to the inch: 1.70 J/mm² [common practice].
    await waitFor(() => expect(energy().textContent).toMatch(/100 % at 250 mm\/s, 0\.0847 mm between lines: 1\.70 J\/mm²$/)); // prettier-ignore
    const [angle] = screen.getAllByLabelText('Lines run at');
    await enter(angle!, '45');
    await enter(screen.getAllByLabelText('Passes')[0]!, '2');
    await enter(screen.getAllByLabelText('Each pass turns by')[0]!, '90');
    await waitFor(() => expect(energy().textContent).toMatch(/2 passes, lines at 45°, each turned by 90°: 3\.40 J\/mm² \(1\.70 a pass\)/)); // prettier-ignore
    expect(wrongOn(page.container)).toEqual([]);
    const spec = await saved(page);
    expect(spec.engrave.angle).toBeCloseTo(Math.PI / 4, 9);
    expect(spec.engrave.turn).toBeCloseTo(Math.PI / 2, 9);
    expect(spec.after ?? []).toEqual([]);
  });

  it('takes burns that follow, each with its own energy, and all of them together', async () => {
    const page = await show(recipe());
    await press('add a burn that follows');
    const list = await screen.findByRole('region', { name: 'Burns that follow' });
    expect(within(list).getByText('Burn 2')).toBeTruthy();
    // Begins as the one before it.
    expect((within(list).getByLabelText('Speed') as HTMLInputElement).value).toBe('250');
    await enter(within(list).getByLabelText('Speed'), '500');
    await enter(within(list).getByLabelText('Lens above focus (−: below)'), '2.5');
    await waitFor(() => expect(energy().textContent).toContain('In all 2.55 J/mm²'));
    expect(energy().textContent).toMatch(
      /2\. 100 % at 500 mm\/s, 0\.0847 mm between lines, lens 2\.5 mm above focus: 0\.85/,
    );
    expect(within(list).queryByLabelText('Source')).toBeNull();
    const spec = await saved(page);
    expect(spec.after).toEqual([{ ...burn, speed: 500, focus: 2.5 }]);
  });

  it('goes by a second source where its machine carries one; two sources’ energies are not one', async () => {
    const page = await show(recipe({ after: [burn] }), machine({ second }));
    const list = await screen.findByRole('region', { name: 'Burns that follow' });
    await userEvent.click(within(list).getByRole('combobox', { name: 'Source' }));
    await userEvent.click(await screen.findByRole('option', { name: 'the second' }));
    // 20 W over 250 × 0.0847 mm² a second.
    await waitFor(() => expect(energy().textContent).toMatch(/2\. .* by the second source: 0\.94 J\/mm²/));
    expect(energy().textContent).toMatch(/of two sources: a material takes them up otherwise/);
    expect((await saved(page)).after![0]!.source).toBe('second');
  });

  it('says of a burn whose source is not there that it is not', async () => {
    await show(recipe({ after: [{ ...burn, source: 'second' }] }));
    await waitFor(() => expect(energy().textContent).toContain('Bench A has one source.'));
  });

  it('loses a burn that is taken out', async () => {
    const page = await show(recipe({ after: [burn, { ...burn, speed: 111 }] }));
    await press('Take out burn 1');
    expect((await saved(page)).after).toEqual([{ ...burn, speed: 111 }]);
  });
});

describe('a second source of a machine', () => {
  const open = (m: MachineDocument) => showApp(`/shelf/machines/${m.id}`, { lists: { machines: [m] }, answer: ({ method, path }) => (path.startsWith('/api/runs/') ? [] : method === 'PUT' ? m : undefined) }); // prettier-ignore
  it('is said with where its beam lies, and taken back', async () => {
    const page = await open(machine());
    await press('it carries a second one');
    await enter(screen.getByLabelText('Power of the second'), '20');
    await enter(screen.getByLabelText('Its beam beside the first, x'), '42');
    await press('Save');
    await waitFor(() => expect(page.writes).toHaveLength(1));
    expect((page.writes[0]!.body as BodyOf<typeof api.saveMachine>).profile.second).toEqual({ ...second, offset: { x: 42, y: 0 } }); // prettier-ignore
    page.unmount();
    queryClient.clear();
    await open(machine({ second }));
    await press('it has one alone');
    expect(await screen.findByText('One source.')).toBeTruthy();
  });
});
