import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { photograph, someCamera, type LyingThing } from '@bistre/core/bench-sim';
import {
  apply,
  circle,
  fieldMarks,
  flatten,
  polygonArea,
  rigid,
  roundedRectangle,
  type BatchInput,
  type Vec,
} from '@bistre/core';
import type { BatchDocument } from '@bistre/contract';
import { inWay } from '../../../../core/src/test-held';
import { EXAMPLES } from '../../../../core/src/test-ways';
import { loadedPieces, testMachine, testRecipe } from '../../../../core/src/test-batch';
import { outbox } from '../../data/outbox';
import { documentOf, DOCUMENTS, idOf } from '../../testing/batch';
import { wrongOn } from '../../testing/looks';
import { press, readingOf } from '../../testing/pick';
import { dotsOf, greyDots, pictureFile, unpackPictures } from '../../testing/pixels';
import { pretend } from '../../testing/server';
import { showStation } from '../../testing/station';
import { serviceOf } from '../../testing/workers';
import { shots } from './photo';

const batch = DOCUMENTS.photo;
const { bed } = batch.machine.profile;
const HEIGHT = (batch.setup.held.choice as { cameraHeight: number }).cameraHeight;
/** Where tags really lie: x, y, rad. */
const LIE = [
  { x: 210, y: 430, angle: 0.31 },
  { x: 480, y: 420, angle: -1.2 },
  { x: 640, y: 160, angle: 2.4 },
];
const at = (lie: (typeof LIE)[number], points: readonly Vec[]): Vec[] => points.map((p) => apply(rigid(lie.angle, lie.x, lie.y), p)); // prettier-ignore
const tag = (lie: (typeof LIE)[number]): LyingThing => ({
  outline: at(lie, flatten(roundedRectangle({ x: 0, y: 0 }, 60.04, 25.02, 3), 0.02)),
  holes: [at(lie, flatten(circle({ x: -25.5, y: 0 }, 2), 0.02))],
  above: 1.5,
  shade: 188,
});
const taken = (things: readonly LyingThing[], { width = 2400, marked = true } = {}): File => {
  const held = someCamera(5, bed, width, 0.75 * width);
  const camera = { ...held, at: { ...held.at, height: HEIGHT }, focal: (held.focal * HEIGHT) / held.at.height };
  const { data, height } = photograph(camera, marked ? fieldMarks(bed) : [], things, 5);
  return pictureFile(
    greyDots(width, height, (x, y) => data[y * width + x]!),
    'bed.jpg',
  );
};
const show = (input: BatchInput | BatchDocument = batch, known = {}) =>
  showStation('customer' in input ? input : documentOf(input), 'hold', known);
const give = async (file: File): Promise<void> => {
  fireEvent.change(screen.getByLabelText(/^(Photograph of the bed|Another photograph)/), { target: { files: [file] } });
  await screen.findByRole('progressbar');
  await waitFor(() => expect(screen.queryByRole('progressbar')).toBeNull(), { timeout: 30_000 });
};
const found = (page: Awaited<ReturnType<typeof show>>) =>
  page.batch().setup.held.found as Extract<BatchInput['setup']['held'], { way: 'photo' }>['found'];

beforeEach(() => {
  unpackPictures();
  shots.set({});
  sessionStorage.clear();
  let made = 0;
  Object.assign(URL, { createObjectURL: () => `blob:${(made += 1)}`, revokeObjectURL: () => undefined });
});

