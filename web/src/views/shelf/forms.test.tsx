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
import { newId } from '../../data/api';
import { outbox } from '../../data/outbox';
import { queryClient, useMachines } from '../../data/queries';
import { DOCUMENTS, idOf } from '../../testing/batch';
import { wrongOn } from '../../testing/looks';
import { pretend, type Plan, type Sent } from '../../testing/server';
import { enter, pick } from '../../testing/pick';
import { BlankForm } from './BlankForm';
import { DriveForm } from './DriveForm';
import { FeederForm } from './FeederForm';
import { MachineForm } from './MachineForm';
import { RecipeForm } from './RecipeForm';

const [ID, RECIPE, DRIVE, FEEDER, BLANK] = ['m', 'r', 'd', 'f', 'b'].map(idOf) as [
  string,
  string,
  string,
  string,
  string,
];
const machine = {
  id: ID,
  name: 'Bench A',
  version: 3,
  profile: machineProfile.parse(freshMachine),
  changes: [],
} as MachineDocument;
const recipe = { ...DOCUMENTS.pockets.recipe!, id: RECIPE, machineId: ID, version: 4 } as RecipeDocument;
const drive = {
  id: DRIVE,
  name: 'Rollers',
  version: 5,
  spec: driveSpec.parse({ ...freshDrive, risers: [] }),
  history: [],
} as unknown as DriveDocument;
const feeder = {
  id: FEEDER,
  name: 'Pass-through',
  version: 6,
  spec: feederSpec.parse(freshFeeder),
  readings: [],
} as unknown as FeederDocument;
const blank = { ...DOCUMENTS.pockets.blank, id: BLANK, version: 2 } as BlankDocument;
const THINGS = { machines: machine, recipes: recipe, drives: drive, feeders: feeder, blanks: blank };

/** The Shelf with a form open; what was written, and what the server does with the next writes. */
const show = (form: ReactNode, ...more: (Plan | MachineDocument)[]): Sent[] => {
  const machines = [machine, ...more.filter((m) => typeof m === 'object' && 'profile' in m)];
  const plan = more.filter((m) => typeof m === 'string' || 'status' in m);
  const later = plan.flatMap((p) => (typeof p === 'object' && p.now ? [p.now as MachineDocument] : []));
  const server = pretend(({ method, path, body }) => {
    if (path === api.listMachines.path && method === 'GET')
      return server.writes.length > 0 ? machines.map((m) => later.find((l) => l.id === m.id) ?? m) : machines;
    if (path === api.listRecipes.path && method === 'GET') return [recipe];
    if (method === 'GET') return { change: null };
    if (method === 'POST') return { id: ID };
    const kind = path.split('/')[2] as keyof typeof THINGS;
    return { ...THINGS[kind], ...body, id: path.split('/')[3], version: Number(body['version']) + 1 };
  });
  server.plan.push(...plan);
  queryClient.setQueryData(['machines'], machines);
  queryClient.setQueryData(['recipes'], [recipe]);
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
  return server.writes;
};
/** A machine's form with what the Shelf has of it now. */
const FromShelf = ({ id }: { id: string }) => <MachineForm machine={useMachines().data!.find((m) => m.id === id)!} />;
const fill = async (user: ReturnType<typeof userEvent.setup>, label: string, text: string): Promise<void> => {
  const input = screen.getByLabelText(label);
  await user.clear(input);
  await user.type(input, text);
};
const save = (user: ReturnType<typeof userEvent.setup>): Promise<void> =>
  user.click(screen.getByRole('button', { name: 'Save' }));

afterEach(async () => {
  for (const kept of outbox.get().kept) await outbox.letGo(kept);
  queryClient.clear();
});

const STALE = { status: 409, code: 'stale', message: 'Odile changed this at 09:12.' };

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

