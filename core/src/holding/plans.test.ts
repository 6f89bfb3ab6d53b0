import { boxCentre, circle, contourBox, contoursBox, flatten, polygonArea, polyline, roundedRectangle, type Contour } from '../geometry'; // prettier-ignore
import { strokeAlphabet } from '../test-alphabets';
import { testBlank, testMachine } from '../test-batch';
import { setText } from '../lettering';
import { blankSizes, type Blank } from './blank';
import { pocketBoard } from './board';
import { gaugeStrip } from './gauge';
import { alongOutline } from './lines';
import { outOfDate } from './fixture';
import { maxYaw } from './float';
import { reckonHeights } from './heights';
import { layGrid, markPlaces, type GridSettings } from './layout';
import { freshLocator, reckonLocator } from './locator';
import { boardOfOne, markReach } from './own';
import { freshPins, reckonPins } from './pins';
import { loosePocket, pocketOutline } from './pocket';
import { freshBoard } from './settings';
import { tracedBoard, tracedPieces, tracedSize } from './traced';
import type { TracedShape, TracedSheet } from '../trace';

// Plans drawn by hand: every number here was worked out from the sizes that stand beside it.

describe('a locator board for a frame of 560 × 500 on feet of 40 × 30, travel beginning 80, 70 in', () => {
  const settings = { ...freshLocator, frame: { width: 560, depth: 500 }, foot: { width: 40, depth: 30 }, travel: { x: 80, y: 70 }, back: [] }; // prettier-ignore
  const reckon = (change: object = {}, piece = { length: 86, width: 54 }, travel = { width: 400, height: 360 }) => reckonLocator({ ...settings, ...change }, travel, piece, 6, freshBoard('L').order, strokeAlphabet); // prettier-ignore
  const made = (...args: Parameters<typeof reckon>) => {
    const result = reckon(...args);
    if (!result.ok) throw new Error(result.problem.message);
    return result.value;
  };
  const box = (minX: number, minY: number, maxX: number, maxY: number) => ({ minX, minY, maxX, maxY });

  it('has board, feet and blocks where they are, counted from where the travel begins', () => {
    const { board, feet, stops } = made();
    expect(board).toEqual(box(-105, -95, 505, 455));
    expect(feet).toEqual([box(-80, -70, -40, -40), box(440, -70, 480, -40), box(-80, 400, -40, 430), box(440, 400, 480, 430)]); // prettier-ignore
    // Blocks of 40 × 20; beside the back left foot as long as that foot is deep.
    expect(stops.map((s) => s.block)).toEqual([box(-80, -90, -40, -70), box(440, -90, 480, -70), box(-100, 400, -80, 430)]); // prettier-ignore
  });

  it('has pieces with their front left corners on its lines, from 10 on', () => {
    const { slots, cell, columns, rows, zero, repeat } = made();
    // ⌈(86 + 4) / 10⌉ and ⌈(54 + 4) / 10⌉ lines; the last ends inside 400 and 360.
    expect([cell, columns, rows]).toEqual([{ width: 90, height: 60 }, 4, 5]);
    const corners = slots.map((s) => `${s.centre.x - 43},${s.centre.y - 27}`).sort();
    const wanted = [10, 100, 190, 280].flatMap((x) => [10, 70, 130, 190, 250].map((y) => `${x},${y}`)).sort();
    expect(corners).toEqual(wanted);
    expect([zero.x, zero.y, repeat.x, repeat.y].every((v) => v % 10 === 0)).toBe(true);
    // Room that is just enough is enough, and a hair more takes another line.
    expect(made({}, { length: 86, width: 56 }).cell.height).toBe(60);
    expect(made({}, { length: 86, width: 56.01 }).cell.height).toBe(70);
  });

  it('is numbered at every fifth line, once at the corner both ways', () => {
    const { passes, xs, ys } = made();
    const labels = passes.find((p) => p.name === 'labels')!.contours;
    const [left, front] = [xs[0]!, ys[0]!];
    // Beside its own line, at the front or at the left, never inside the grid.
    for (const label of labels) {
      const b = contourBox(label);
      expect(b.minX - left < 9 || b.minY - front < 9).toBe(true);
      expect(b.minX).toBeGreaterThan(left);
      expect(b.minY).toBeGreaterThan(front);
    }
    const near = (x: number, y: number): boolean => labels.some((l) => Math.abs(contourBox(l).minX - x - 0.8) < 1.2 && Math.abs(contourBox(l).minY - y - 0.8) < 0.6); // prettier-ignore
    expect([50, 100, 350].map((x) => near(x, front))).toEqual([true, true, true]);
    expect([50, 100, 350].map((y) => near(left, y))).toEqual([true, true, true]);
    expect([60, 90, 110].map((x) => near(x, front))).toEqual([false, false, false]);
    expect([60, 90, 110].map((y) => near(left, y))).toEqual([false, false, false]);
  });

  it('needs two lines each way, and feet that leave something between them', () => {
    expect(reckon({ pitch: 200 }, { length: 10, width: 10 }).ok).toBe(false);
    expect(reckon({ pitch: 190 }, { length: 10, width: 10 }, { width: 400, height: 400 }).ok).toBe(true);
    expect(reckon({ foot: { width: 279, depth: 30 } }).ok).toBe(true);
    expect(reckon({ foot: { width: 280, depth: 30 } }).ok).toBe(false);
    expect(reckon({ foot: { width: 40, depth: 249 } }).ok).toBe(true);
    expect(reckon({ foot: { width: 40, depth: 250 } }).ok).toBe(false);
  });
});

