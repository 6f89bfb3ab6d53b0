import { inWay } from '../test-held';
import { readAt } from '../test-reckon';
import { seeded, worstCorner } from '../budget';
import {
  circle,
  flatten,
  offsetContours,
  polyline,
  roundedRectangle,
  transformContour,
  translation,
  type Contour,
  rigid,
} from '../geometry';
import { tracedOutline, tracedPieces } from '../holding';
import type { TracedShape, TracedSheet } from '../trace';
import { batchDrawing, loadGcode, reckonBatch } from '../batch';
import { placedPieces } from '../setup';
import { testAlphabets } from '../test-alphabets';
import { loadedPieces, testBatch, testMachine } from '../test-batch';
import { aimAtAll } from '../test-hand';
import { home, layBoard, printSheet } from './machine';
import { leastMargin, runFile, partOfSheet } from './run';

const now = new Date('2026-11-20T00:00:00Z');
const options = { now, alphabets: testAlphabets, labels: 'readability', simulatedPieces: 600 };
const INSET = 0.6;

const piece = (outline: Contour, at: { x: number; y: number }, holes: Contour[] = []): TracedShape => {
  const put = translation(at.x, at.y);
  return {
    outline: transformContour(put, outline),
    holes: holes.map((h) => transformContour(put, h)),
    role: 'piece',
    look: null,
    at,
  };
};
const mark = (x: number, y: number): TracedShape => ({
  outline: circle({ x, y }, 5),
  holes: [],
  role: 'mark',
  look: { kind: 'cross-circle', size: 10 },
  at: { x, y },
});
const ell = polyline(
  [
    { x: -20, y: -12 },
    { x: 20, y: -12 },
    { x: 20, y: 0 },
    { x: -5, y: 0 },
    { x: -5, y: 12 },
    { x: -20, y: 12 },
  ],
  true,
);
const traced: TracedSheet = {
  name: 'badges.png',
  width: 297,
  height: 210,
  dot: 0.127,
  shapes: [
    mark(14, 196),
    mark(283, 196),
    piece(circle({ x: 0, y: 0 }, 18), { x: 60, y: 150 }, [circle({ x: 0, y: 0 }, 4)]),
    piece(ell, { x: 150, y: 150 }),
    piece(roundedRectangle({ x: 0, y: 0 }, 50, 24, 4), { x: 235, y: 60 }),
    { ...piece(circle({ x: 0, y: 0 }, 9), { x: 60, y: 60 }), role: 'left out' },
    mark(14, 14),
    mark(283, 14),
  ],
  uncertainty: 0.04,
  edge: 0.15,
};
const plain = testBatch();
const base = inWay(
  testBatch({
    quantity: 3,
    spares: 0,
    roster: [],
    blank: { ...plain.blank, samples: { length: [], width: [], thickness: [] } },
    pieces: loadedPieces([1, 2, 3]),
  }),
  'sheet',
  { inset: INSET, traced, inner: true },
);

describe('a sheet found in a picture', () => {
  const r = reckonBatch(base, options);

  it('becomes a board whose places are its pieces; what is left out is neither cut nor aimed at', () => {
    expect(r.board!.slots.map((s) => s.centre)).toEqual([
      { x: 60, y: 150 },
      { x: 150, y: 150 },
      { x: 235, y: 60 },
    ]);
    // The two marks farthest apart come first.
    const [first, second] = r.board!.marks;
    expect(r.board!.marks.map((m) => m.id)).toEqual([1, 2, 3, 4]);
    expect(Math.hypot(first!.at.x - second!.at.x, first!.at.y - second!.at.y)).toBeCloseTo(Math.hypot(269, 182), 6);
    expect(r.budget.sources.some((s) => s.id === 'outline')).toBe(true);
  });

  it('is cut along each piece’s own outline, inwards by the inset and outwards by half the kerf, holes the other way', () => {
    const laid = readAt(base, rigid(0, 100, 100));
    const made = batchDrawing(laid, reckonBatch(laid, options), 'load');
    const [cut] = made.ok ? made.value.passes : [];
    const by = testMachine.kerf / 2 - INSET;
    const [disc] = tracedPieces(traced);
    const radii = r.board!.cuts![0]!.map((c) => Math.hypot(flatten(c)[0]!.x, flatten(c)[0]!.y)).sort((a, b) => a - b);
    expect(radii[0]).toBeCloseTo(4 - by, 2);
    expect(radii[1]).toBeCloseTo(18 + by, 2);
    expect(cut!.contours).toHaveLength(4);
    expect(offsetContours([disc!.outline], by)).toHaveLength(1);
  });

  it('lands within the prediction and keeps its margin, printer, pose and pointer hidden, 60 sheets', () => {
    let inside = 0;
    let pieces = 0;
    let margins = 0;
    for (let seed = 1; seed <= 60; seed += 1) {
      const hand = seeded(seed + 400);
      const laid = home(printSheet(layBoard(seed * 11, testMachine, r.board!)), testMachine);
      const { input, state } = aimAtAll(base, r.board!, laid, hand, now);
      const placed = reckonBatch(input, options);
      if (placed.place.consistency!.verdict === 'disagrees') continue;
      const file = loadGcode(input, placed, 'badges');
      if (!file.ok) throw new Error(file.problem.message);
      const setup = {
        sizes: placed.sizes,
        pocket: placed.pocket,
        seating: partOfSheet(placed.sizes),
        load: 1,
        interval: 0.1,
      };
      const meant = placedPieces(placed, placed.onTheBoard);
      const run = runFile([...file.value].join(''), state.hidden, testMachine, setup, meant);
      if (!run.ok) throw new Error(run.problem.message);
      expect(run.value.stray).toBe(0);
      run.value.pieces.forEach((p, i) => {
        pieces += 1;
        if (worstCorner(placed.artBox, p.dx!, p.dy!, p.yaw!) <= placed.budget.predicted) inside += 1;
        const edge = flatten(tracedOutline(tracedPieces(traced)[i]!)[0]!, 0.02);
        if (leastMargin(p.strokes, edge) > 0) margins += 1;
      });
    }
    expect(pieces).toBeGreaterThan(150);
    // The outlines are taken as true here, so that the doubt about them, which the budget carries, is not met.
    expect(inside / pieces).toBeGreaterThan(0.95);
    // An inset larger than the error at 95 % leaves no paper on at least so many.
    expect(INSET).toBeGreaterThan(r.budget.predicted - 0.35);
    expect(margins / pieces).toBeGreaterThan(0.95);
  });

  it('says what cannot be cut: nothing left of a piece, marks that are too few, a sheet beyond the bed', () => {
    const code = (part: Partial<TracedSheet>, inset = INSET): string => {
      const changed = inWay(base, 'sheet', { inset, traced: { ...traced, ...part } });
      return reckonBatch(changed, options).boardProblem!.code;
    };
    expect(code({}, 19)).toBe('nothing-left');
    expect(code({ shapes: traced.shapes.filter((s) => s.role !== 'mark') })).toBe('too-few-marks');
    expect(code({ shapes: traced.shapes.filter((s) => s.role !== 'piece') })).toBe('no-pieces');
    expect(code({ width: 2970, height: 2100 })).toBe('board-too-large');
  });
});
