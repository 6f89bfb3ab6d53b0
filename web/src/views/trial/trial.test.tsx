import userEvent from '@testing-library/user-event';
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { api, machineProfile, trialDocument, trialSpec, type BodyOf, type MachineDocument, type TrialDocument } from '@bistre/contract'; // prettier-ignore
import { freshMachine } from '@bistre/core';
import { outbox } from '../../data/outbox';
import { queryClient } from '../../data/queries';
import { showApp } from '../../testing/app';
import { DOCUMENTS, idOf } from '../../testing/batch';
import { wrongOn } from '../../testing/looks';
import { enter, pick, press } from '../../testing/pick';
import type { Sent } from '../../testing/server';

const AT = '2026-11-24T09:10:00.000Z';
const machine: MachineDocument = { id: idOf('m'), name: 'Bench A', version: 1, profile: machineProfile.parse({ ...freshMachine, power: 60, bed: { width: 900, height: 600 }, rapidSpeed: 500 }), changes: [] }; // prettier-ignore
const recipe = { ...DOCUMENTS.pockets.recipe!, machineId: machine.id };
const setting = { power: 0.5, speed: 150, interval: 0.1, passes: 1 };
const SPEEDS = [60, 98, 159, 258, 420];
const POWERS = [0.2, 0.29, 0.425, 0.62, 0.9];
/** A ridge of equal energy, best in its middle. */
const gradeAt = (cell: number): number => {
  const [a, b] = [SPEEDS[cell % 5]!, POWERS[Math.floor(cell / 5)]!];
  const off = Math.log((b * 330) / a) / 0.5;
  return Math.round(9.4 * Math.exp(-off * off - (Math.log(a / 159) / 1.6) ** 2));
};
const score = (cell: number, grade: number, by = 'operator', tell: 'weak' | 'right' | 'strong' = 'right') => ({ id: idOf(`${cell} ${by}`), cell, grade, tell, by, at: AT }); // prettier-ignore
const trial = (part: object = {}, spec: object = {}): TrialDocument =>
  trialDocument.parse({
    id: idOf('t'),
    name: 'Thwart 1',
    version: 1,
    machineId: machine.id,
    spec: {
      material: 'heartwood',
      effect: 'mark',
      base: setting,
      label: setting,
      columns: { number: 'speed', levels: SPEEDS },
      rows: { number: 'power', levels: POWERS },
      cell: { width: 6, height: 6 },
      gap: 1.5,
      piece: { name: 'Offcut 2', width: 120, height: 60 },
      onPiece: { x: 0, y: 0 },
      onBed: { x: 40, y: 40 },
      ...spec,
    },
    follows: null,
    at: AT,
    by: 'Odile',
    burned: { at: AT, by: 'Odile', simulated: true },
    photo: { id: idOf('p'), width: 900, height: 800 },
    scores: [],
    heldBack: null,
    proves: [],
    ...part,
  });

const show = (trials: readonly TrialDocument[], path = `/shelf/trials/${trials[0]!.id}`, answer?: (sent: Sent) => unknown) => // prettier-ignore
  showApp(path, { batch: DOCUMENTS.pockets, lists: { trials, machines: [machine], recipes: [recipe], blanks: [DOCUMENTS.pockets.blank] }, ...(answer ? { answer } : {}) }); // prettier-ignore

beforeEach(() => queryClient.clear());
afterEach(() => waitFor(() => expect(outbox.get().kept.length).toBe(0)));