describe('rows and columns on a board', () => {
  const grid: GridSettings = { extent: { kind: 'count', count: 6 }, turned: 'along', wall: 4, notches: 'none', notchRadius: 8, slotNumbers: false, marks: 2, order: freshBoard('B').order } as GridSettings; // prettier-ignore
  it('lie apart by their walls, in the middle of what the marks leave', () => {
    const laid = layGrid({ length: 60, width: 25 }, { x: 0, y: 0 }, { ...grid, extent: { kind: 'board', width: 300, height: 200 } }, { width: 900, height: 600 }); // prettier-ignore
    if (!laid.ok) throw new Error(laid.problem.message);
    const { slots, columns } = laid.value;
    // (300 − 2 · 5 + 4) / 64 columns.
    expect(columns).toBe(4);
    const xs = [...new Set(slots.map((s) => Math.round(1000 * s.centre.x) / 1000))].sort((a, b) => a - b);
    const ys = [...new Set(slots.map((s) => Math.round(1000 * s.centre.y) / 1000))].sort((a, b) => a - b);
    const apart = (v: number[]): number[] => v.slice(1).map((x, i) => x - v[i]!);
    expect(apart(xs)).toEqual([64, 64, 64]);
    for (const d of apart(ys)) expect(d).toBeCloseTo(29, 9);
    // As far from the left edge as from the right: (300 − 4 · 60 − 3 · 4) / 2 + 30.
    expect([xs[0], 300 - xs.at(-1)!]).toEqual([54, 54]);
  });

  it('are laid as they were asked for, on the smallest board, or it is said what board they need', () => {
    const bed = { width: 900, height: 600 };
    const laid = layGrid({ length: 60, width: 25 }, { x: 0, y: 0 }, { ...grid, extent: { kind: 'grid', columns: 5, rows: 7 } }, bed); // prettier-ignore
    if (!laid.ok) throw new Error(laid.problem.message);
    // 5 · 60 + 4 · 4 + 2 · 5 wide; 7 · 25 + 6 · 4 and the strips of the marks, 18.7 each, deep.
    expect(laid.value).toMatchObject({ columns: 5, rows: 7, width: 326, height: Math.ceil(7 * 25 + 6 * 4 + 2 * 18.7) });
    expect(laid.value.slots).toHaveLength(35);
    const many = layGrid({ length: 60, width: 25 }, { x: 0, y: 0 }, { ...grid, extent: { kind: 'grid', columns: 5, rows: 20 } }, bed); // prettier-ignore
    expect(many).toMatchObject({ ok: false, problem: { field: 'hold.extent', message: '5 × 20 pockets of 60.0 × 25.0 mm need a board of 326 × 614 mm; the bed takes 880 × 580. Ask for fewer, or for as many as fill the bed.' } }); // prettier-ignore
    const all = layGrid({ length: 60, width: 25 }, { x: 0, y: 0 }, { ...grid, extent: { kind: 'grid', columns: 50, rows: 50 } }, bed); // prettier-ignore
    expect(all).toMatchObject({ ok: false, problem: { code: 'too-many-slots' } });
  });

  it('lie the way that holds more, along where both hold as many; the other way is told', () => {
    const bed = { width: 300, height: 200 };
    let turned = 0;
    for (let length = 20; length <= 120; length += 7)
      for (let width = 12; width <= 60; width += 9) {
        const held = (way: 'auto' | 'along' | 'across') => layGrid({ length, width }, { x: 0, y: 0 }, { ...grid, turned: way, extent: { kind: 'bed' } }, bed); // prettier-ignore
        const count = (way: 'along' | 'across'): number => ((r) => (r.ok ? r.value.slots.length : 0))(held(way));
        const auto = held('auto');
        if (!auto.ok) throw new Error(auto.problem.message);
        const both = [count('along'), count('across')] as const;
        expect(auto.value.slots).toHaveLength(Math.max(...both));
        expect(auto.value.turned).toBe(both[1] > both[0]);
        expect(auto.value.otherWay).toBe(Math.min(...both));
        if (auto.value.turned) turned += 1;
      }
    expect(turned).toBeGreaterThan(5);
  });

  it('that are fewer than were asked for say how many were', () => {
    const laid = (count: number) => layGrid({ length: 60, width: 25 }, { x: 0, y: 0 }, { ...grid, extent: { kind: 'count', count } }, { width: 300, height: 200 }); // prettier-ignore
    expect([laid(4), laid(400)]).toMatchObject([{ value: { slots: { length: 4 } } }, { value: { asked: 400 } }]);
    expect(laid(4)).not.toHaveProperty('value.asked');
  });

  it.each([
    [300, 12],
    [120, 8],
  ])('a board %d mm long takes marks along its back edge while they stand clear of each other', (width, most) => {
    const square = 2 * markPlaces(width, 100, 2)[0]!.at.x;
    const marks = markPlaces(width, 100, 12);
    const room = Math.floor((width - square) / square) - 1;
    expect(marks).toHaveLength(Math.min(12, 4 + room));
    expect(marks.length).toBeLessThanOrEqual(most);
    const back = marks.filter((m) => m.at.y > 50).map((m) => m.at.x).sort((a, b) => a - b); // prettier-ignore
    for (let i = 1; i < back.length; i += 1) expect(back[i]! - back[i - 1]!).toBeGreaterThanOrEqual(square - 1e-9);
    expect(marks.map((m) => m.role).slice(0, 3)).toEqual(['place', 'place', 'check']);
  });
});

