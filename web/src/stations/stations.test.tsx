import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Toaster } from 'sonner';
import type { api, BodyOf, SimView } from '@bistre/contract';
import type { BatchInput, StationId } from '@bistre/core';
import { testBatch, testMachine, testRecipe } from '../../../core/src/test-batch';
import { EXAMPLES } from '../../../core/src/test-ways';
import { AskHost } from '../parts/ask';
import { aimed } from '../testing/aim';
import { documentOf, idOf } from '../testing/batch';
import { calls, type Written } from '../testing/page';
import { enter, pick, press, readingOf } from '../testing/pick';
import { pretend } from '../testing/server';
import { showStation } from '../testing/station';

const show = (input: BatchInput, station: StationId, known = {}) => showStation(documentOf(input), station, known);
const sent = (page: Written) => page.acts.map(({ method }, i) => [method, ...calls(page)[i]!]);
const typed = (label: string): HTMLInputElement => screen.getByLabelText<HTMLInputElement>(label);

afterEach(() => sessionStorage.clear());

describe('Blank', () => {
  it('takes a reading into the list of its dimension, and out again', async () => {
    const input = testBatch({ blank: { ...testBatch().blank, samples: { length: [60.1], width: [], thickness: [] } } });
    const page = await show(input, 'blank');
    const { id } = page.batch().blank;
    const field = typed('length, reading 2');
    fireEvent.change(field, { target: { value: '60,08' } });
    fireEvent.keyDown(field, { key: 'Enter' });
    // What is kept is no field, and is taken out on purpose alone.
    expect(screen.queryByRole('button', { name: /^take out/ })).toBeNull();
    await press('take a reading out');
    await press('take out length 60.10 of piece 1');
    expect(sent(page)).toEqual([
      ['POST', '/api/blanks/:id/samples', { params: { id }, body: { dimension: 'length', value: 60.08 } }],
      ['DELETE', '/api/blanks/:id/samples/:sample', { params: { id, sample: idOf('length-0') } }],
    ]);
    // One reading is no spread: what the catalogue says is allowed for, 60 + 0.3.
    expect(readingOf('length to allow for')).toMatch(/^60\.30mm.*assumed$/);
    expect(screen.getByText(/the catalogue’s ± 0\.3 mm is assumed/)).toBeTruthy();
  });

  it('is measured by readings and Enter alone: round a piece, then the next; nothing between is lost or taken out', async () => {
    const page = await show(testBatch({ blank: { ...testBatch().blank, samples: { length: [60.1], width: [], thickness: [] } } }), 'blank'); // prettier-ignore
    const [length, width, thickness] = [typed('length, reading 2'), typed('width, reading 1'), typed('thickness, reading 1')]; // prettier-ignore
    const user = userEvent.setup();
    await user.click(length);
    await user.keyboard('60.02{Enter}25.1{Enter}1.5{Enter}');
    expect(document.activeElement).toBe(length);
    // Where a dimension is not measured, Enter goes on; the tabulator keeps too.
    await user.keyboard('59 7/8{Enter}{Enter}1 1/2 in{Tab}');
    await user.keyboard('{Shift>}{Tab}{Tab}{Tab}{/Shift}{Tab}{Tab}');
    expect(page.acts.map(({ method, input }) => [method, (input as { body: { dimension: string; value: number } }).body])).toEqual([
      ['POST', { dimension: 'length', value: 60.02 }],
      ['POST', { dimension: 'width', value: 25.1 }],
      ['POST', { dimension: 'thickness', value: 1.5 }],
      ['POST', { dimension: 'length', value: 59.875 }],
      ['POST', { dimension: 'thickness', value: 38.1 }],
    ]); // prettier-ignore
    expect([length, width, thickness].map((f) => f.value)).toEqual(['', '', '']);
  });

  it('is measured with a glove by the page’s own keys, and what is typed in a row is kept at once', async () => {
    const unmeasured = { length: [], width: [], thickness: [] };
    const page = await show(testBatch({ blank: { ...testBatch().blank, samples: unmeasured } }), 'blank');
    const [length, width] = [typed('length, reading 1'), typed('width, reading 1')];
    expect(length.inputMode).toBe('decimal');
    await press('keypad');
    expect(length.inputMode).toBe('none');
    const keys = within(screen.getByRole('group', { name: 'Keypad' }));
    fireEvent.focusIn(length);
    for (const key of ['1', '0', 'space', '7', 'over, for a fraction', '8', '9', 'take the last sign back', 'inches']) await press(key, keys); // prettier-ignore
    expect(length.value).toBe('10 7/8in');
    await press('Keep', keys);
    await enter(width, '25');
    await press('Keep', within(page.container.querySelector<HTMLElement>('.calipers > p:last-of-type')!));
    expect(sent(page).map((c) => (c[2] as { body: unknown }).body)).toEqual([{ dimension: 'length', value: 276.225 }, { dimension: 'width', value: 25 }]); // prettier-ignore
  });

  it('of a disc and of a cup measures what those have', async () => {
    const disc = testBatch({ blank: { ...testBatch().blank, shape: { kind: 'disc', diameter: 50 }, holes: [] } });
    const page = await show(disc, 'blank');
    expect(within(page.container.querySelector<HTMLElement>('.calipers')!).getAllByRole('textbox').map((f) => f.getAttribute('id')!).map((id) => page.container.querySelector(`label[for="${id}"]`)!.textContent!.replace(/\d+$/, ''))).toEqual(['length, reading ', 'thickness, reading ']); // prettier-ignore
    expect(screen.queryByTitle('width to allow for')).toBeNull();
    fireEvent.click(screen.getByRole('radio', { name: '99 %' }));
    await waitFor(() => expect(page.batch().setup.beside.coverage).toBe(0.99));
  });
});