describe('a trial that was burned', () => {
  it('is scored by one touch a cell, the next cell at once', async () => {
    const t = trial();
    const page = await show([t], undefined, (sent) => (sent.method === 'POST' ? t : undefined));
    expect(await screen.findByText('Cell 1: speed 60 mm/s, power 20 %')).toBeTruthy();
    expect(screen.getByText(/25 cells of 25 not looked at yet/)).toBeTruthy();
    await press('3 of 10, too strong');
    expect(screen.getByText('Cell 2: speed 98 mm/s, power 20 %')).toBeTruthy();
    await press('9 of 10, right');
    const sent = () => page.writes.map((s) => s.body as BodyOf<typeof api.scoreCell>);
    await waitFor(() => expect(sent()).toHaveLength(2));
    expect(sent()).toEqual([{ cell: 0, grade: 3, tell: 'strong' }, { cell: 1, grade: 9, tell: 'right' }]); // prettier-ignore
    expect(wrongOn(page.container)).toEqual([]);
  });

  it('has its cells chosen by touch and by arrow keys', async () => {
    await show([trial()]);
    const cell = await screen.findByRole('button', { name: /^Cell 13: speed 159 mm\/s, power 42\.5 %, not looked at/ });
    await act(async () => {
      fireEvent.click(cell);
      await Promise.resolve();
    });
    expect(cell.getAttribute('aria-pressed')).toBe('true');
    for (const [key, words] of [
      ['ArrowUp', 'power 62 %'],
      ['ArrowRight', 'speed 258 mm/s'],
      ['ArrowDown', 'power 42.5 %'],
      ['ArrowLeft', 'speed 159 mm/s'],
    ] as const) {
      // prettier-ignore
      act(() => void fireEvent.keyDown(window, { key }));
      expect(screen.getByText(/^Cell \d+: /).textContent).toContain(words);
    }
  });

  it('of a cut is pushed at, and what comes of it is one of four', async () => {
    const t = trial({}, { effect: 'cut', columns: { number: 'speed', levels: [8, 12] }, rows: { number: 'power', levels: [0.6, 0.8] } }); // prettier-ignore
    const page = await show([t], undefined, (sent) => (sent.method === 'POST' ? t : undefined));
    const pad = await screen.findByRole('group', { name: 'How it came out' });
    expect(within(pad).getAllByRole('button').map((b) => b.textContent)).toEqual(['not through', 'must be pushed', 'falls out', 'burned back']); // prettier-ignore
    await press('must be pushed');
    await waitFor(() => expect(page.writes.map((s) => s.body)).toEqual([{ cell: 0, grade: 5, tell: 'weak' }]));
  });

  it('gives out its drawing alone while its machine stands as it should not', async () => {
    const heldBack = 'Flasks left y axis, steps/mm at 40 on Bench A.';
    await show([trial({ burned: null, photo: null, heldBack })]);
    expect(await screen.findByText((t) => t.includes(heldBack))).toBeTruthy();
    expect(screen.queryByRole('link', { name: 'G-code' })).toBeNull();
    expect(screen.queryByRole('link', { name: 'walk of the outline' })).toBeNull();
    expect(screen.getByRole('link', { name: 'drawing' })).toBeTruthy();
  });

  it('whose cells were told far apart asks to look again together', async () => {
    await show([trial({ scores: [score(4, 9), score(4, 2, 'Imre', 'weak'), score(5, 8)] })]);
    expect((await screen.findByText(/Cell 5 \(operator 9, Imre 2\)/)).textContent).toMatch(/Look again together; until then both count alike/); // prettier-ignore
  });

  it('that was scored says the best cell, what is known, and plans the next grid beside the old one', async () => {
    const t = trial({ scores: Array.from({ length: 25 }, (_, i) => score(i, gradeAt(i), 'Odile', gradeAt(i) < 4 ? (i % 5 > Math.floor(i / 5) ? 'weak' : 'strong') : 'right')) }); // prettier-ignore
    const page = await show([t], undefined, (sent) => (sent.method === 'POST' ? { id: idOf('next') } : undefined));
    const said = await screen.findByRole('region', { name: 'What it says' });
    expect(said.textContent).toMatch(/Best: speed (159|98|258) mm\/s, power (42\.5|29|62) %/);
    expect(said.textContent).toMatch(/Expected grade \d+\.\d ± \d+\.\d of 10, from 25 cells/);
    expect(within(said).getByRole('img', { name: 'Expected grade over speed, mm/s and power, %' })).toBeTruthy();
    expect(said.textContent).toMatch(/Model: a quadratic surface over the logarithms/);
    await press('Plan the next grid');
    await waitFor(() => expect(page.writes.some((s) => s.method === 'POST')).toBe(true));
    const body = page.writes.find((s) => s.method === 'POST')!.body as BodyOf<typeof api.createTrial>;
    expect(body).toMatchObject({ name: 'Thwart 2', machineId: machine.id, follows: t.id });
    const next = trialSpec.parse(body.spec);
    expect(next.piece.name).toBe('Offcut 2');
    // Beside the first, which is about 49 mm wide.
    expect(next.onPiece.x).toBeGreaterThan(45);
    await waitFor(() => expect(page.at()).toBe(`/shelf/trials/${idOf('next')}`));
  });

  it('makes a recipe of its best cell, or gives it to one that there is', async () => {
    const t = trial({ scores: Array.from({ length: 25 }, (_, i) => score(i, gradeAt(i), 'Odile')) });
    const page = await show([t], undefined, (sent) => (sent.method === 'POST' ? { id: recipe.id } : undefined));
    const take = await screen.findByRole('region', { name: 'Take it' });
    expect(take.textContent).toMatch(/Cell \d+: [\d.]+ % at \d+ mm\/s, 0\.1 mm between lines\./);
    await enter(within(take).getByLabelText('Name'), 'Heartwood, dark');
    await press('Make the recipe of this cell');
    await waitFor(() => expect(page.at()).toBe(`/shelf/recipes/${recipe.id}`));
    const body = page.writes.find((s) => s.method === 'POST')!.body as BodyOf<typeof api.proveRecipe>;
    expect(body).toMatchObject({ recipeId: null, name: 'Heartwood, dark' });
  });

  it('asks whether its cell holds, sends what was made, and proves nothing by what comes off', async () => {
    const t = trial({ scores: Array.from({ length: 25 }, (_, i) => score(i, gradeAt(i), 'Odile')) });
    const page = await show([t], undefined, (sent) => (sent.method === 'POST' ? { id: recipe.id } : undefined));
    const take = await screen.findByRole('region', { name: 'Take it' });
    const came = within(take).getByRole('radiogroup', { name: /What came of it: rub/ });
    await enter(within(take).getByLabelText('Rub, times'), '50');
    await enter(within(take).getByLabelText('with'), 'a dry cloth');
    await userEvent.click(within(came).getByRole('radio', { name: 'comes off' }));
    expect(within(take).getByText(/What comes off proves nothing/)).toBeTruthy();
    const make = within(take).getByRole('button', { name: /Make the recipe|Give it/ });
    expect(make.hasAttribute('disabled')).toBe(true);
    await userEvent.click(within(came).getByRole('radio', { name: 'holds' }));
    await press(/Make the recipe|Give it/, within(take));
    await waitFor(() => expect(page.writes.some((s) => s.method === 'POST')).toBe(true));
    const body = page.writes.find((s) => s.method === 'POST')!.body as BodyOf<typeof api.proveRecipe>;
    expect(body.tests).toEqual([{ kind: 'rub', times: 50, with: 'a dry cloth', holds: true }]);
  });

  it('shows what the shop does by hand to its material, before it is burned and after', async () => {
    const of = { kind: 'material', material: 'Heartwood' };
    const step = (name: string, station: string, when: string, more: object = {}) => ({ id: idOf(name), name, version: 1, spec: { of, station, when, detail: '', caution: '', minutes: null, photoId: null, ...more } }); // prettier-ignore
    const steps = [
      step('Coat it', 'place', 'first', { minutes: 5, caution: 'Gloves.' }),
      step('Let it dry', 'run', 'first', { minutes: 15 }),
      step('Rinse it', 'run', 'last'),
      step('Oil it', 'close', 'first'),
      { ...step('Not of it', 'place', 'first'), spec: { ...step('x', 'place', 'first').spec, of: { kind: 'material', material: 'brass' } } }, // prettier-ignore
    ];
    const one = async (t: TrialDocument, name: string): Promise<(string | null)[]> => {
      const page = await showApp(`/shelf/trials/${t.id}`, { lists: { trials: [t], machines: [machine], recipes: [recipe], steps } }); // prettier-ignore
      const list = await screen.findByRole('region', { name });
      const said = within(list)
        .getAllByRole('listitem')
        .map((li) => li.textContent);
      page.unmount();
      queryClient.clear();
      return said;
    };
    expect(await one(trial({ burned: null, photo: null }), 'By hand before')).toEqual(['Coat it.  Wait 5 min. Gloves.', 'Let it dry.  Wait 15 min.']); // prettier-ignore
    expect(await one(trial(), 'By hand after')).toEqual(['Rinse it. ', 'Oil it. ']);
  });

  it('names what came before and after it, and the recipes that it proves', async () => {
    const first = trial({ id: idOf('first'), name: 'Thwart 0' });
    const t = trial({ follows: first.id, proves: [{ id: recipe.id, name: recipe.name, cell: 12 }] });
    await show([t, first, trial({ id: idOf('later'), name: 'Thwart 2', follows: t.id })]);
    for (const [name, to] of [
      ['Thwart 0', `trials/${first.id}`],
      ['Thwart 2', `trials/${idOf('later')}`],
      [recipe.name, `recipes/${recipe.id}`],
    ] as const)
      // prettier-ignore
      expect((await screen.findByRole('link', { name })).getAttribute('href')).toBe(`/shelf/${to}`);
    expect(screen.getByText(/by cell 13/)).toBeTruthy();
  });

  it('is drawn true to scale, its cells apart', async () => {
    const page = await show([trial({ photo: null, burned: { at: AT, by: 'Imre', simulated: false } })]);
    const svg = (await screen.findByRole('group', { name: /^Grid of 25 cells, \d+\.\d × \d+\.\d mm$/ })) as unknown as SVGSVGElement; // prettier-ignore
    const [, , w, h] = svg.getAttribute('viewBox')!.split(' ').map(Number) as [number, number, number, number];
    expect(Number(svg.getAttribute('width')) / w).toBeCloseTo(Number(svg.getAttribute('height')) / h, 9);
    expect(page.container.querySelectorAll('[data-cell]')).toHaveLength(25);
    expect(screen.getByText(/Photograph of the grid/)).toBeTruthy();
  });
});

