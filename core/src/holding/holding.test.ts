import fc from 'fast-check';
import { contourBox, contoursBox, boxWidth, boxHeight, boxOf, flatten } from '../geometry';
import { testBlank, testMachine } from '../test-batch';
import { strokeAlphabet } from '../test-alphabets';
import { blankSizes, clippedRectangle, followedBy, type Blank } from './blank';
import { boardIsWhole, pocketBoard } from './board';
import { freshBoard, type BoardSettings } from './settings';
import { fillCells } from './order';
import { fixtureBasis, outOfDate } from './fixture';
import { gaugeStrip, kerfFromGauge } from './gauge';
import { layGrid, markPlaces } from './layout';
import { maxYaw, turnedSize } from './float';
import { cornerPocket, loosePocket, pocketOutline } from './pocket';
import { reckonHeights, type Underneath } from './heights';

const hold = (change: Partial<BoardSettings> = {}): BoardSettings => ({ ...freshBoard('TEST'), ...change });
const sizes = blankSizes(testBlank, 0.95, 0.95);
const degrees = (rad: number): number => (rad * 180) / Math.PI;

describe('yaw in a pocket', () => {
  it.each([
    [60, 30, 61, 31, 0.959],
    [60, 30, 60.5, 30.5, 0.478],
    [196.85, 7.62, 197.6, 8.37, 0.218],
  ])('%d × %d in %d × %d', (l, w, L, W, expected) => {
    expect(degrees(maxYaw(l, w, L, W))).toBeCloseTo(expected, 3);
  });
  it('is what a search finds that turns the piece until it touches', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 200, noNaN: true }),
        fc.double({ min: 5, max: 100, noNaN: true }),
        fc.double({ min: 0.1, max: 3, noNaN: true }),
        (l, w, c) => {
          const fits = (psi: number): boolean => {
            const t = turnedSize(l, w, psi);
            return t.length <= l + c && t.width <= w + c;
          };
          let low = 0;
          // First contact on the way up, in small steps, then bisected.
          while (low < Math.PI / 2 && fits(low + 1e-4)) low += 1e-4;
          let high = low + 1e-4;
          for (let i = 0; i < 40; i += 1) {
            const middle = (low + high) / 2;
            if (fits(middle)) low = middle;
            else high = middle;
          }
          return Math.abs(Math.min(low, Math.PI / 2) - Math.min(maxYaw(l, w, l + c, w + c), Math.PI / 2)) < 2e-4;
        },
      ),
      { numRuns: 60 },
    );
  });
  it('is nought for a piece that does not fit', () => expect(maxYaw(61, 30, 60, 31)).toBe(0));
});

