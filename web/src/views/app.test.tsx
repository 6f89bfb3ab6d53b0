import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { z } from 'zod';
import {
  driveSpec,
  feederSpec,
  machineProfile,
  type BatchRow,
  type logRow,
  type MachineDocument,
} from '@bistre/contract';
import { freshDrive, freshFeeder, freshMachine, STATION_NAMES, STATIONS } from '@bistre/core';
import { outbox } from '../data/outbox';
import { queryClient } from '../data/queries';
import { rowOf, showApp, type Shop } from '../testing/app';
import { DOCUMENTS, idOf } from '../testing/batch';
import { wrongOn } from '../testing/looks';

const batch = DOCUMENTS.pockets;
const machine: MachineDocument = {
  id: batch.machine.id,
  name: 'Bench A',
  version: 3,
  profile: machineProfile.parse({ ...freshMachine, kerfMeasuredAt: '2026-11-01T08:00:00.000Z' }),
  changes: [],
};
type LogRow = z.infer<typeof logRow>;
const AT = '2026-11-20T08:00:00.000Z';
const shop = (rows: readonly Partial<BatchRow>[] = [{}], more: Partial<Shop> = {}): Shop => ({
  batch,
  ...more,
  lists: {
    batches: rows.map((r) => rowOf(batch, r)),
    machines: [machine],
    blanks: [batch.blank],
    ...more.lists,
  },
});
const text = (): string => document.body.textContent ?? '';

afterEach(async () => {
  for (const kept of outbox.get().kept) await outbox.letGo(kept);
  queryClient.clear();
  localStorage.clear();
});

describe('the Board', () => {
  it('says of each batch where it stands, how far it is, and whether it keeps its tolerance', async () => {
    await showApp('/', shop([{ done: 7, quantity: 24, budget: 0.41, tolerance: 0.5, dueAt: '2026-11-27T15:00:00.000Z' }])); // prettier-ignore
    const row = (await screen.findByText('read mark 1')).closest('a')!;
    expect(row.getAttribute('href')).toBe(`/batches/${batch.id}/place`);
    for (const words of ['Place, waits to', '7 of 24', '0.41 of 0.50 mm']) expect(row.textContent).toContain(words);
    expect(within(row).getByRole('img', { name: '7 of 24 done' }).querySelectorAll('rect')[1]!.getAttribute('width')).toBe(String((100 * 7) / 24)); // prettier-ignore
    expect(wrongOn(document.body)).toEqual([]);
  });

  it('warns before anything is burned, each with the way to mend it', async () => {
    const old = { ...machine.profile.pointerOffset, x: 1, y: 1, height: 0, second: null, measuredAt: '2026-05-01T08:00:00.000Z' }; // prettier-ignore
    const aged = { ...machine, profile: { ...machine.profile, pointerOffset: old, kerfMeasuredAt: null } };
    const rows = [{ openPutbacks: 2, budget: 0.9, tolerance: 0.5, outOfDate: ['The pockets are for another size.'] }];
    await showApp('/', shop(rows, { lists: { machines: [aged] } }));
    const of = async (name: string) => within(await screen.findByRole('list', { name: `Alarms of ${name}` })).getAllByRole('link').map((a) => [a.textContent, a.getAttribute('href')]); // prettier-ignore
    expect(await of(batch.name)).toEqual([
      [`2 settings of ${batch.machine.name} not put back`, `/batches/${batch.id}/close`],
      ['Board out of date. The pockets are for another size.', `/batches/${batch.id}/hold`],
    ]);
    expect(await of(machine.name)).toEqual([
      ['pointer offset is older than 90 days', `/shelf/machines/${machine.id}`],
      ['kerf is assumed, cut a gauge strip', `/shelf/machines/${machine.id}`],
    ]);
    // That its budget is over stands in its row, once.
    expect((await screen.findByText('0.90 of 0.50 mm')).parentElement!.textContent).toContain('over');
  });

  it('offers the first batch where there is none, and what was put away and closed where there is', async () => {
    const away = [{ kind: 'batches', id: idOf('old'), name: 'Buoy tags', at: AT, by: 'Odile' }];
    const closed = [rowOf(batch, { name: 'Oar bands', done: 48, quantity: 48, yieldShare: 0.9796 })];
    const user = userEvent.setup();
    const page = await showApp('/', shop([], { lists: { away, closed } }));
    expect(await screen.findByText(/^Nothing is on\. Begin with/)).toBeTruthy();
    await user.click(await screen.findByRole('button', { name: 'show 1' }));
    expect(text()).toContain('48 of 48, yield 98.0 %');
    await user.click(screen.getByRole('button', { name: 'bring back' }));
    await waitFor(() => expect(page.writes.map((w) => [w.method, w.path, w.body])).toEqual([['PUT', `/api/away/batches/${idOf('old')}`, { away: false }]])); // prettier-ignore
  });
});