describe('a trial that is planned', () => {
  const planned = trial({ burned: null, photo: null });

  it('has its files and the caution, and is burned on the machine or the simulated one', async () => {
    const page = await show([planned], undefined, (sent) => (sent.method === 'POST' ? planned : undefined));
    const region = await screen.findByRole('region', { name: 'Burn it' });
    expect(within(region).getByRole('link', { name: 'G-code' }).getAttribute('href')).toBe(`/api/trials/${planned.id}/files/trial.gcode`); // prettier-ignore
    expect(region.textContent).toMatch(/lower left corner at 40\.0, 40\.0 mm of the bed/);
    expect(within(region).getAllByRole('note').map((n) => n.textContent).join(' ')).toMatch(/Smoke of wood.*door shut, extraction on/); // prettier-ignore
    const sent = () => page.writes.map((s) => s.path.split('/').pop());
    await press('It is burned');
    await waitFor(() => expect(sent()).toEqual(['burned']));
    await waitFor(() => expect(screen.getByRole('button', { name: /simulated/ }).hasAttribute('disabled')).toBe(false));
    await press('Burn it on the simulated machine');
    await waitFor(() => expect(sent()).toEqual(['burned', 'simulated']));
    expect(screen.queryByRole('region', { name: 'Look at it' })).toBeNull();
  });
});