describe('work that lies by itself', () => {
  it('is a board of one place as large as it, without kerf, wall or thickness', () => {
    expect(boardOfOne({ length: 80, width: 50 }, 'W', 3, [], [])).toEqual({
      ...{ name: 'W', revision: 3, thickness: 0, pocket: { length: 80, width: 50 }, kerf: 0, width: 80, height: 50 },
      ...{ columns: 1, rows: 1, turned: false, wall: 0, marks: [], passes: [] },
      slots: [{ slot: 1, row: 0, column: 0, angle: 0, centre: { x: 40, y: 25 } }],
    });
    expect(markReach([{ x: 0, y: 0 }, { x: 3, y: 4 }, { x: 1, y: 1 }])).toBe(5); // prettier-ignore
  });

  it('as somebody else’s sheet has its pieces for places: the largest gives the size, kerf out, inset in', () => {
    const shape = (outline: Contour, role: TracedShape['role'], holes: Contour[] = []): TracedShape => ({ outline, holes, role, look: null, at: boxCentre(contourBox(outline)) }); // prettier-ignore
    const traced: TracedSheet = {
      ...{ name: 's', width: 300, height: 200, dot: 0.1, uncertainty: 0, edge: 0 },
      shapes: [
        shape(circle({ x: 10, y: 10 }, 4), 'mark'),
        shape(circle({ x: 290, y: 190 }, 4), 'mark'),
        shape(roundedRectangle({ x: 80, y: 60 }, 60, 20), 'piece', [circle({ x: 80, y: 60 }, 5)]),
        shape(roundedRectangle({ x: 200, y: 120 }, 30, 44), 'piece'),
        shape(roundedRectangle({ x: 200, y: 20 }, 90, 90), 'left out'),
      ],
    };
    expect(tracedPieces(traced)).toHaveLength(2);
    expect(tracedSize(traced)).toEqual({ length: 60, width: 44 });
    const made = tracedBoard({ name: 'S', inset: 0.6, inner: true }, traced, 0.2, 1, { width: 900, height: 600 });
    if (!made.ok) throw new Error(`${made.problem.code} ${made.problem.message}`);
    const board = made.value;
    expect(board).toMatchObject({ width: 300, height: 200, thickness: 0, kerf: 0.2, columns: 2, rows: 1, wall: 0 });
    expect(board.slots.map((s) => [s.slot, s.centre.x, s.centre.y])).toEqual([[1, 80, 60], [2, 200, 120]]); // prettier-ignore
    // The beam’s middle: 0.6 in, half of 0.2 out; the hole the other way round.
    const boxes = (board.cuts ?? []).map((cuts) => cuts.map((c) => contourBox(c)));
    const sizes = boxes.flat().map((b) => (b.maxX - b.minX).toFixed(2)).sort(); // prettier-ignore
    expect(sizes).toEqual(['11.00', '29.00', '59.00']);
    // A bed of the sheet’s own size takes it, turned too; one a little smaller does not.
    const on = (width: number, height: number): boolean => tracedBoard({ name: 'S', inset: 0.6, inner: true }, traced, 0.2, 1, { width, height }).ok; // prettier-ignore
    expect([on(300, 200), on(200, 300), on(299, 200), on(300, 199)]).toEqual([true, true, false, false]);
  });
});