describe('the Shelf', () => {
  const offcut = {
    id: idOf('offcut'),
    name: 'Oak 12 Nov A',
    material: 'oak',
    thickness: 4,
    outline: [{ x: 10, y: 20 }, { x: 210, y: 20 }, { x: 210, y: 120 }, { x: 10, y: 120 }],
    defects: [[{ x: 20, y: 30 }, { x: 40, y: 30 }, { x: 40, y: 50 }]],
    from: 'Buoy tags', at: AT, by: 'Odile',
  }; // prettier-ignore
  const drive = { id: idOf('drive'), name: 'Rollers', version: 1, spec: driveSpec.parse({ ...freshDrive, risers: [] }), history: [] }; // prettier-ignore
  const feeder = { id: idOf('feeder'), name: 'Pass-through', version: 1, spec: feederSpec.parse(freshFeeder), readings: [] }; // prettier-ignore
  const lists = {
    offcuts: [offcut],
    drives: [drive],
    feeders: [feeder],
    recipes: [batch.recipe],
    alphabets: [{ id: 'a', name: 'Plain stroke', kind: 'stroke', licence: 'own' }],
  };
  it.each([
    ['blanks', [batch.blank.name, 'readings', 'not used yet']],
    [
      'machines',
      ['Bench A', '40 W', 'bed 400 × 300 mm', 'y runs away from', 'kerf 0.15 measured', 'pointer unmeasured'],
    ],
    // π × the roller.
    [
      'drives',
      ['Rollers', `rollers Ø ${drive.spec.kind === 'chuck' ? 0 : drive.spec.rollerDiameter} mm`, 'no ring read yet'],
    ],
    ['feeders', ['Pass-through', 'feed not measured']],
    ['recipes', [batch.recipe!.name, batch.recipe!.spec.material]],
    // 200 × 100 less a triangle of 20 × 20 / 2: 2.0 dm².
    ['offcuts', ['Oak 12 Nov A', '200 × 100 mm, 2.0 dm², 1 holes and knots; from Buoy tags']],
    ['alphabets', ['Plain stroke', 'single stroke, drawn', 'own']],
    ['fixtures', ['No boards yet']],
  ])('lists %s with what matters of them', async (kind, words) => {
    await showApp(`/shelf/${kind}`, shop([], { lists }));
    for (const word of words) await waitFor(() => expect(text()).toContain(word));
    expect(wrongOn(document.body)).toEqual([]);
  });

  it.each(['machines', 'drives', 'feeders', 'recipes'])(
    'opens %s, new ones and what is not there any more',
    async (kind) => {
      const all = { machines: [machine], ...lists } as Record<string, { id: string; name: string }[]>;
      const open = async (id: string) => (await showApp(`/shelf/${kind}/${id}`, shop([], { lists: all }))).unmount;
      const one = await open(all[kind]![0]!.id);
      expect((await screen.findByRole('heading', { level: 1 })).textContent).toBe(all[kind]![0]!.name);
      one();
      const fresh = await open('new');
      expect(await screen.findByRole('heading', { level: 1, name: `New ${kind.slice(0, -1)}` })).toBeTruthy();
      fresh();
      await open(idOf('gone'));
      expect(await screen.findByText('This is not on the Shelf any more.')).toBeTruthy();
    },
  );

  it('draws all offcuts to one scale', async () => {
    const half = { ...offcut, id: idOf('half'), name: 'Half', outline: offcut.outline.map((p) => ({ x: p.x / 2, y: p.y / 2 })), defects: [] }; // prettier-ignore
    await showApp('/shelf/offcuts', shop([], { lists: { offcuts: [offcut, half] } }));
    const drawings = await screen.findAllByRole('img');
    expect(drawings.map((d) => d.getAttribute('aria-label'))).toEqual([
      'Oak 12 Nov A, 200 × 100 mm',
      'Half, 100 × 50 mm',
    ]);
    expect(new Set(drawings.map((d) => d.getAttribute('viewBox')!.split(' ').slice(2).join())).size).toBe(1);
  });

  it('puts a thing away after one question, and takes its last change back', async () => {
    const user = userEvent.setup();
    const change = { event: 41, summary: 'Machine changed: Bench A', by: 'Odile', at: AT };
    const page = await showApp(`/shelf/machines/${machine.id}`, shop([], {
      lists,
      answer: ({ method, path }) => method === 'GET' && path.endsWith('/undo') ? { change } : /undo|away/.test(path) && method !== 'GET' ? { ok: true } : undefined,
    })); // prettier-ignore
    await user.click(await screen.findByRole('button', { name: 'Take the last change back' }));
    await waitFor(() => expect(page.writes.map((w) => w.body)).toEqual([{ event: 41 }]));
    await waitFor(() => expect(screen.getByRole('button', { name: 'Put it away' })).toBeTruthy());
    await user.click(screen.getByRole('button', { name: 'Put it away' }));
    const asked = await screen.findByRole('alertdialog');
    expect(asked.textContent).toContain('Put Bench A away?');
    await user.click(within(asked).getByRole('button', { name: 'Put it away' }));
    await waitFor(() => expect(page.at()).toBe('/shelf/machines'));
    expect(page.writes[1]).toMatchObject({
      method: 'PUT',
      path: `/api/away/machines/${machine.id}`,
      body: { away: true },
    });
  });
});