describe('a photograph of the bed', () => {
  const photo = taken(LIE.map(tag));

  it('tells where each blank lies and how it is turned, within what it says of itself', async () => {
    const page = await show();
    await give(photo);
    const { blanks, spread, marks, left, seenBy } = found(page);
    expect([blanks.length, left, marks, seenBy]).toEqual([3, 0, fieldMarks(bed).length, 'marks']);
    for (const lie of LIE) {
      const near = blanks.reduce((a, b) => (Math.hypot(a.x - lie.x, a.y - lie.y) < Math.hypot(b.x - lie.x, b.y - lie.y) ? a : b)); // prettier-ignore
      // Three of what it doubts: a dot of this picture is some 0.4 mm wide.
      expect(Math.hypot(near.x - lie.x, near.y - lie.y)).toBeLessThan(3 * near.doubt);
      expect(near.doubt).toBeLessThan(0.3);
      expect(Math.abs(Math.sin(near.angle - lie.angle))).toBeLessThan(4 * near.turn);
      expect(near.ask).toBe(false);
    }
    expect(spread!).toBeLessThan(0.4);
    expect(wrongOn(page.container)).toEqual([]);
    expect(dotsOf(photo)!.width).toBe(2400);
  });

  it('with something else on the bed leaves that out, and says why', async () => {
    const box: LyingThing = { outline: [[500, 250], [580, 250], [580, 330], [500, 330]].map(([x, y]) => ({ x: x!, y: y! })), holes: [], above: 1.5, shade: 150 }; // prettier-ignore
    const page = await show();
    await give(taken([tag(LIE[0]!), box]));
    expect([found(page).blanks.length, found(page).left]).toEqual([1, 1]);
    const why = page.container.querySelector('path.stroke-oxide > title')!.textContent;
    expect(why).toMatch(/\w{3}/);
  });

  it('without its marks is refused, and the blanks seen before are kept', async () => {
    const page = await show();
    await give(taken(LIE.map(tag), { width: 800, marked: false }));
    expect(screen.getByText(/Wrong:/).parentElement!.textContent).toMatch(/marks/);
    expect(page.updates).toEqual([]);
    // Its marks can still be aimed at by eye.
    expect(screen.getByText('aim at the marks by hand')).toBeTruthy();
  });

  it('that is damaged, or larger than can be looked at, is named', async () => {
    await show();
    await give(new File(['…'], 'bed.webp'));
    expect(screen.getByText(/^bed\.webp is damaged|bed\.webp is damaged, or of a kind/)).toBeTruthy();
    const huge = pictureFile({ width: 9000, height: 9000, data: new Uint8ClampedArray(0) }, 'bed.png');
    await give(huge);
    expect(screen.getByText(/bed\.png has more than 60 million dots/)).toBeTruthy();
  });

  it('waits while pieces of the last one are on the machine', async () => {
    await show({ ...EXAMPLES.photo, pieces: loadedPieces([1]) });
    expect(screen.getByText(/^Pieces of the last photograph are on the machine/)).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>(/^Another photograph/).disabled).toBe(true);
  });

  it('comes from the simulated camera as a file does, or says why none came', async () => {
    sessionStorage.setItem('bistre.sim', 'yes');
    const page = await show();
    const answers = [
      { ok: false, json: () => Promise.resolve({ message: 'This batch is not placed by a photograph.' }) },
      { ok: true, blob: () => Promise.resolve(photo) },
    ];
    // The bed is seen as the server knows it: what was chosen a moment ago is sent first.
    const sent = jest.spyOn(outbox, 'flush');
    const before: number[] = [];
    globalThis.fetch = (() => (before.push(sent.mock.calls.length), Promise.resolve(answers.shift()))) as unknown as typeof fetch; // prettier-ignore
    await press('Take it with the simulated camera');
    expect(await screen.findByText('This batch is not placed by a photograph.')).toBeTruthy();
    await press('Take it with the simulated camera');
    await waitFor(() => expect(found(page).takenAt).not.toBeNull(), { timeout: 30_000 });
    expect(found(page).blanks).toHaveLength(3);
    expect(before).toEqual([1, 2]);
  });

  it('can be stopped', async () => {
    const page = await show();
    Object.assign(globalThis, { createImageBitmap: () => new Promise(() => undefined) });
    fireEvent.change(screen.getByLabelText(/^Another photograph|^Photograph of the bed/), {
      target: { files: [photo] },
    });
    await press('stop');
    await waitFor(() => expect(screen.queryByRole('progressbar')).toBeNull());
    expect(page.updates).toEqual([]);
  });
});