describe('hold-down pins round a board of 400 × 300', () => {
  const head = { nozzleGap: 40, headRadius: 18, focusRange: 2 };
  const pins = (warp: number, marks: { x: number; y: number }[] = []) => {
    const made = reckonPins(freshPins, { width: 400, height: 300, top: 3, surface: 3, warp }, head, [], marks);
    if (!made.ok) throw new Error(made.problem.message);
    return made.value;
  };
  const half = (freshPins.cell - 0.2) / 2;

  it('are two to each long edge while it is flat enough, 20 in from its ends, half a shank outside', () => {
    const { places, shank, spacing } = pins(1);
    expect([shank / 2, spacing]).toEqual([expect.closeTo(half, 9), 400]);
    expect(places.map((p) => [p.at.x, p.at.y])).toEqual([
      [20, expect.closeTo(-half, 9)],
      [380, expect.closeTo(-half, 9)],
      [20, expect.closeTo(300 + half, 9)],
      [380, expect.closeTo(300 + half, 9)],
    ]);
    expect(places.every((p) => p.moved === 0)).toBe(true);
  });

  it('stand on all four edges where it is bowed beyond the focus, evenly', () => {
    // A bow of 4 mm leaves 1 mm between pins 400 · √(1 / 4) apart: 360 and 260 between the ends in two.
    const { places, spacing } = pins(4);
    expect(spacing).toBe(200);
    const along = places.filter((p) => p.at.y < 0).map((p) => p.at.x);
    const across = places.filter((p) => p.at.x < 0).map((p) => p.at.y);
    expect(along).toEqual([20, 200, 380]);
    expect(across).toEqual([20, 150, 280]);
    expect(places).toHaveLength(12);
  });

  it('step aside from a mark that must stay in sight, by cells', () => {
    const { places } = pins(1, [{ x: 20, y: 3 }]);
    const [first] = places;
    expect(first!.moved % freshPins.cell).toBe(0);
    expect(first!.at.x).toBeCloseTo(20 + first!.moved, 9);
    expect(first!.moved).toBeGreaterThan(0);
  });
});