describe('the Log', () => {
  const row = (n: number, more: Partial<LogRow> = {}): LogRow => ({
    id: n, at: AT, by: 'Odile', kind: 'reading', batchId: batch.id, batchName: batch.name, summary: `Mark ${n} read`, undone: false, ...more,
  }); // prettier-ignore

  it('is asked for by words, batch and kind, a page at a time, and keeps them in its address', async () => {
    const user = userEvent.setup();
    const asked: string[] = [];
    const page = await showApp('/log', shop([], {
      answer: ({ path }) => {
        if (!path.startsWith('/api/log')) return undefined;
        asked.push(path);
        return path.includes('before=40') ? { rows: [row(39)], next: null } : { rows: [row(41), row(40, { undone: true, kind: 'scrap' })], next: 40 };
      },
    })); // prettier-ignore
    await user.type(await screen.findByPlaceholderText('scrapped, mark 2, slate …'), 'mark');
    expect(page.at()).toBe('/log?q=mark');
    await waitFor(() => expect(asked.at(-1)).toBe('/api/log?q=mark&limit=60'));
    await user.click(await screen.findByRole('button', { name: 'Earlier' }));
    await screen.findByText('Mark 39 read');
    expect(asked.at(-1)).toBe('/api/log?before=40&q=mark&limit=60');
    expect(screen.getByText('Mark 40 read').closest('tr')!.className).toContain('line-through');
    expect(screen.queryByRole('button', { name: 'Earlier' })).toBeNull();
  });

  it('says that nothing of that kind happened, and what went wrong', async () => {
    const quiet = await showApp('/log?kind=scrap', shop());
    expect(await screen.findByText('Nothing of that kind has happened yet.')).toBeTruthy();
    quiet.unmount();
    queryClient.clear();
    await showApp(
      '/log?kind=run',
      shop([], { answer: ({ path }) => (path.startsWith('/api/log') ? { rows: 'none' } : undefined) }),
    );
    expect(await screen.findByText(/The server’s answer is not one that this page understands \(rows\)/)).toBeTruthy();
  });
});

