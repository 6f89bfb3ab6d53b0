import { QueryClientProvider } from '@tanstack/react-query';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { MemoryRouter, Outlet, Route, Routes } from 'react-router';
import {
  api,
  driveSpec,
  feederSpec,
  machineProfile,
  type BlankDocument,
  type DriveDocument,
  type FeederDocument,
  type MachineDocument,
  type RecipeDocument,
} from '@bistre/contract';
import { freshDrive, freshFeeder, freshMachine } from '@bistre/core';
import { queryClient } from '../../data/queries';
import { DOCUMENTS } from '../../testing/batch';
import { wrongOn } from '../../testing/looks';
import { BlankForm } from './BlankForm';
import { DriveForm } from './DriveForm';
import { FeederForm } from './FeederForm';
import { MachineForm } from './MachineForm';
import { RecipeForm } from './RecipeForm';

const ID = 'a0000000-0000-4000-8000-000000000001';
const machine = { id: ID, name: 'Bench A', version: 3, profile: machineProfile.parse(freshMachine) } as MachineDocument;
const recipe = { ...DOCUMENTS.pockets.recipe!, id: ID, machineId: ID, version: 4 } as RecipeDocument;
const drive = {
  id: ID,
  name: 'Rollers',
  version: 5,
  spec: driveSpec.parse({ ...freshDrive, risers: [] }),
  history: [],
} as unknown as DriveDocument;
const feeder = {
  id: ID,
  name: 'Pass-through',
  version: 6,
  spec: feederSpec.parse(freshFeeder),
  readings: [],
} as unknown as FeederDocument;
const blank = { ...DOCUMENTS.pockets.blank, id: ID, version: 2 } as BlankDocument;