describe.each(KEPT)('a form of %s', (kind, form, label, typed, path, read, value, version) => {
  it('saves what was typed, in the unit that is stored, over the version it showed, and nothing else', async () => {
    const writes = show(form);
    expect(wrongOn(document.body)).toEqual([]);
    const user = userEvent.setup();
    await fill(user, label, typed);
    await save(user);
    await screen.findByText('the Shelf again');
    expect(writes).toHaveLength(1);
    const { method, path: sent, body } = writes[0]!;
    const was = THINGS[kind as keyof typeof THINGS];
    expect([method, sent, body['version']]).toEqual(['PUT', `${path}${was.id}`, version]);
    expect(read(body as never)).toBeCloseTo(value as number, 9);
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

  it('is kept while the server is away, and is on its way when it is back', async () => {
    const writes = show(form, 'away');
    const user = userEvent.setup();
    await fill(user, label, typed);
    await save(user);
    await screen.findByText('the Shelf again');
    expect(outbox.get().kept.map((k) => [k.scope, k.refused])).toEqual([
      [THINGS[kind as keyof typeof THINGS].id, null],
    ]);
    await waitFor(() => expect(outbox.get().kept).toEqual([]), { timeout: 4000 });
    expect(new Set(writes.map((w) => w.key)).size).toBe(1);
  });

  it('stays open with what was typed where the server refuses', async () => {
    show(form, STALE);
    const user = userEvent.setup();
    await fill(user, label, typed);
    await save(user);
    expect(await screen.findByText('Odile changed this at 09:12.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>(label).value).toBe(typed);
  });
});

describe('what another saved meanwhile', () => {
  const user = userEvent.setup();
  /** A machine that was not saved here before. */
  const fresh = () => {
    const mine = { ...machine, id: newId() };
    const theirs = { ...mine, version: 9, profile: { ...machine.profile, nozzleGap: 8 } };
    return { mine, stale: { ...STALE, now: theirs } };
  };

  it('is shown beside what was typed; saving again means mine, over theirs', async () => {
    const { mine, stale } = fresh();
    const writes = show(<FromShelf id={mine.id} />, mine, stale);
    await fill(user, 'Bed width', '800');
    await save(user);
    expect(await screen.findByText('stored now')).toBeTruthy();
    const rows = screen.getAllByRole('row').map((r) => r.textContent);
    expect(rows.slice(1)).toEqual([`Bed width${machine.profile.bed.width} mm800 mm`]);
    await save(user);
    await screen.findByText('the Shelf again');
    expect(writes.map((w) => w.body['version'])).toEqual([3, 9]);
    expect(writes[1]!.body['profile']).toMatchObject({ bed: { width: 800 }, nozzleGap: 8 });
  });

  it('can be taken instead', async () => {
    const { mine, stale } = fresh();
    const writes = show(<FromShelf id={mine.id} />, mine, stale);
    await fill(user, 'Bed width', '800');
    await save(user);
    await user.click(await screen.findByRole('button', { name: 'Take what is stored' }));
    expect(screen.getByLabelText<HTMLInputElement>('Nozzle gap').value).toBe('8');
    expect(screen.getByLabelText<HTMLInputElement>('Bed width').value).toBe(String(machine.profile.bed.width));
    expect(screen.queryByText('stored now')).toBeNull();
    expect(writes).toHaveLength(1);
  });

  it('is heard of later where the server was away: what was typed waits, to be put in the form or let go', async () => {
    const { mine, stale } = fresh();
    show(<FromShelf id={mine.id} />, mine, 'away', stale);
    await fill(user, 'Bed width', '800');
    await save(user);
    await screen.findByText('the Shelf again');
    await waitFor(() => expect(outbox.get().kept.map((k) => k.refused?.status)).toEqual([409]), { timeout: 4000 });
    document.body.innerHTML = '';
    const writes = show(<FromShelf id={mine.id} />, mine);
    expect(await screen.findByText(/What operator typed at \d\d:\d\d was not taken: Odile changed/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Put it in the form' }));
    expect(screen.getByLabelText<HTMLInputElement>('Bed width').value).toBe('800');
    await waitFor(() => expect(outbox.get().kept).toEqual([]));
    await save(user);
    await waitFor(() => expect(writes).toHaveLength(1));
    expect(writes[0]!.body).toMatchObject({ version: 3, profile: { bed: { width: 800 } } });
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
    const offset = (w: Sent) => (w.body['profile'] as MachineDocument['profile']).pointerOffset!;
    expect(offset(writes[0]!).measuredAt).toBe(measured.measuredAt);
    document.body.innerHTML = '';
    const again = show(<MachineForm machine={known} />);
    await fill(user, 'To the right', '1.2');
    await save(user);
    await waitFor(() => expect(again).toHaveLength(1));
    expect(offset(again[0]!).x).toBe(1.2);
    expect(Date.parse(offset(again[0]!).measuredAt)).toBeGreaterThan(Date.parse('2026-11-01'));
  });

  it.each([
    ['toward', 0.4, 'farther from'],
    ['away', -0.4, 'nearer to'],
  ] as const)('whose y runs %s keeps the offset that two places on its display come to', async (yRuns, y, words) => {
    const bare = { ...machine, profile: { ...machine.profile, yRuns, pointerOffset: null } };
    const writes = show(<MachineForm machine={bare} />);
    const user = userEvent.setup();
    // Burned at 354, 452; the dot lies on it with the head at 354.4, 452.4: it falls 0.4 to the left of the beam.
    await fill(user, 'Burned at x', '354');
    await fill(user, 'Burned at y', '452');
    await fill(user, 'Dot on it at x', '354.4');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Take the offset' }).disabled).toBe(true);
    await fill(user, 'Dot on it at y', '452.4');
    expect(screen.getByText(new RegExp(`^The dot falls 0\\.40 mm to the left of the beam and 0\\.40 mm ${words} you`))).toBeTruthy(); // prettier-ignore
    await user.click(screen.getByRole('button', { name: 'Take the offset' }));
    await save(user);
    await waitFor(() => expect(writes).toHaveLength(1));
    const { pointerOffset } = writes[0]!.body['profile'] as MachineDocument['profile'];
    expect(pointerOffset).toMatchObject({ x: expect.closeTo(-0.4, 9), y: expect.closeTo(y, 9), height: 0, second: null }); // prettier-ignore
  });

  it('takes what a rule says of a square that it burned, says where that cannot be one, and dates it', async () => {
    const writes = show(<MachineForm machine={machine} />);
    const user = userEvent.setup();
    await user.click(screen.getByRole('button', { name: 'type what a rule says of it' }));
    // A bed of 400 × 300: a square of 280, 396 from corner to corner.
    expect(screen.getByLabelText<HTMLInputElement>('Side, as the machine was told').value).toBe('280');
    expect(screen.getByLabelText<HTMLInputElement>('Front left to back right').value).toBe('396');
    await fill(user, 'Along x', '300');
    await user.tab();
    expect(await screen.findByText(/was not burned by this machine as it stands/)).toBeTruthy();
    await fill(user, 'Along x', '280.5');
    await user.tab();
    expect(await screen.findByText(/files and readings go by it/)).toBeTruthy();
    await save(user);
    await waitFor(() => expect(writes).toHaveLength(1));
    const { square } = writes[0]!.body['profile'] as MachineDocument['profile'];
    expect(square).toMatchObject({ side: 280, along: 280.5, across: 280, rising: 396, falling: 396, rule: 0.25 });
    expect(Date.now() - Date.parse(square!.measuredAt)).toBeLessThan(60_000);
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

  it('has other feet, other distances of its rollers, and play', async () => {
    const writes = show(<DriveForm drive={drive} />);
    const user = userEvent.setup();
    await user.click(screen.getByText('add another distance'));
    await fill(user, 'Or set apart by', '62.5');
    await user.click(screen.getByText('add blocks or other feet'));
    await fill(user, 'Blocks or feet', 'low feet');
    await fill(user, 'Stands higher by (−: lower)', '-12');
    await fill(user, 'Play where it turns back', '0.4');
    await save(user);
    await waitFor(() => expect(writes).toHaveLength(1));
    expect(writes[0]!.body['spec']).toMatchObject({
      spacings: [{ apart: 62.5 }],
      risers: [{ name: 'low feet', height: -12 }],
      backlash: 0.4,
    });
  });
});

describe('a blank', () => {
  it('is said to be made of what a recipe is for, or nothing is said', async () => {
    const writes = show(<BlankForm blank={blank} onClose={() => undefined} />);
    const user = userEvent.setup();
    await pick('Made of', recipe.spec.material);
    await save(user);
    await waitFor(() => expect(writes).toHaveLength(1));
    expect(writes[0]!.body['spec']).toMatchObject({ material: recipe.spec.material });
    await pick('Made of', 'not said');
    await save(user);
    await waitFor(() => expect(writes).toHaveLength(2));
    expect(writes[1]!.body['spec']).toMatchObject({ material: null });
  });
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

  it('has a zone that follows its size until it is fixed by hand, and none that is larger than it', async () => {
    const writes = show(<BlankForm blank={null} onClose={() => undefined} />);
    const user = userEvent.setup();
    await user.type(screen.getByLabelText('Name'), 'Berth tile');
    const zones = () => (writes.at(-1)!.body['spec'] as BlankDocument['spec']).zones.map((z) => [z.width, z.height, z.inset]); // prettier-ignore
    const size = (label: string, i: number): HTMLElement => screen.getAllByLabelText(label)[i]!;
    await enter(size('Length', 0), '100');
    await enter(size('Width', 0), '80');
    expect(size('Width', 1)).toHaveProperty('value', '94');
    await save(user);
    await waitFor(() => expect(writes).toHaveLength(1));
    expect(zones()).toEqual([[94, 76, { x: 6, y: 4 }]]);
    // Fixed by hand, it stays; and then the blank can be too small for it.
    await enter(size('Width', 1), '90');
    await enter(size('Length', 0), '110');
    await save(user);
    await waitFor(() => expect(writes).toHaveLength(2));
    expect(zones()).toEqual([[90, 76, null]]);
    await enter(size('Length', 0), '85');
    await save(user);
    // Beside its field, and beside the button.
    expect(await screen.findAllByText('face is 90 mm wide; the blank is 85 mm long. Make the zone smaller, or the blank as large as it is.')).toHaveLength(2); // prettier-ignore
    expect(writes).toHaveLength(2);
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

  it('that turns round lists all that is on it: what angles count from, and beside it others at theirs', async () => {
    const writes = show(<BlankForm blank={blank} onClose={() => undefined} />);
    const user = userEvent.setup();
    await user.click(screen.getByRole('radio', { name: 'round' }));
    await pick('Angles from', 'seam weld');
    expect(screen.queryByLabelText('Mass')).toBeNull();
    await user.click(screen.getByText('add what else is on it, beside the seam weld'));
    await enter(screen.getByLabelText('To the right'), '120');
    await enter(screen.getAllByLabelText('Width round')[1]!, '1 1/4"');
    // The other kind stays when what angles count from is another.
    await pick('Angles from', 'handle');
    await enter(screen.getAllByLabelText('From the rim')[0]!, '15');
    await save(user);
    await waitFor(() => expect(writes).toHaveLength(1));
    expect((writes[0]!.body['spec'] as BlankDocument['spec']).shape).toMatchObject({
      feature: {
        kind: 'handle',
        from: 15,
        reach: 35,
        others: [{ kind: 'existing logo', angle: expect.closeTo((2 * Math.PI) / 3, 9), width: 31.75, reach: 0 }],
      },
    });
  });
});