describe('Place', () => {
  const turned = 0.02;
  it('says how the work lies, from readings alone', async () => {
    const page = await show(aimed(testBatch(), turned), 'place');
    // 0.02 rad × 180 / π
    expect(readingOf('board turned')).toMatch(/^1\.15°/);
    expect(readingOf('mark distance')).toMatch(/^(\d+\.\d\d)mm.*drawn \1$/);
    expect(screen.getAllByText(/^off by 0\.00/)).toHaveLength(3);
    // A plane normal error of root mean square u: 95 % lie within √(−ln 0.05) of it (Rayleigh’s distribution).
    const { u } = page.shown.reckoning.budget.sources.find((source) => source.id === 'aiming')!;
    expect(readingOf('aiming at the pieces')).toMatch(new RegExp(`^${(u * Math.sqrt(-Math.log(0.05))).toFixed(2)}mm`));
  });

  it('takes a pair with Enter, in either order, and keeps half a pair until then', async () => {
    const page = await show(testBatch(), 'place');
    const [x, y] = [typed('mark 2, x on the machine'), typed('mark 2, y on the machine')];
    await enter(y, '143,02');
    fireEvent.keyDown(y, { key: 'Enter' });
    expect([page.acts, document.activeElement]).toEqual([[], x]);
    await enter(x, '714.7');
    fireEvent.keyDown(x, { key: 'Enter' });
    expect(sent(page)).toEqual([
      ['POST', 'readings', { body: { mark: 2, x: 714.7, y: 143.02, source: 'typed', purpose: 'place' } }],
    ]);
  });

  it('is typed mark after mark, with Enter alone between: the next field has the focus', async () => {
    const page = await show(testBatch(), 'place');
    const user = userEvent.setup();
    await user.click(typed('mark 1, x on the machine'));
    await user.keyboard('10{Enter}20{Enter}30{Enter}40{Enter}50{Enter}60{Enter}');
    expect(page.acts.map((a) => (a.input as { body: { mark: number; x: number; y: number } }).body)).toMatchObject([{ mark: 1, x: 10, y: 20 }, { mark: 2, x: 30, y: 40 }, { mark: 3, x: 50, y: 60 }]); // prettier-ignore
  });

  it('takes a reading out, or one of the pair anew', async () => {
    const page = await show(aimed(testBatch()), 'place');
    await press('take out reading of mark 1');
    await enter(typed('mark 2, x on the machine'), '500');
    await press('keep (Enter)');
    const [out, again] = sent(page);
    expect(out).toEqual(['DELETE', 'readings/:reading', { params: { reading: idOf('r0') } }]);
    expect((again![2] as { body: unknown }).body).toMatchObject({ mark: 2, x: 500 });
  });

  it('sets all readings aside once the board was laid anew; there is nothing to set aside before', async () => {
    const page = await show(aimed(testBatch()), 'place');
    await press('the board was laid anew');
    expect(sent(page)).toEqual([['POST', 'laid-anew', {}]]);
    cleanup();
    await show(testBatch(), 'place');
    expect(screen.queryByText('the board was laid anew')).toBeNull();
  });

  it('takes a table whole, or says the line that is wrong', async () => {
    const page = await show(testBatch(), 'place');
    fireEvent.click(screen.getByText('readings from a table'));
    const box = screen.getByLabelText(/^A line each: mark, x, y/);
    for (const [text, words] of [
      ['1; 1; 1\n7; 2; 2', 'Line 2: there is no mark “7”; marks are 1, 2'],
      ['1; 1; 1\n1; 2; 2', 'Line 2: mark 1 stands in the table twice.'],
    ] as const) {
      fireEvent.change(box, { target: { value: text } });
      await press('Take the table');
      expect(screen.getByText(/^Wrong:/).parentElement!.textContent).toContain(words);
    }
    fireEvent.change(box, { target: { value: '1; 166,84; 110,13\n2; 714,70; 143,02' } });
    await press('Take the table');
    expect(sent(page)).toEqual([
      ['POST', 'readings/table', { body: { readings: [{ mark: 1, x: 166.84, y: 110.13 }, { mark: 2, x: 714.7, y: 143.02 }] } }],
    ]); // prettier-ignore
  });

  it('has the first mark read again, and says when it came back elsewhere', async () => {
    const input = aimed(testBatch());
    const first = input.readings[0]!;
    const moved = { ...first, id: 'again', purpose: 'reread', x: first.x + 3, at: '2026-11-20T09:00:00.000Z' } as const;
    await show({ ...input, readings: [...input.readings, moved] }, 'place');
    expect(screen.getByText(/Mark 1 is 3\.00 mm from its first reading: the work or the head has moved/)).toBeTruthy();
  });

  it('takes that reading only when both numbers are there', async () => {
    const page = await show(aimed(testBatch()), 'place');
    const keep = screen.getByRole<HTMLButtonElement>('button', { name: 'keep' });
    await enter(typed('mark 1 again, x'), '100');
    expect(keep.disabled).toBe(true);
    await enter(typed('mark 1 again, y'), '520');
    await press('keep');
    expect((sent(page)[0]![2] as { body: unknown }).body).toEqual({ mark: 1, x: 100, y: 520, source: 'typed', purpose: 'reread' }); // prettier-ignore
    expect(typed('mark 1 again, x').value).toBe('');
  });

  it('waits for two marks, and warns of a pointer that was never measured', async () => {
    const bare = testBatch({ machine: { ...testMachine, pointerOffset: null } });
    await show({ ...aimed(bare), readings: aimed(bare).readings.slice(0, 1) }, 'place');
    expect(readingOf('board turned')).toBe('–°needs two marks');
    expect(readingOf('mark distance')).toMatch(/^–mmdrawn/);
    expect(screen.getByText('After two marks, read mark 1 again.')).toBeTruthy();
    expect(screen.getByText(/^The pointer offset is unmeasured: ± 1\.5 mm is carried|^The pointer offset is unmeasured/)).toBeTruthy(); // prettier-ignore
  });

  it('with the work turned instead of the file says which way to turn it', async () => {
    const input = aimed(testBatch(), turned);
    const page = await show({ ...input, setup: { ...input.setup, place: { school: 'work', model: 'auto' } } }, 'place');
    // Turned back about the first mark, by hand.
    const [one, two] = page.shown.reckoning.board!.marks;
    const [x, y] = [two!.at.x - one!.at.x, two!.at.y - one!.at.y];
    const [cos, sin] = [Math.cos(turned), Math.sin(turned)];
    const [towards, right] = [sin * x + cos * y - y, x - cos * x + sin * y];
    const words = `Hold the board at mark 1. Move mark 2 ${towards.toFixed(1)} mm towards you and ${right.toFixed(1)} mm to the right.`;
    expect(screen.getAllByText(new RegExp(words)).length).toBeGreaterThan(0);
    fireEvent.click(screen.getByRole('radio', { name: 'turn the file' }));
    await waitFor(() => expect(page.batch().setup.place.school).toBe('file'));
  });
});