interface Write {
  readonly method: string;
  readonly path: string;
  readonly body: Record<string, unknown>;
}
const show = (form: ReactNode, answer: { status?: number; body?: unknown } = {}): Write[] => {
  const writes: Write[] = [];
  globalThis.fetch = ((path: string, init: { method: string; body?: string }) => {
    if (init.method !== 'GET')
      writes.push({ method: init.method, path, body: JSON.parse(init.body!) as Record<string, unknown> });
    if (path === api.listMachines.path && init.method === 'GET')
      return Promise.resolve({ ok: true, status: 200, headers: new Headers(), json: () => Promise.resolve([machine]) });
    const { status = 200, body = init.method === 'GET' ? { change: null } : { id: ID } } = answer;
    return Promise.resolve({ ok: status < 400, status, headers: new Headers(), json: () => Promise.resolve(body) });
  }) as unknown as typeof fetch;
  queryClient.setQueryData(['machines'], [machine]);
  render(
    <QueryClientProvider client={queryClient}>
      <MemoryRouter>
        <Routes>
          <Route element={<Outlet context={{ find: () => undefined }} />}>
            <Route index element={form} />
            <Route path="*" element={<p>the Shelf again</p>} />
          </Route>
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return writes;
};
const fill = async (user: ReturnType<typeof userEvent.setup>, label: string, text: string): Promise<void> => {
  const input = screen.getByLabelText(label);
  await user.clear(input);
  await user.type(input, text);
};
const save = (user: ReturnType<typeof userEvent.setup>): Promise<void> =>
  user.click(screen.getByRole('button', { name: 'Save' }));

afterEach(() => queryClient.clear());

const leaves = (v: unknown, path = ''): [string, unknown][] =>
  typeof v === 'object' && v !== null ? Object.entries(v).flatMap(([k, x]) => leaves(x, `${path}.${k}`)) : [[path, v]];
/** Places at which two values differ. */
const changed = (a: unknown, b: unknown): string[] => {
  const before = new Map(leaves(a));
  return leaves(b)
    .filter(([path, v]) => before.get(path) !== v)
    .map(([path]) => path);
};

const KEPT: readonly (readonly [string, ReactNode, string, string, string, (body: never) => unknown, unknown, number])[] = [
  ['machines', <MachineForm key="m" machine={machine} />, 'Bed width', '31.5 in', '/api/machines/', (b: { profile: MachineDocument['profile'] }) => b.profile.bed.width, 800.1, 3],
  ['recipes', <RecipeForm key="r" recipe={recipe} />, 'Line interval (or 254 lpi)', '508 lpi', '/api/recipes/', (b: { spec: RecipeDocument['spec'] }) => b.spec.engrave.interval, 0.05, 4],
  ['drives', <DriveForm key="d" drive={drive} />, 'Roller diameter', '22.5', '/api/drives/', (b: { spec: { rollerDiameter: number } }) => b.spec.rollerDiameter, 22.5, 5],
  ['feeders', <FeederForm key="f" feeder={feeder} />, 'Bar 1, width', '25', '/api/feeders/', (b: { spec: FeederDocument['spec'] }) => b.spec.supports[0]!.width, 25, 6],
]; // prettier-ignore

describe.each(KEPT)('a form of %s', (_kind, form, label, typed, path, read, value, version) => {
  it('saves what was typed, in the unit that is stored, over the version it showed, and nothing else', async () => {
    const writes = show(form);
    expect(wrongOn(document.body)).toEqual([]);
    const user = userEvent.setup();
    await fill(user, label, typed);
    await save(user);
    await screen.findByText('the Shelf again');
    expect(writes).toHaveLength(1);
    const { method, path: sent, body } = writes[0]!;
    expect([method, sent, body['version']]).toEqual(['PUT', `${path}${ID}`, version]);
    expect(read(body as never)).toBeCloseTo(value as number, 9);
    const was = [machine, recipe, drive, feeder].find((d) => d.version === version)!;
    const { name, profile, spec } = was as unknown as Record<string, unknown>;
    const changes = changed(
      { name, profile, spec },
      { name: body['name'], profile: body['profile'], spec: body['spec'] },
    );
    expect(changes).toHaveLength(1);
  });

  it('does not save while a field is refused: the field is shown', async () => {
    const writes = show(form);
    const user = userEvent.setup();
    await fill(user, label, 'wide');
    await save(user);
    expect(await screen.findByText(/^Nothing was saved\./)).toBeTruthy();
    expect(document.activeElement).toBe(screen.getByLabelText(label));
    expect(writes).toEqual([]);
  });

  it('stays open with what was typed where the server refuses', async () => {
    show(form, { status: 409, body: { code: 'stale', message: 'Odile changed this at 09:12.' } });
    const user = userEvent.setup();
    await fill(user, label, typed);
    await save(user);
    expect(await screen.findByText('Odile changed this at 09:12.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>(label).value).toBe(typed);
  });
});

describe('a machine', () => {
  it('has its pointer offset dated anew only when it was typed anew', async () => {
    const measured = { x: 1, y: 2, height: 0, second: null, measuredAt: '2026-10-02T08:00:00.000Z' };
    const known = { ...machine, profile: { ...machine.profile, pointerOffset: measured } };
    const writes = show(<MachineForm machine={known} />);
    const user = userEvent.setup();
    await fill(user, 'Nozzle gap', '7');
    await save(user);
    await waitFor(() => expect(writes).toHaveLength(1));
    const offset = (w: Write) => (w.body['profile'] as MachineDocument['profile']).pointerOffset!;
    expect(offset(writes[0]!).measuredAt).toBe(measured.measuredAt);
    document.body.innerHTML = '';
    const again = show(<MachineForm machine={known} />);
    await fill(user, 'x', '1.2');
    await save(user);
    await waitFor(() => expect(again).toHaveLength(1));
    expect(offset(again[0]!).x).toBe(1.2);
    expect(Date.parse(offset(again[0]!).measuredAt)).toBeGreaterThan(Date.parse('2026-11-01'));
  });

  it('whose bed stays in has no way to the floor', async () => {
    const writes = show(<MachineForm machine={machine} />);
    const user = userEvent.setup();
    await user.clear(screen.getByLabelText('Nozzle to the floor, bed out'));
    expect(screen.getByText('Empty: the bed stays in.')).toBeTruthy();
    await save(user);
    await waitFor(() => expect(writes).toHaveLength(1));
    expect((writes[0]!.body['profile'] as MachineDocument['profile']).withoutBed).toBeNull();
  });
});

describe('a drive', () => {
  it('that becomes a chuck keeps what both have, and asks for its jaws', async () => {
    const writes = show(<DriveForm drive={drive} />);
    const user = userEvent.setup();
    await user.click(screen.getByRole('radio', { name: 'chuck' }));
    expect(screen.queryByLabelText('Roller diameter')).toBeNull();
    await fill(user, 'Largest the jaws take', '85');
    await save(user);
    await waitFor(() => expect(writes).toHaveLength(1));
    const spec = writes[0]!.body['spec'] as Record<string, unknown>;
    expect(spec).toMatchObject({
      kind: 'chuck',
      jaws: 85,
      height: freshDrive.height,
      stepsPerTurn: freshDrive.stepsPerTurn,
    });
    expect(spec).not.toHaveProperty('rollerDiameter');
  });
});

describe('a blank', () => {
  it('begins as a tag, and is saved as it was drawn', async () => {
    const writes = show(<BlankForm blank={null} onClose={() => undefined} />);
    const user = userEvent.setup();
    await user.type(screen.getByLabelText('Name'), 'Bow tag');
    await user.clear(screen.getAllByLabelText('Length')[0]!);
    await user.type(screen.getAllByLabelText('Length')[0]!, '72');
    await user.click(screen.getByText('add a hole'));
    await save(user);
    await waitFor(() => expect(writes).toHaveLength(1));
    expect([writes[0]!.method, writes[0]!.path]).toEqual(['POST', api.createBlank.path]);
    expect(writes[0]!.body).toMatchObject({
      name: 'Bow tag',
      spec: { shape: { kind: 'rectangle', length: 72, width: 25 }, holes: [{ x: 0, y: 0, diameter: 4 }] },
    });
  });

  it('that turns round gets zones that lie round it, and back again flat ones', async () => {
    const writes = show(<BlankForm blank={blank} onClose={() => undefined} />);
    const user = userEvent.setup();
    await user.click(screen.getByRole('radio', { name: 'round' }));
    expect(screen.getByLabelText('Diameter 2')).toBeTruthy();
    expect(screen.getByLabelText('Angle')).toBeTruthy();
    await user.click(screen.getByRole('radio', { name: 'disc' }));
    expect(screen.queryByLabelText('Angle')).toBeNull();
    await save(user);
    await waitFor(() => expect(writes).toHaveLength(1));
    expect((writes[0]!.body['spec'] as BlankDocument['spec']).shape).toEqual({ kind: 'disc', diameter: 50 });
  });
});