describe('marks aimed at by hand', () => {
  const own = [
    { x: 40, y: 40 },
    { x: 860, y: 45 },
    { x: 855, y: 560 },
    { x: 50, y: 555 },
    { x: 450, y: 300 },
  ];
  const input = inWay(EXAMPLES.photo, 'photo', { marksOn: 'own', own });

  it('are asked for one by one, four at least, and give the picture its scale', async () => {
    const page = await show(input);
    const [k, top] = [2, 1300];
    // A camera straight above: two dots to the millimetre, the bed’s front edge 1300 dots down.
    const dots = greyDots(2000, 1400, () => 96);
    fireEvent.change(screen.getByLabelText(/^Another photograph/), {
      target: { files: [pictureFile(dots, 'bed.png')] },
    });
    const dialog = await screen.findByRole('dialog', { name: /^Aim at mark 1: 40, 40 mm from the front left/ });
    const picture = within(dialog).getByRole('img', { name: 'The photograph as it was taken' });
    Object.defineProperties(picture, { naturalWidth: { value: 2000 }, naturalHeight: { value: 1400 } });
    // Shown at half its size, 10 pixels from the left.
    picture.getBoundingClientRect = () => ({ left: 10, top: 20, width: 1000, height: 700 }) as DOMRect;
    const measure = (): HTMLButtonElement => within(dialog).getByRole('button', { name: /^Measure by these/ });
    for (const mark of own.slice(0, 4)) {
      expect(measure().disabled).toBe(true);
      fireEvent.click(picture, { clientX: 10 + (100 + k * mark.x) / 2, clientY: 20 + (top - k * mark.y) / 2 });
    }
    expect(within(dialog).getByRole('heading').textContent).toMatch(/^Aim at mark 5/);
    expect(within(dialog).getByRole('button', { name: 'mark 4, aimed at' })).toBeTruthy();
    // The last again, and back by half a dot.
    fireEvent.click(within(dialog).getByRole('button', { name: 'mark 4, aimed at' }));
    fireEvent.keyDown(dialog.querySelector('.grid')!, { key: 'ArrowRight' });
    fireEvent.keyDown(dialog.querySelector('.grid')!, { key: 'ArrowLeft' });
    fireEvent.click(measure());
    await waitFor(() => expect(screen.queryByRole('progressbar')).toBeNull(), { timeout: 30_000 });
    // Nothing lies on that grey bed: it is said, and the marks were good.
    await waitFor(() => expect(page.container.textContent).toMatch(/Wrong:|aim at the marks by hand/));
    expect(screen.queryByText(/marks-disagree/)).toBeNull();
  });

  it('are needed where the bed’s own marks are used', async () => {
    const looked = await (await serviceOf('photo.worker.ts')).look(pictureFile(greyDots(40, 30, () => 96)), 'bed.png', documentOf(input), () => undefined); // prettier-ignore
    expect(looked).toMatchObject({ ok: false, problem: { code: 'by-hand', field: 'photo.marks' } });
  });
});

describe('blanks that are asked about', () => {
  const seen = (x: number, ask: boolean) => ({ x, y: 100, angle: 0, ask, why: ask ? 'its hole may be on either side' : '', doubt: 0.1, turn: 0.002 }); // prettier-ignore
  it('are taken as drawn, or left out', async () => {
    const input = inWay(EXAMPLES.photo, 'photo', {}, { blanks: [seen(80, false), seen(200, true), seen(320, true)] });
    const page = await show(input);
    expect(readingOf('blanks found')).toBe('32 asked about');
    const asks = screen.getAllByText(/its hole may be on either side/);
    expect(asks.map((a) => a.textContent)).toEqual(['2 its hole may be on either side', '3 its hole may be on either side']); // prettier-ignore
    fireEvent.click(screen.getAllByRole('button', { name: 'Take it' })[0]!);
    fireEvent.click(screen.getByRole('button', { name: 'Leave it out' }));
    await waitFor(() => expect(found(page).blanks.map((b) => [b.x, b.ask])).toEqual([[80, false], [200, false]])); // prettier-ignore
  });
});