describe('the simulated machine', () => {
  const view = (part: Partial<SimView> = {}): SimView => ({
    homed: true,
    display: { x: 120, y: 480 },
    head: { x: 120, y: 120 },
    boardCorners: [],
    marksSeen: [{ id: 1, at: { x: 111, y: 92 } }],
    loupe: { radius: 4, lines: [{ kind: 'mark', points: [{ x: -1, y: 0 }, { x: 1, y: 0 }] }] }, // prettier-ignore
    dots: 0,
    landed: [],
    feeder: null,
    ...part,
  });
  const switchOn = async (input: BatchInput, answers: (body: Record<string, unknown>) => SimView) => {
    sessionStorage.setItem('bistre.sim', 'yes');
    const server = pretend((sent) => answers(sent.body));
    const page = await showStation(documentOf(input), 'place', {}, { asks: true, beside: <Toaster /> });
    const panel = await screen.findByRole('group', { name: 'Simulated machine' });
    return { page, panel, server };
  };

  it('is homed before anything else', async () => {
    let homed = false;
    const { panel, server } = await switchOn(testBatch(), ({ act }) => {
      homed ||= act === 'home';
      return view({ homed });
    });
    expect(panel.textContent).toContain('Simulated machine: not homed. Display:120.00, 480.00');
    expect(within(panel).getByRole<HTMLButtonElement>('button', { name: 'jog left' }).disabled).toBe(true);
    expect(within(panel).queryByText(/^Take reading/)).toBeNull();
    await press('Home it', within(panel));
    await within(panel).findByText(/^Take reading of mark 1/);
    expect(server.writes.map((w) => w.body)).toEqual([{ act: 'home' }]);
  });

  it('jogs by its step with buttons and arrow keys, away from the operator is up', async () => {
    const { panel, server } = await switchOn(testBatch(), () => view());
    const [coarse, fine] = testMachine.jogSteps;
    await press('jog left', within(panel));
    const radio = within(panel).getByRole('radio', { name: String(coarse) });
    fireEvent.click(radio);
    // Once the step is chosen the arrows jog: no other step is chosen by them, and no step of the bench view is turned.
    expect(document.activeElement).toBe(panel);
    const seen = jest.fn();
    window.addEventListener('keydown', seen);
    fireEvent.keyDown(radio, { key: 'ArrowUp' });
    expect(seen).toHaveBeenCalledTimes(1);
    fireEvent.keyDown(panel, { key: 'ArrowUp' });
    expect(seen).toHaveBeenCalledTimes(1);
    window.removeEventListener('keydown', seen);
    await waitFor(() => expect(server.writes).toHaveLength(2));
    expect(server.writes.map((w) => w.body)).toEqual([
      { act: 'jog', dx: -fine, dy: expect.closeTo(0, 9) },
      { act: 'jog', dx: expect.closeTo(0, 9), dy: coarse },
    ]);
  });

  it('is pushed near the mark that is next, in the display’s own numbers, and gives what the display says', async () => {
    const { page, panel, server } = await switchOn(testBatch(), () => view());
    await press('Push the head near mark 1', within(panel));
    // Zero back left, y towards the operator: 92 mm up from the front of a bed of 600 is 508 on the display.
    expect(server.writes[0]!.body).toEqual({ act: 'goto', x: 111, y: 508 });
    await press('Take reading of mark 1', within(panel));
    expect((sent(page)[0]![2] as { body: unknown }).body).toEqual({ mark: 1, x: 120, y: 480, source: 'simulated machine', purpose: 'place' }); // prettier-ignore
  });

  it('has the first mark once more when all are read; an offset only once a dot is burned', async () => {
    const { page, panel, server } = await switchOn(aimed(testBatch()), ({ act }) => view({ dots: act === 'dot' ? 1 : 0 })); // prettier-ignore
    expect(within(panel).getByRole<HTMLButtonElement>('button', { name: /take the pointer offset$/ }).disabled).toBe(true); // prettier-ignore
    await press('burn a test dot here', within(panel));
    await press(/take the pointer offset$/, within(panel));
    await press('Mark 1 is under the dot again', within(panel));
    expect(server.writes.map((w) => w.body)).toEqual([{ act: 'dot' }]);
    expect(sent(page).map(([method, path]) => `${String(method)} ${String(path)}`)).toEqual(['POST sim/pointer', 'POST readings']); // prettier-ignore
    expect(await screen.findByText('Pointer offset measured.')).toBeTruthy();
  });
});