describe('pocket', () => {
  const loose = loosePocket(testBlank, sizes, { school: 'loose' });
  it('is the upper size and the clearance in total, not per side', () => {
    expect(loose.length).toBeCloseTo(sizes.length.upper + 1, 9);
    expect(loosePocket(testBlank, sizes, { school: 'snug' }).width).toBeCloseTo(sizes.width.upper + 0.5, 9);
  });
  it('takes nearly every piece when loose and half of them when cut to the mean', () => {
    expect(loose.fits).toBeGreaterThan(0.999);
    const tight = loosePocket(
      testBlank,
      {
        ...sizes,
        length: { ...sizes.length, upper: sizes.length.mean },
        width: { ...sizes.width, upper: sizes.width.mean + 5 },
      },
      { school: 'own', total: 0 },
    );
    expect(tight.fits).toBeCloseTo(0.5, 3);
  });
  it('is cut half a kerf inside, so that the opening has its size', () => {
    const [path] = pocketOutline(testBlank, sizes, loose, hold({ notches: 'none' }), 0.2);
    expect(boxWidth(contourBox(path!))).toBeCloseTo(loose.length - 0.2, 9);
    expect(boxHeight(contourBox(path!))).toBeCloseTo(loose.width - 0.2, 9);
  });
  it('has its finger notch outside the side it sits on', () => {
    const [path] = pocketOutline(testBlank, sizes, loose, hold({ notches: 'one', notchRadius: 8 }), 0.2);
    const box = contourBox(path!);
    expect(box.minY).toBeCloseTo(-loose.width / 2 - 7.9, 6);
    expect(box.maxY).toBeCloseTo(loose.width / 2 - 0.1, 6);
  });
  it('holds no float against a stop', () => {
    const stop = cornerPocket(testBlank, sizes, 3);
    expect([stop.floatX, stop.floatY, stop.yaw]).toEqual([0, 0, 0]);
    expect(stop.offset.x).toBeGreaterThan(1.5);
  });
  it('has no yaw limit for a disc', () => {
    const disc: Blank = {
      ...testBlank,
      shape: { kind: 'disc', diameter: 50 },
      samples: { length: [], width: [], thickness: [] },
      holes: [],
    };
    expect(loosePocket(disc, blankSizes(disc, 0.95, 0.95), { school: 'loose' }).yaw).toBeNull();
  });
  it('grows a clipped corner so that its edge moves out in parallel', () => {
    const d = 0.5;
    const p = clippedRectangle({ x: 0, y: 0 }, 60 + 2 * d, 25 + 2 * d, 5, d).vertices;
    const distanceToEdge = (p[2]!.x + p[2]!.y) / Math.SQRT2;
    const before = (30 + 12.5 - 5) / Math.SQRT2;
    expect(distanceToEdge - before).toBeCloseTo(d, 9);
  });
});