describe('a pocket for an outline', () => {
  const sizes = blankSizes(testBlank, 0.95, 0.95);
  const boat = polyline([{ x: -30, y: -12.5 }, { x: 30, y: -12.5 }, { x: 30, y: 12.5 }, { x: -30, y: 12.5 }], true); // prettier-ignore
  const blank: Blank = { ...testBlank, shape: { kind: 'outline', source: 'boat.svg', contours: [boat] }, holes: [] };
  it('is as much wider all round as the pocket is longer, less half the kerf', () => {
    const mean = sizes.length.mean;
    const pocket = { length: mean + 0.6, width: sizes.width.mean + 0.6, offset: { x: 0, y: 0 }, yaw: null, byEye: null } as never; // prettier-ignore
    const box = contoursBox(pocketOutline(blank, sizes, pocket, { notches: 'none', notchRadius: 8 }, 0.2));
    // 0.3 a side, less 0.1.
    expect(box.maxX).toBeCloseTo(30.2, 3);
    expect(box.maxY).toBeCloseTo(12.7, 3);
  });
  it('has its notches in straight sides, no wider than six tenths of it', () => {
    const pocket = { length: 61, width: 26, offset: { x: 0, y: 0 }, yaw: null, byEye: null } as never;
    const area = (r: number): number => pocketOutline(testBlank, sizes, pocket, { notches: 'one', notchRadius: r } as never, 0).reduce((s, c) => s + polygonArea(flatten(c, 0.002)), 0); // prettier-ignore
    const plain = pocketOutline(testBlank, sizes, pocket, { notches: 'none', notchRadius: 8 }, 0).reduce((s, c) => s + polygonArea(flatten(c, 0.002)), 0); // prettier-ignore
    // Half a disc each.
    for (const [asked, r] of [[8, 8], [18, 18], [25, 18.3]] as const) expect(Math.abs(area(asked)) - Math.abs(plain)).toBeCloseTo((Math.PI * r * r) / 2, 0); // prettier-ignore
  });
  it('that is longer or wider than it is never holds a piece turned', () => {
    expect([maxYaw(60, 25, 60, 25), maxYaw(60.1, 25, 60, 26), maxYaw(60, 25.1, 61, 25)]).toEqual([
      expect.closeTo(0, 12),
      0,
      0,
    ]);
    expect(maxYaw(60, 25, 60.01, 25.01)).toBeGreaterThan(0);
  });
});

describe('heights over the bed', () => {
  const under = { rests: 'in', boardThickness: 3, boardWarp: 0, tallThings: [], stand: null } as const;
  const head = { nozzleGap: 6, headRadius: 18, focusRange: 2 };
  const thing = (x: number, height: number) => ({ label: 'magnet', x, y: 0, radius: 5, height });
  it('meet what is as tall as the nozzle passes, warn within the least air, and clear what lies aside', () => {
    const at = (x: number, height: number): string => reckonHeights(4, { ...under, tallThings: [thing(x, height)] }, head, [{ x: 0, y: 0 }]).collisions[0]!.verdict; // prettier-ignore
    // The nozzle passes 4 + 6 over the bed; the head reaches 18 and the magnet 5.
    expect([at(0, 10), at(0, 10.5), at(0, 9.9)]).toEqual(['hits', 'hits', 'tight']);
    expect([at(0, 5), at(23.1, 30), at(22.9, 30)]).toEqual(['clear', 'clear', 'hits']);
  });
  it('say the bed’s move where there is a board, and nothing of one where there is none', () => {
    const lines = (boardThickness: number | null) => reckonHeights(4, { ...under, boardThickness }, head, []).working.map((w) => [w.label, w.result]); // prettier-ignore
    expect(lines(3)).toContainEqual(['bed move from board to blank', '1.00 mm down']);
    expect(lines(5)).toContainEqual(['bed move from board to blank', '1.00 mm up']);
    expect(lines(null).some(([label]) => label === 'bed move from board to blank')).toBe(false);
  });
});