describe('Burn', () => {
  const recipe = { id: idOf('r'), name: 'Slate', machineId: idOf('m'), version: 1, spec: { ...testRecipe } };
  const known = { recipes: [recipe, { ...recipe, id: idOf('other'), name: 'Elsewhere', machineId: idOf('x') }] };

  it('says the energy on the surface and the run-up by their formulas, and the time of every move', async () => {
    await show(testBatch(), 'burn', known);
    // 60 W × 0.35 / (400 mm/s × 0.1 mm)
    expect(readingOf('energy on the surface')).toMatch(/^0\.5[23]J\/mm²/);
    expect(readingOf('engrave')).toBe('35 %at 400 mm/s0.1 mm lines, 1 × ');
    expect(readingOf('cut')).toBe('70 %at 12 mm/s1 × ');
    // v² / 2a = 400² / 10 000
    await waitFor(() => expect(readingOf('run-up each end')).toMatch(/^16\.0mm/), { timeout: 8_000 });
    const load = screen.getByText(/^these \d+ pieces$/);
    expect(load.closest('div')!.textContent).toMatch(/beam on \d/);
  });

  it('follows the lines that a drive really burns: power, energy, and what the recipe wanted', async () => {
    const page = EXAMPLES.drive;
    await show(page, 'burn', known);
    // Five steps of π × 20 / 3200 for 0.1 mm: 35 % × 0.98175.
    expect(readingOf('engrave')).toMatch(/^34 %at 400 mm\/s0\.0982 mm lines; recipe 35 % at 0\.1/);
    expect(readingOf('energy on the surface')).toMatch(/^0\.5[23]J\/mm²/);
  });

  it('says beside the choice why the pieces are not burned with it', async () => {
    const slate = { ...testBatch().blank, material: 'slate' };
    await show(testBatch({ blank: slate }), 'burn', known);
    const held = screen.getByRole('list', { name: 'Held back' });
    expect(within(held).getAllByRole('listitem')).toHaveLength(1);
    expect(held.textContent).toMatch(/^Held back:Recipe .+ is for acrylic; .+ is made of slate\. Choose/);
    cleanup();
    await show(testBatch({ blank: { ...slate, material: testRecipe.material } }), 'burn', known);
    expect(screen.queryByRole('list', { name: 'Held back' })).toBeNull();
  });

  it('says what the time goes to, what the next density costs, and whether the tube bears it', async () => {
    await show(testBatch(), 'burn', known);
    await waitFor(() => expect(readingOf('whole batch, burning')).toMatch(/at 300 lines per inch .* more$/));
    expect(readingOf('these 24 pieces')).toMatch(/most of the rest: (run-ups and gaps|ways between)/);
    expect(screen.getByText(/of the load at 35 % on average/).textContent).toMatch(/A gas tube bears that\.$/);
    cleanup();
    const strong = { ...testRecipe, engrave: { ...testRecipe.engrave, power: 1, speed: 20 } };
    await show(testBatch({ recipe: strong }), 'burn', known);
    await screen.findByText(/More than a gas tube bears: let Bench A rest .* after each load, loading counted/);
  });

  it('takes the time of a stop-watch, tells every time by it, and refuses what cannot be this load', async () => {
    const page = await show(testBatch(), 'burn', known);
    await screen.findByText(/^Planned alone: nobody timed a load on Bench A yet/);
    await enter(screen.getByLabelText('it took'), '3');
    expect(await screen.findByText(/3\.0 s cannot be this load, which is planned at/)).toBeTruthy();
    expect(page.acts).toEqual([]);
    const planned = 24 * 60;
    cleanup();
    const timed = {
      ...testBatch().machine,
      stopwatch: [{ planned, took: 1.25 * planned, at: '2026-11-30T08:00:00.000Z' }],
    };
    const batch = documentOf(testBatch({ machine: timed }));
    const server = pretend(({ method }) => (method === 'PUT' ? batch.machine : known.recipes));
    await showStation(batch, 'burn', known, { asks: true });
    await screen.findByText(/^By the stop-watch:/);
    const said = screen.getByText(/× the plan of .*, from 1 load\. Every time here is told so\./).textContent;
    expect(said).toContain('takes 1.25');
    const own = /plan of (?:(\d+) min )?(\d+) s/.exec(said)!;
    await enter(screen.getByLabelText('it took'), String(60 * Number(own[1] ?? 0) + Number(own[2])));
    await waitFor(() => expect(server.writes).toHaveLength(1));
    const { profile } = server.writes[0]!.body as unknown as BodyOf<typeof api.saveMachine>;
    expect(profile.stopwatch).toHaveLength(2);
    expect(profile.stopwatch![1]!.took / profile.stopwatch![1]!.planned).toBeCloseTo(1, 1);
  });

  it('tells a recipe that is a program burn by burn, and what the file waits for', async () => {
    const polish = { ...testRecipe.engrave, angle: Math.PI / 2, focus: 2 };
    await show(testBatch({ recipe: { ...testRecipe, after: [polish] } }), 'burn', known);
    const burns = within(screen.getByRole('region', { name: 'Energy on the surface' })).getAllByRole('listitem');
    expect(burns.map((li) => li.textContent)).toEqual([
      expect.stringMatching(/^1\. 35 % at 400 mm\/s, 0\.1 mm between lines: 0\.5[23] J\/mm²$/),
      expect.stringMatching(/^2\. 35 % .*lines at 90°, lens 2\.0 mm above focus: 0\.5[23] J\/mm²$/),
    ]);
    expect(screen.getByText(/It waits up to 2 times, beam off, until the lens is set .* Put the lens back into focus at the end\./)).toBeTruthy(); // prettier-ignore
    cleanup();
    await show(testBatch(), 'burn', known);
    expect(screen.queryByRole('region', { name: 'Energy on the surface' })).toBeNull();
  });

  it('counts every pass', async () => {
    await show(testBatch({ recipe: { ...testRecipe, engrave: { ...testRecipe.engrave, passes: 3 } } }), 'burn', known);
    expect(readingOf('energy on the surface')).toMatch(/^1\.5[78]J\/mm².*in 3 passes/);
  });

  it('offers what this blank was last burned with, and takes it only when that is pressed', async () => {
    const recipeBefore = { id: idOf('before'), name: 'Slate, fine', batch: 'Boat tags, spring', at: '2026-04-02T08:00:00.000Z' }; // prettier-ignore
    const page = await showStation({ ...documentOf(testBatch({ recipe: null })), recipeBefore }, 'burn', known);
    expect(screen.getByText(/^This blank was last burned with/).textContent).toContain('Slate, fine, in Boat tags, spring. Is it the same material?'); // prettier-ignore
    expect(page.acts).toEqual([]);
    await press('Use it again');
    expect(sent(page)).toEqual([['PUT', 'recipe', { body: { recipeId: recipeBefore.id } }]]);
  });

  it('offers the recipes of this machine, none as well, and asks for a proof where there is none', async () => {
    const page = await show(testBatch({ recipe: { ...testRecipe, proof: null } }), 'burn', known);
    expect(screen.getByText(/^none\. No trial on this machine and material says that these numbers are right/)).toBeTruthy(); // prettier-ignore
    const plan = screen.getByRole('link', { name: 'Plan the trial' }).getAttribute('href');
    expect(plan).toMatch(/^\/shelf\/trials\/new\?recipe=.*&blank=/);
    await pick('Recipe for Bench A', 'none yet');
    expect(sent(page)).toEqual([['PUT', 'recipe', { body: { recipeId: null } }]]);
    await userEvent.click(screen.getByRole('combobox', { name: 'Recipe for Bench A' }));
    expect(screen.queryByText(/Elsewhere/)).toBeNull();
  });

  it('says what its material asks for, with what that rests on, and that some are never burned', async () => {
    await show(testBatch({ recipe: { ...testRecipe, material: 'birch plywood' } }), 'burn', known);
    const notes = screen.getAllByRole('note').map((n) => n.textContent);
    expect(notes.some((n) => /^Smoke of wood and glue: extraction on.*\(safety data sheet, sections 5 and 10/.test(n))).toBe(true); // prettier-ignore
    cleanup();
    await show(testBatch({ recipe: { ...testRecipe, material: 'PVC sheet' } }), 'burn', known);
    expect(screen.getAllByText(/PVC sheet is never burned\. It holds chlorine/).length).toBeGreaterThan(0);
  });

  it('asks for a recipe of the boards’ own material, of this machine, where any are cut', async () => {
    const page = await show(testBatch({ stockRecipe: null }), 'burn', known);
    const list = screen.getByRole('combobox', { name: 'Recipe for boards, pins and gauges' });
    expect(list.textContent).toMatch(/^none yet/);
    await userEvent.click(list);
    expect(screen.getAllByRole('option').map((o) => o.textContent)).toEqual(['none yet', 'Slate: acrylic']);
    await userEvent.click(screen.getByRole('option', { name: 'Slate: acrylic' }));
    await waitFor(() => expect(page.batch().setup.burn).toEqual({ sweep: 'row', stockRecipeId: idOf('r') }));
    // How it sweeps is another matter.
    await userEvent.click(screen.getByText('piece by piece'));
    await waitFor(() => expect(page.batch().setup.burn).toEqual({ sweep: 'piece', stockRecipeId: idOf('r') }));
  });

  it('does not ask for it where nothing is cut to hold the pieces', async () => {
    await show(EXAMPLES.long, 'burn', known);
    expect(screen.queryByRole('combobox', { name: /^Recipe for boards/ })).toBeNull();
  });

  it('without a recipe says where one comes from', async () => {
    await show(testBatch({ recipe: null }), 'burn', { recipes: [] });
    expect(screen.getByText('Put one on the Shelf.').getAttribute('href')).toBe('/shelf/recipes/new');
    expect(screen.getByText('Power, speed and interval come from the recipe.')).toBeTruthy();
  });
});

describe('Close', () => {
  const putback = { id: idOf('p'), setting: 'steps to the mm', was: '80', now: '16.168', restoredAt: null };
  const withHost = (input: BatchInput) => showStation(documentOf(input), 'close', {}, { beside: <AskHost /> });

  it('keeps a batch open while a setting is not put back', async () => {
    const page = await withHost(testBatch({ putbacks: [putback] }));
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Close the batch' }).disabled).toBe(true);
    expect(screen.getByText('Put back 1 first.')).toBeTruthy();
    fireEvent.click(screen.getByRole('checkbox', { name: 'steps to the mm: 16.168 back to 80' }));
    expect(sent(page)).toEqual([
      ['PUT', 'putbacks/:putback', { params: { putback: putback.id }, body: { restored: true } }],
    ]);
  });

  it('takes a setting with both its values', async () => {
    const page = await withHost(testBatch());
    const add = screen.getByRole<HTMLButtonElement>('button', { name: 'Add' });
    for (const [label, value] of [
      ['setting', 'focus'],
      ['it was', '0'],
      ['it is now', '1.5'],
    ] as const) {
      // prettier-ignore
      expect(add.disabled).toBe(true);
      fireEvent.change(screen.getByLabelText(label), { target: { value } });
    }
    await press('Add');
    expect(sent(page)).toEqual([['POST', 'putbacks', { body: { setting: 'focus', was: '0', now: '1.5' } }]]);
    await waitFor(() => expect(typed('setting').value).toBe(''));
  });

  it('asks before it is closed short, and goes on only with yes', async () => {
    const page = await withHost(testBatch());
    expect(screen.getByText(/^24 pieces are not done/)).toBeTruthy();
    await press('Close the batch');
    await press('Leave it open');
    expect(page.acts).toEqual([]);
    await press('Close the batch');
    await press('Close it');
    expect(sent(page)).toEqual([['POST', 'close', {}]]);
  });

  it('keeps what was learned with the batch, for the next time', async () => {
    const page = await withHost(testBatch());
    fireEvent.change(screen.getByLabelText('Notes for the log'), { target: { value: 'slate chips at the hole' } });
    fireEvent.change(screen.getByLabelText('What to keep for the next time'), { target: { value: 'tape under' } });
    expect(page.batch().setup.close).toEqual({ notes: 'slate chips at the hole', keep: 'tape under' });
  });
});