describe('grid and board', () => {
  const pocket = loosePocket(testBlank, sizes, { school: 'loose' });
  const cutFor = { blank: testBlank, sizes, pocket, machine: testMachine, revision: 1, labels: strokeAlphabet };
  const extents: BoardSettings['extent'][] = [
    { kind: 'count', count: 24 },
    { kind: 'count', count: 7 },
    { kind: 'bed' },
    { kind: 'board', width: 400, height: 300 },
  ];
  it.each(extents)('keeps pockets apart, off the marks and on the board: %j', (extent) => {
    const made = pocketBoard(cutFor, hold({ extent }));
    expect(made.ok).toBe(true);
    if (!made.ok) return;
    const board = made.value;
    expect(boardIsWhole(board)).toBe(true);
    const boxes = board.passes.find((p) => p.name === 'pockets')!.contours.map(contourBox);
    for (const [i, a] of boxes.entries()) {
      for (const b of boxes.slice(i + 1)) {
        const apart = Math.max(b.minX - a.maxX, a.minX - b.maxX, b.minY - a.maxY, a.minY - b.maxY);
        expect(apart).toBeGreaterThanOrEqual(2.99);
      }
      for (const m of board.marks) {
        const nearest = Math.hypot(
          Math.max(a.minX - m.at.x, 0, m.at.x - a.maxX),
          Math.max(a.minY - m.at.y, 0, m.at.y - a.maxY),
        );
        expect(nearest).toBeGreaterThan(6.35);
      }
    }
    if (extent.kind === 'count') expect(board.slots).toHaveLength(extent.count);
    expect(board.slots.map((s) => s.slot)).toEqual(board.slots.map((_, i) => i + 1));
  });
  it.each([2, 3, 4, 5, 6])('lays %i marks on the board, apart from each other and clear of pockets', (marks) => {
    for (const extent of extents) {
      const laid = layGrid(pocket, { x: 0, y: 0 }, hold({ extent, marks }), testMachine.bed);
      if (!laid.ok) throw new Error(laid.problem.message);
      const grid = laid.value;
      expect(grid.marks.map((m) => m.role)).toEqual(grid.marks.map((_, i) => (i < 2 ? 'place' : 'check')));
      expect(grid.marks).toHaveLength(marks);
      const size = grid.turned ? { x: pocket.width, y: pocket.length } : { x: pocket.length, y: pocket.width };
      grid.marks.forEach(({ at, id }) => {
        expect(Math.min(at.x, at.y, grid.width - at.x, grid.height - at.y)).toBeGreaterThan(6.35);
        for (const other of grid.marks.slice(id))
          expect(Math.hypot(at.x - other.at.x, at.y - other.at.y)).toBeGreaterThan(12.7);
        for (const { centre } of grid.slots)
          expect(
            Math.hypot(
              Math.max(0, Math.abs(centre.x - at.x) - size.x / 2),
              Math.max(0, Math.abs(centre.y - at.y) - size.y / 2),
            ),
          ).toBeGreaterThan(6.35);
      });
    }
  });
  it('puts the first two marks farther apart than any other two', () => {
    const places = markPlaces(400, 300, 6).map((m) => m.at);
    const apart = (a: number, b: number): number =>
      Math.hypot(places[a]!.x - places[b]!.x, places[a]!.y - places[b]!.y);
    for (let a = 0; a < 6; a += 1) for (let b = 0; b < a; b += 1) expect(apart(a, b)).toBeLessThanOrEqual(apart(0, 1));
  });
  it('finds no denser rows and columns than a plain count allows', () => {
    const grid = layGrid(
      pocket,
      { x: 0, y: 0 },
      hold({
        extent: { kind: 'board', width: 400, height: 300 },
        notches: 'none',
        slotNumbers: false,
        turned: 'along',
      }),
      testMachine.bed,
    );
    // Plain count: (400 − 2 rims of 5 + wall) / (pocket + wall); in height either both mark strips stay
    // free, or one does and mark 2 takes a corner pocket's place.
    const columns = Math.floor((400 - 10 + 3) / (pocket.length + 3));
    const free = columns * Math.floor((300 - 2 * 18.7 + 3) / (pocket.width + 3));
    const full = columns * Math.floor((300 - 18.7 - 5 + 3) / (pocket.width + 3)) - 1;
    expect(grid.ok && grid.value.slots.length).toBe(Math.max(free, full));
  });
  it('says so when nothing fits', () => {
    const none = layGrid(
      { length: 700, width: 700 },
      { x: 0, y: 0 },
      hold({ extent: { kind: 'bed' } }),
      testMachine.bed,
    );
    expect(none.ok).toBe(false);
    if (!none.ok) expect(none.problem.message).toContain('does not fit');
  });
  it('keeps slot numbers and labels off the pockets', () => {
    const made = pocketBoard(cutFor, hold({ extent: { kind: 'count', count: 12 } }));
    if (!made.ok) throw new Error(made.problem.message);
    const pockets = made.value.passes.find((p) => p.name === 'pockets')!.contours.map((c) => flatten(c, 0.02));
    const labels = made.value.passes
      .filter((p) => p.name === 'labels' || p.name === 'slots')
      .flatMap((p) => p.contours);
    for (const label of labels) {
      const box = contourBox(label);
      for (const p of pockets) {
        const body = boxOf(p.filter((v) => v.y > boxOf(p).minY + 8.2));
        expect(box.minX < body.maxX && box.maxX > body.minX && box.minY < body.maxY && box.maxY > body.minY).toBe(
          false,
        );
      }
    }
    expect(contoursBox(labels).minY).toBeGreaterThan(0);
  });
});

describe('filling order', () => {
  const cells = [0, 1].flatMap((row) => [0, 1, 2].map((column) => ({ row, column })));
  const key = (order: Parameters<typeof fillCells>[1]): string =>
    fillCells(cells, order)
      .map((c) => `${c.column}${c.row}`)
      .join(' ');
  it.each([
    ['back-left', 'rows', false, '01 11 21 00 10 20'],
    ['front-left', 'rows', true, '00 10 20 21 11 01'],
    ['front-right', 'columns', false, '20 21 10 11 00 01'],
    ['back-right', 'columns', true, '21 20 10 11 01 00'],
  ] as const)('%s, %s first, serpentine %s', (corner, first, serpentine, expected) =>
    expect(key({ corner, first, serpentine })).toBe(expected),
  );
});