describe('a board that was cut', () => {
  const sizes = blankSizes(testBlank, 0.95, 0.95);
  const basis = { shape: 'rectangle 60.00 × 25.00', length: 60, width: 25, pocketLength: 60.5, pocketWidth: 25.5 };
  const reasons = (length: number, width = 25.5): string[] => outOfDate(basis, testBlank, sizes, { length, width } as never, { to: 'size' }); // prettier-ignore
  it('is right until a pocket should be more than a tenth larger or smaller', () => {
    expect([reasons(60.59), reasons(60.41), reasons(60.61), reasons(60.39)].map((r) => r.length)).toEqual([0, 0, 1, 1]);
    expect(reasons(60.8)[0]).toMatch(/^By the samples the pocket length should be 60\.80 mm; the board has 60\.50 mm/);
    expect(reasons(60.2)[0]).toMatch(/could be 60\.20 mm; the board has 60\.50 mm, so pieces float more\.$/);
    expect(reasons(60.5, 25.7)[0]).toContain('pocket width');
  });
});

describe('small things that are read at the bench', () => {
  const sizes = blankSizes(testBlank, 0.95, 0.95);
  const boardOf = (hold: object, blank = testBlank) => {
    const made = pocketBoard({ blank, sizes, pocket: loosePocket(blank, sizes, { school: 'loose' }), machine: testMachine, revision: 1, labels: strokeAlphabet }, { ...freshBoard('B'), ...hold } as never); // prettier-ignore
    if (!made.ok) throw new Error(made.problem.message);
    return made.value;
  };
  it('a board for one piece is as wide as its pocket and a wall each side', () => {
    const pocket = loosePocket(testBlank, sizes, { school: 'loose' });
    const { width } = boardOf({ extent: { kind: 'count', count: 1 }, wall: 40, turned: 'along', notches: 'none' });
    expect(width).toBe(Math.ceil(pocket.length + 2 * 40));
  });
  it.each([
    // 30.6 from the middle to the pocket’s end: the number stands there, so that the triangle keeps 5 from it.
    [-25.5, 0],
    [-26.5, 5],
    [20, 0],
  ])('the triangle in the wall points at the end where the hole goes: at %d, %d on', (x, on) => {
    const blank = { ...testBlank, holes: [{ x, y: 0, diameter: 4 }] };
    const pocket = loosePocket(blank, sizes, { school: 'loose' });
    const board = boardOf({ extent: { kind: 'count', count: 2 }, turned: 'along', notches: 'none' }, blank);
    const [slot] = board.slots;
    const tip = { x: slot!.centre.x + x + on, y: slot!.centre.y - pocket.width / 2 - 1 };
    const triangles = board.passes.flatMap((p) => p.contours).filter((c) => c.closed && c.vertices.length === 3);
    const found = triangles.find((t) => t.vertices.some((v) => Math.hypot(v.x - tip.x, v.y - tip.y) < 1e-6));
    expect(found!.vertices.map((v) => [v.x - tip.x, v.y - tip.y])).toEqual([
      [expect.closeTo(-1.1, 9), expect.closeTo(-1.9, 9)],
      [expect.closeTo(1.1, 9), expect.closeTo(-1.9, 9)],
      [expect.closeTo(0, 9), expect.closeTo(0, 9)],
    ]);
  });
  it('a slot of the gauge carries its own number, 4 mm high under its middle', () => {
    const strip = gaugeStrip(3, strokeAlphabet);
    const drawn = JSON.stringify(strip.passes);
    // A pitch of 10 and 4 mm; the comb begins 3 mm before the first.
    strip.slots.forEach((_, i) => {
      const at = { x: 3 + 14 * (i + 0.5) - 1.5, y: 4 };
      for (const stroke of setText(strokeAlphabet, String(i + 1), at, 4))
        expect(drawn).toContain(JSON.stringify(polyline(stroke).vertices));
    });
  });
  it('a place on an outline is counted along it from where it begins', () => {
    const square = polyline([{ x: 0, y: 0 }, { x: 100, y: 0 }, { x: 100, y: 100 }, { x: 0, y: 100 }], true); // prettier-ignore
    const along = (x: number, y: number): number => alongOutline(square, { x, y });
    expect([along(30, -5), along(105, 40), along(60, 110), along(-2, 75)].map(Math.round)).toEqual([30, 140, 240, 325]);
  });
});