describe('a fixed camera', () => {
  it('is kept from the picture that measured it, and let go', async () => {
    await show();
    await give(taken(LIE.map(tag)));
    const server = pretend(() => ({ ...batch.machine, version: 2 }));
    await press('keep it as the machine’s fixed camera');
    await waitFor(() => expect(server.writes).toHaveLength(1));
    const { camera } = server.writes[0]!.body['profile'] as { camera: { marks: number; width: number } };
    expect(camera).toMatchObject({ marks: fieldMarks(bed).length, width: 2400 });
  });
});

describe('offcuts', () => {
  const square = (x: number, y: number, side: number): Vec[] => [
    { x, y },
    { x: x + side, y },
    { x: x + side, y: y + side },
    { x, y: y + side },
  ];
  const stock = { outline: square(100, 100, 200), defects: [square(180, 180, 20)] };
  const input = (found: Parameters<typeof inWay<'photo'>>[3] = {}, more: Partial<BatchInput> = {}): BatchInput => ({
    ...inWay(EXAMPLES.photo, 'photo', { use: 'offcuts', gap: 2 }, { offcuts: [stock], takenAt: '2026-11-20T08:00:00.000Z', ...found }), // prettier-ignore
    quantity: 6,
    ...more,
  });

  it('take parts with room between them and none over a knot', async () => {
    const service = await serviceOf('photo.worker.ts');
    const told: number[] = [];
    const made = await service.lay([documentOf(input())], 0.2, (_s, laid) => void told.push(laid));
    if (!made.ok) throw new Error(made.problem.message);
    const [list] = made.value.lists;
    expect([list!.found.length, list!.left]).toEqual([6, 0]);
    const parts = list!.outlines;
    for (const part of parts)
      for (const p of part) {
        expect(p.x).toBeGreaterThan(100);
        expect(p.x).toBeLessThan(300);
        const inKnot = p.x > 180 && p.x < 200 && p.y > 180 && p.y < 200;
        expect(inKnot).toBe(false);
      }
    // Corner to corner no two are nearer than the gap asked for.
    parts.forEach((a, i) =>
      parts.slice(i + 1).forEach((b) => {
        const least = Math.min(...a.flatMap((p) => b.map((q) => Math.hypot(p.x - q.x, p.y - q.y))));
        expect(least).toBeGreaterThan(2);
      }),
    );
    expect(told.at(-1)).toBe(6);
    // Density: areas of six tags of what they take of the stock.
    expect(made.value.density).toBeGreaterThan((6 * 60 * 25) / (200 * 200));
  });

  it('of the Shelf are asked which would take the parts', async () => {
    const offcut = (name: string, side: number, thickness = 1.5) => ({ id: idOf(name), name, version: 1, material: testRecipe.material, thickness, outline: square(0, 0, side), defects: [] }); // prettier-ignore
    const page = await show(input(), { offcuts: [offcut('slim', 20), offcut('plank', 160), offcut('thick', 400, 6)] });
    // The thick one is another board.
    expect(screen.getByText(/^2 offcuts of acrylic on the Shelf/)).toBeTruthy();
    await press('which would take these parts?');
    expect(await screen.findByText('Fetch plank (6): they take all parts.')).toBeTruthy();
    expect(page.acts).toEqual([]);
  });

  it('are laid anew for a while, and the best is kept', async () => {
    const page = await show(input());
    let seconds = 0;
    const clock = jest.spyOn(performance, 'now').mockImplementation(() => 1000 * (seconds += 5));
    await press('Lay them anew, for 15 s');
    await waitFor(() => expect(found(page).blanks).toHaveLength(6), { timeout: 20_000 });
    clock.mockRestore();
    expect(found(page)).toMatchObject({ left: 0, others: [], offcuts: [{ defects: [{}] }] });
    // Six tags of 60.3 × 25.3 at most, of what they take of 200 × 200.
    expect(found(page).density!).toBeGreaterThan((6 * 59 * 24) / (200 * 200));
    expect(page.updates.map((u) => u.section)).toEqual(['held']);
  });

  it('shared with another list take the parts of both, each kept with its own batch', async () => {
    const other = { ...documentOf({ ...EXAMPLES.photo, quantity: 3, name: 'Oar tags' }), id: idOf('other') };
    const page = await show(inWay(input(), 'photo', { also: [other.id] }));
    const server = pretend(() => other);
    let seconds = 0;
    const clock = jest.spyOn(performance, 'now').mockImplementation(() => 1000 * (seconds += 5));
    await press('Lay them anew, for 15 s');
    await waitFor(() => expect(server.writes).toHaveLength(1), { timeout: 20_000 });
    clock.mockRestore();
    const { section, value } = server.writes[0]!.body as unknown as { section: string; value: BatchInput['setup']['held'] }; // prettier-ignore
    const theirs = value.found as ReturnType<typeof found>;
    expect([section, value.way, theirs.blanks.length, found(page).blanks.length]).toEqual(['held', 'photo', 3, 6]);
    // What was laid for the one is taken for the other.
    expect([theirs.others.length, found(page).others.length]).toEqual([6, 3]);
    expect(theirs.takenAt).toBe(found(page).takenAt);
  });

  it('that are left go to the Shelf with what was cut out of them as holes', async () => {
    const cut = { ...loadedPieces([1])[0]!, state: 'done' as const };
    await show(input({ blanks: [{ x: 200, y: 250, angle: 0, ask: false, why: '', doubt: 0.1, turn: 0 }] }, { pieces: [cut] })); // prettier-ignore
    const server = pretend(() => []);
    await press('Keep what is left on the Shelf');
    await waitFor(() => expect(server.writes).toHaveLength(1));
    const [kept, ...others] = server.writes[0]!.body['offcuts'] as { name: string; thickness: number; outline: Vec[]; defects: Vec[][] }[]; // prettier-ignore
    expect(others).toEqual([]);
    expect(kept!.name).toMatch(/^acrylic \d\d \w{3} A$/);
    expect(kept!.thickness).toBe(batch.blank.spec.thickness);
    // The knot of 20 × 20, and the part with half a kerf all round.
    const holes = kept!.defects.map((d) => Math.abs(polygonArea(d))).sort((a, b) => a - b);
    expect(holes).toHaveLength(2);
    const { kerf } = testMachine;
    expect(holes[1]!).toBeGreaterThan(60 * 25 - 10);
    expect(holes[1]!).toBeLessThan((60.3 + 4 * kerf) * (25.3 + 4 * kerf));
    // Strips too narrow to use are gone: its corners are rounded by a little.
    expect(Math.abs(polygonArea(kept!.outline))).toBeGreaterThan(0.98 * 200 * 200);
  });

  it('have a knot marked where the picture is touched', async () => {
    const page = await show(input());
    fireEvent.click(screen.getByText('mark a defect'));
    const area = page.container.querySelector('[aria-label="the stock: touch where a defect lies"]')!;
    // The simulated browser draws nothing: the place that is touched is where the view puts 250, 250.
    const group = [...page.container.querySelectorAll('svg[role="img"] > g[transform]')].map((g) => g.getAttribute('transform')!).find((t) => t.startsWith('translate'))!; // prettier-ignore
    const [ox, oy, k] = group.match(/-?[\d.]+/g)!.map(Number) as [number, number, number];
    fireEvent.click(area, { clientX: ox + 250 * k, clientY: oy - 250 * k });
    await waitFor(() => expect(found(page).offcuts[0]!.defects).toHaveLength(2));
    const middle = found(page).offcuts[0]!.defects[1]!;
    expect(middle.reduce((s, p) => s + p.x, 0) / middle.length).toBeCloseTo(250, 0);
    fireEvent.click(area, { clientX: ox + 250 * k, clientY: oy - 250 * k });
    await waitFor(() => expect(found(page).offcuts[0]!.defects).toHaveLength(1));
  });
});