describe('a new trial', () => {
  it('begins about a recipe’s own numbers, shows its grid, and is kept as a plan that fits', async () => {
    const page = await show([trial()], `/shelf/trials/new?recipe=${recipe.id}&blank=${DOCUMENTS.pockets.blank.id}`, (sent) => (sent.method === 'POST' ? { id: idOf('made') } : undefined)); // prettier-ignore
    await enter(await screen.findByLabelText('Piece'), 'Plate 7');
    await enter(screen.getByLabelText('Width'), '90');
    await enter(screen.getByLabelText('Height'), '80');
    const grid = await screen.findByRole('region', { name: 'The grid' });
    expect(grid.textContent).toMatch(/5 × 5 cells of 8 × 8 mm/);
    expect(grid.textContent).toMatch(/Energy \d+\.\d\d to \d+\.\d\d J\/mm²/);
    await pick('Rows go through', 'passes');
    await enter(screen.getAllByLabelText('from')[1]!, '1');
    await enter(screen.getAllByLabelText('to')[1]!, '4');
    await pick('in', '4 steps');
    await press('Keep this plan');
    await waitFor(() => expect(page.at()).toBe(`/shelf/trials/${idOf('made')}`));
    const body = page.writes.find((s) => s.method === 'POST')!.body as BodyOf<typeof api.createTrial>;
    const spec = trialSpec.parse(body.spec);
    expect(spec).toMatchObject({ material: recipe.spec.material, piece: { name: 'Plate 7', width: 90, height: 80 } });
    expect(spec.rows).toMatchObject({ number: 'passes', levels: [1, 2, 3, 4] });
    expect(wrongOn(page.container)).toEqual([]);
  });

  it('offers what lies in the shop of its material, spoiled pieces first', async () => {
    const material = recipe.spec.material;
    const spoiled = [{ blankId: idOf('b'), name: 'Boat tag', materials: [material], width: 60, height: 25, count: 3 }, { blankId: idOf('c'), name: 'Medal', materials: ['brass'], width: 50, height: 50, count: 9 }]; // prettier-ignore
    const offcut = { id: idOf('o'), name: 'End piece', material, thickness: 3, outline: [{ x: 0, y: 0 }, { x: 95.6, y: 0 }, { x: 95.6, y: 80 }], defects: [], from: null, at: AT, by: 'Imre' }; // prettier-ignore
    const used = trial({}, { piece: { name: 'Spoiled Boat tag 1', width: 60, height: 25 } });
    await showApp(`/shelf/trials/new?recipe=${recipe.id}`, { lists: { trials: [used], machines: [machine], recipes: [recipe], spoiled, offcuts: [offcut] } }); // prettier-ignore
    const list = await screen.findByRole('list', { name: 'What lies here of it' });
    await waitFor(() => expect(within(list).getAllByRole('button')).toHaveLength(2));
    expect(within(list).getAllByRole('button').map((b) => b.textContent)).toEqual(['Spoiled Boat tag, 60 × 25 mm: 3 spoiled pieces, 1 tried on', 'End piece, 96 × 80 mm: offcut']); // prettier-ignore
    await press(/^End piece/);
    expect((screen.getByLabelText('Piece') as HTMLInputElement).value).toBe('End piece 1');
    expect((screen.getByLabelText('Width') as HTMLInputElement).value).toMatch(/^95/);
    await enter(screen.getByLabelText('Material'), 'bog oak');
    expect(await screen.findByText(/No spoiled piece and no offcut of bog oak is known here/)).toBeTruthy();
  });

  it('is offered, where a recipe is not proved, on the first scrap that has room for it, and begins on that', async () => {
    const bare = { ...recipe, proof: null };
    const { material } = bare.spec;
    const spoiled = [{ blankId: idOf('b'), name: 'Boat tag', materials: [material.toUpperCase()], width: 24, height: 12, count: 3 }, { blankId: idOf('c'), name: 'Plaque', materials: [material], width: 90, height: 70, count: 2 }]; // prettier-ignore
    const lists = { trials: [], machines: [machine], recipes: [bare], spoiled };
    const page = await showApp(`/shelf/recipes/${bare.id}`, { lists });
    // The tag is too small for 25 cells of any size.
    expect(await screen.findByText(/A grid of 5 × 5 cells, 8 mm each, has room on Spoiled Plaque 1 \(2 spoiled pieces, 90 × 70 mm\)\./)).toBeTruthy(); // prettier-ignore
    const to = screen.getByRole('link', { name: 'Plan the trial' }).getAttribute('href')!;
    page.unmount();
    queryClient.clear();
    await showApp(to, { lists });
    await waitFor(() => expect((screen.getByLabelText('Piece') as HTMLInputElement).value).toBe('Spoiled Plaque 1'));
    expect((screen.getByLabelText('Width') as HTMLInputElement).value).toMatch(/^90/);
  });

  it.each([
    ['What lies here of ', [{ width: 24, height: 12 }]],
    ['No spoiled piece and no offcut of ', []],
  ])('is asked for all the same where nothing has room: %s', async (words, sizes) => {
    const bare = { ...recipe, proof: null };
    const spoiled = sizes.map((size) => ({ blankId: idOf('b'), name: 'Tag', materials: [bare.spec.material], count: 1, ...size })); // prettier-ignore
    await showApp(`/shelf/recipes/${bare.id}`, {
      lists: { trials: [], machines: [machine], recipes: [bare], spoiled },
    });
    expect(await screen.findByText((t) => t.startsWith(words + bare.spec.material))).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Plan the trial' }).getAttribute('href')).not.toContain('scrap');
  });

  it('that has no room on its piece says so, and is not kept', async () => {
    await show([trial()], `/shelf/trials/new?recipe=${recipe.id}`);
    await enter(await screen.findByLabelText('Width'), '30');
    expect(await screen.findByText(/Make its cells smaller or fewer, or choose a larger piece/)).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Keep this plan' }).hasAttribute('disabled')).toBe(true);
  });

  it('of a recipe of another machine begins at the same energy there, and says how far that can be trusted', async () => {
    const optics = { wavelength: 10.6, focal: 50.8, beam: 5, quality: 1.2 };
    const [strong, weak, blue] = [['m', 60, 'gas tube'], ['n', 30, 'gas tube'], ['o', 10, 'diode']].map(([id, power, source]) => ({ ...machine, id: idOf(id as string), name: `Bench ${id as string}`, profile: { ...machine.profile, power, source, optics: source === 'diode' ? null : optics } })) as [MachineDocument, MachineDocument, MachineDocument]; // prettier-ignore
    const of = { ...recipe, machineId: strong.id, spec: { ...recipe.spec, engrave: { power: 0.6, speed: 250, interval: 0.1, passes: 1 } } }; // prettier-ignore
    const at = `/shelf/trials/new?recipe=${of.id}&machine=${weak.id}`;
    await showApp(at, { lists: { trials: [], machines: [strong, weak, blue], recipes: [of] } });
    expect((await screen.findByText(/brought over from/)).textContent).toMatch(/^A close beginning, brought over from .* on Bench m\. The same energy, 1\.44 J\/mm² a pass\. It proves nothing on Bench n/); // prettier-ignore
    const [from, to] = [screen.getAllByLabelText('from')[0], screen.getAllByLabelText('to')[0]] as HTMLInputElement[];
    // Half the power, half the speed: about 125 mm/s.
    expect(Math.sqrt(Number(from!.value) * Number(to!.value))).toBeCloseTo(125, -1);
    await pick('Machine', 'Bench o');
    expect(await screen.findByText(/Bench m burns with 10\.6 µm and Bench o with 0\.45/)).toBeTruthy();
  });

  it('of a recipe that is a program burns all of it in every cell', async () => {
    const { engrave } = recipe.spec;
    const whole = { ...recipe, machineId: machine.id, spec: { ...recipe.spec, engrave: { ...engrave, angle: Math.PI / 4 }, after: [{ ...engrave, speed: 321 }] } }; // prettier-ignore
    const page = await showApp(`/shelf/trials/new?recipe=${whole.id}`, { lists: { trials: [], machines: [machine], recipes: [whole] }, answer: ({ method }) => (method === 'POST' ? { id: idOf('n') } : undefined) }); // prettier-ignore
    expect((await screen.findByText(/^Every cell as the recipe has it: lines at 45°\./)).textContent).toMatch(/Then .* at 321 mm\/s/); // prettier-ignore
    await press('Keep this plan');
    await waitFor(() => expect(page.writes).toHaveLength(1));
    const { spec } = page.writes[0]!.body as BodyOf<typeof api.createTrial>;
    expect([spec.base.angle, spec.after]).toEqual([Math.PI / 4, whole.spec.after]);
  });

  it('of one number twice is refused', async () => {
    await show([trial()], '/shelf/trials/new');
    await screen.findByLabelText('Width');
    await pick('Rows go through', 'speed');
    expect(await screen.findByText(/both go through the speed/)).toBeTruthy();
  });

  it('needs a machine first', async () => {
    await showApp('/shelf/trials/new', { lists: { trials: [], machines: [] } });
    expect(await screen.findByText(/Put a machine on the Shelf first/)).toBeTruthy();
  });
});