describe('a batch at its stations', () => {
  const press = (key: string): Promise<void> =>
    act(async () => {
      fireEvent.keyDown(document.body, { key });
      await Promise.resolve();
    });

  it('opens at the station it waits at, goes along by keys, and says when it was saved', async () => {
    const page = await showApp(`/batches/${batch.id}`, shop());
    expect(await screen.findByRole('navigation', { name: 'Stations' }, { timeout: 10_000 })).toBeTruthy();
    const here = () =>
      screen.getByRole('navigation', { name: 'Stations' }).querySelector('[aria-current]')!.textContent;
    expect(screen.getByText(/^saved \d\d:\d\d$/)).toBeTruthy();
    const first = here();
    await press(']');
    await waitFor(() => expect(here()).not.toBe(first));
    expect(page.at()).toMatch(new RegExp(`^/batches/${batch.id}/[a-z]+$`));
    await press('[');
    await waitFor(() => expect(here()).toBe(first));
    await press('b');
    await waitFor(() => expect(page.at()).toMatch(new RegExp(`^/batches/${batch.id}/bench`)));
  });

  it('says in one line what it waits for, which opens the station with the focus where the work goes on', async () => {
    const page = await showApp(`/batches/${batch.id}/close`, shop());
    const line = await screen.findByRole('link', { name: /^Next, at / }, { timeout: 10_000 });
    const [, at] = /^Next, at ([\w ]+):/.exec(line.textContent!)!;
    fireEvent.click(line);
    const id = STATIONS.find((s) => STATION_NAMES[s] === at)!;
    await waitFor(() => expect(page.at()).toBe(`/batches/${batch.id}/${id}`));
    await waitFor(() => expect(document.activeElement).not.toBe(document.body), { timeout: 5_000 });
    expect(document.activeElement!.closest('main, section')).not.toBeNull();
    (document.activeElement as HTMLElement).blur();
    expect(document.title).toBe(`${at} · ${batch.name} · Bistre`);
    // The bench view opens at a step of that station, not at the first of all.
    await press('b');
    await waitFor(() => expect(page.at()).toContain('/bench'));
    expect((await screen.findByRole('heading', { level: 1 })).textContent).toContain(at);
    // Who works stands there too, and the step is said aloud.
    expect(screen.getByLabelText('operator')).toBeTruthy();
    expect(screen.getByText(/^Step \d+ of \d+: /).getAttribute('role')).toBe('status');
    fireEvent.click(screen.getByText('Skip to the work'));
    expect(document.activeElement!.tagName).toBe('MAIN');
  });

  it('says what cannot be shown', async () => {
    await showApp(
      `/batches/${idOf('gone')}/hold`,
      shop([], { answer: ({ path }) => (path.endsWith(idOf('gone')) ? [] : undefined) }),
    );
    expect(
      await screen.findByText(/^This batch cannot be shown: The server’s answer/, {}, { timeout: 5000 }),
    ).toBeTruthy();
  });

  it('that was closed is only read, and is opened again with a reason', async () => {
    const user = userEvent.setup();
    const closed = { ...batch, closedAt: AT, closedBy: 'Odile', putbacks: [] };
    const page = await showApp(`/batches/${batch.id}/hold`, { ...shop(), batch: closed });
    const note = await screen.findByText(/^Closed$/, {}, { timeout: 10_000 });
    expect(note.closest('p')!.textContent).toContain('by Odile on 20 Nov');
    await user.click(screen.getByRole('button', { name: 'open it again …' }));
    const again = screen.getByRole<HTMLButtonElement>('button', { name: 'Open it again' });
    expect(again.disabled).toBe(true);
    await user.type(screen.getByLabelText('why'), 'two more tags');
    await user.click(again);
    await waitFor(() => expect(page.writes.map((w) => [w.path, w.body])).toEqual([[`/api/batches/${batch.id}/reopen`, { reason: 'two more tags' }]])); // prettier-ignore
  });
});

describe('the palette', () => {
  it('goes to any station of any batch by a few letters, and lists the keys on ?', async () => {
    const user = userEvent.setup();
    const page = await showApp('/', shop([{ name: 'Buoy tags' }]));
    await screen.findByText('Buoy tags');
    fireEvent.keyDown(document.body, { key: '/' });
    await user.type(await screen.findByPlaceholderText(/^Find a batch/), 'buoy burn');
    await waitFor(() => expect(screen.getAllByRole('option').map((o) => o.textContent)[0]).toBe('Buoy tags: Burn'));
    await user.keyboard('{Enter}');
    await waitFor(() => expect(page.at()).toBe(`/batches/${batch.id}/burn`));
    await waitFor(() => expect(screen.queryByPlaceholderText(/^Find a batch/)).toBeNull());
    await waitFor(() => expect(screen.getByText(/^saved/)).toBeTruthy(), { timeout: 10_000 });
    fireEvent.keyDown(document.body, { key: '?' });
    expect((await screen.findByRole('dialog', { name: 'Keys' })).textContent).toContain('take the last change back');
  });
});