describe('heights', () => {
  const under = (change: Partial<Underneath>): Underneath => ({
    rests: 'in',
    boardThickness: 3,
    boardWarp: 0,
    tallThings: [],
    stand: null,
    ...change,
  });
  const head = { nozzleGap: 6, headRadius: 18, focusRange: 2 };
  it('moves the bed from the board’s top to the blank’s', () => {
    expect(reckonHeights(4, under({ boardThickness: 3 }), head, []).bedMove).toBe(1);
    expect(reckonHeights(1.5, under({ boardThickness: 3 }), head, []).bedMove).toBe(-1.5);
  });
  it('names a magnet in the head’s way and clears one beside the path', () => {
    const tall = { label: 'magnet', x: 10, y: 0, radius: 5, height: 12 };
    const near = reckonHeights(3, under({ tallThings: [tall] }), head, [{ x: 0, y: 0 }]);
    expect(near.collisions[0]!.verdict).toBe('hits');
    const far = reckonHeights(3, under({ tallThings: [{ ...tall, x: 60 }] }), head, [{ x: 0, y: 0 }]);
    expect(far.collisions[0]!.verdict).toBe('clear');
  });
  it('questions a warp beyond the focus', () =>
    expect(reckonHeights(3, under({ boardWarp: 1.5 }), head, []).warpOk).toBe(false));
});

describe('kerf gauge', () => {
  it('finds a known kerf from what would fit', () => {
    const strip = gaugeStrip(3, strokeAlphabet);
    const kerf = 0.2;
    // Cut without correction: tongue narrower by the kerf, slots wider by it; the narrowest that takes the tongue.
    const fitting = strip.slots
      .map((w, i) => ({ i, room: w + kerf - (strip.tongue - kerf) }))
      .filter((s) => s.room >= -1e-9)
      .at(-1)!;
    expect(kerfFromGauge(strip, fitting.i + 1)!.kerf).toBeCloseTo(kerf, 9);
  });
  it('knows no slot 12', () => expect(kerfFromGauge(gaugeStrip(3, strokeAlphabet), 12)).toBeNull());
});

describe('zones of a blank whose size changes', () => {
  it('follow it while they do, and stay where they were fixed by hand', () => {
    const zones = [{ width: 54, height: 21, inset: { x: 6, y: 4 } }, { width: 20, height: 10, inset: null }, { width: 5, height: 5 }]; // prettier-ignore
    expect(followedBy(zones, { length: 100, width: 3 })).toEqual([{ width: 94, height: 0.5, inset: { x: 6, y: 4 } }, zones[1], zones[2]]); // prettier-ignore
  });
});

describe('a changed blank', () => {
  const pocket = loosePocket(testBlank, sizes, { school: 'loose' });
  const basis = fixtureBasis(testBlank, sizes, pocket);
  it('leaves a board in date that still suits', () =>
    expect(outOfDate(basis, testBlank, sizes, pocket, { to: 'size' })).toEqual([]));
  it('puts it out of date with the reason', () => {
    const grown = {
      ...testBlank,
      samples: { ...testBlank.samples, length: testBlank.samples.length.map((v) => v + 0.6) },
    };
    const now = blankSizes(grown, 0.95, 0.95);
    expect(outOfDate(basis, grown, now, loosePocket(grown, now, { school: 'loose' }), { to: 'size' })[0]).toMatch(
      /pocket length should be/,
    );
    const longer: Blank = { ...testBlank, shape: { kind: 'rectangle', length: 70, width: 25, cornerRadius: 3 } };
    expect(outOfDate(basis, longer, sizes, pocket, { to: 'size' })[0]).toContain('70.00');
  });
});