describe('the Shelf', () => {
  it('lists trials with what is to be done with each, and says what to do while there is none', async () => {
    const done = trial({ id: idOf('d'), name: 'Done', proves: [{ id: recipe.id, name: recipe.name, cell: 1 }] });
    const looked = trial({
      id: idOf('l'),
      name: 'Looked at',
      scores: Array.from({ length: 25 }, (_, i) => score(i, 5)),
    });
    const half = trial({ id: idOf('h'), name: 'Half', scores: [score(0, 5)] });
    const page = await show([done, looked, half, trial({ id: idOf('n'), name: 'New', burned: null })], '/shelf/trials');
    await screen.findByText('Done');
    const rows = screen.getAllByRole('listitem').map((li) => li.textContent);
    for (const words of [`proves ${recipe.name}`, 'every cell looked at', '24 cells to look at', 'to be burned'])
      expect(rows.some((row) => row.includes(words))).toBe(true);
    page.unmount();
    queryClient.clear();
    await showApp('/shelf/trials', { lists: { trials: [], machines: [machine] } });
    expect(await screen.findByText(/No trial yet\. Plan the first on a spoiled piece/)).toBeTruthy();
  });

  it('tells on a recipe’s own page the whole of how it was proved', async () => {
    const first = trial({ id: idOf('f'), name: 'Thwart' });
    const t = trial({ id: idOf('t'), name: 'Thwart 2', follows: first.id, scores: [score(12, 9, 'Odile'), score(12, 7, 'Imre', 'weak'), score(3, 2, 'Odile', 'strong')] }); // prettier-ignore
    const proved = { ...recipe, proof: { ...recipe.proof!, trialId: t.id, trialName: t.name, cell: 12, grade: 8.2, doubt: 0.4, effect: 'clean' as const, tests: [{ kind: 'rub' as const, times: 20, with: 'a cloth', holds: true }] } }; // prettier-ignore
    const page = await showApp(`/shelf/recipes/${recipe.id}`, { lists: { trials: [t, first], machines: [machine], recipes: [proved] } }); // prettier-ignore
    const proof = await screen.findByRole('region', { name: 'Proof' });
    await waitFor(() => expect(within(proof).getByRole('group', { name: /^Grid of 25 cells/ })).toBeTruthy());
    for (const words of [
      /Rubbed 20 times with a cloth: holds\./,
      /Not taped yet: whether it holds is not known\./,
      /Burned on Offcut 2 on .* by Odile: speed 60 to 420 mm\/s, power 20 to 90 %, 2 cells looked at\./,
      /Odile 9; Imre 7, too weak\. The surface through all cells says 8\.2 ± 0\.4\./,
      /It came in 2 grids: Thwart 2, Thwart\./,
    ])
      // prettier-ignore
      expect(proof.textContent).toMatch(words);
    expect(wrongOn(page.container)).toEqual([]);
  });

  it('says of a recipe by which trial it is proved, that it is not, or why it is not any more', async () => {
    const proved = { ...recipe, id: idOf('1'), name: 'One', proof: { ...recipe.proof!, trialName: 'T 1', at: AT, grade: 9.2, stale: null } }; // prettier-ignore
    const stale = { ...proved, id: idOf('2'), name: 'Two', proof: { ...proved.proof, stale: 'the lens was changed on 2026-11-28' } }; // prettier-ignore
    await showApp('/shelf/recipes', { lists: { machines: [machine], recipes: [proved, stale, { ...recipe, id: idOf('3'), name: 'Three', proof: null }] } }); // prettier-ignore
    expect((await screen.findByText('T 1, 24/11/2026, 9.2 of 10')).textContent).toBeTruthy();
    expect(screen.getByText('T 1; the lens was changed on 2026-11-28')).toBeTruthy();
    expect(screen.getByText('not proved')).toBeTruthy();
  });
});
