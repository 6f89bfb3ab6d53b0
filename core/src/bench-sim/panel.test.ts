import { many, refusedByChance, within } from '../test-many';
import { inWay } from '../test-held';
import { bedToFile } from '../burn';
import { seeded, worstCorner } from '../budget';
import { apply, circle, distance, flatten, invert } from '../geometry';
import { readGcode } from '../output';
import { deepened, placedPieces, TURNED, type BatchInput, type BatchReckoning } from '../setup';
import { loadGcode, reckonBatch, benchSteps, stationStates } from '../batch';
import { testAlphabets } from '../test-alphabets';
import { testBatch, testMachine } from '../test-batch';
import { aimAtAll } from '../test-hand';
import { home, layBoard, truePose, type SimState } from './machine';
import { runFile, partOfSheet } from './run';

const SHEETS = many(1_000, 40);
const now = new Date('2026-11-20T00:00:00Z');
const options = { now, alphabets: testAlphabets, labels: 'readability', simulatedPieces: 2_000 };
const plain = testBatch();
const line = (column: string, capHeight: number): { column: string; alphabet: string; capHeight: number } => ({
  column,
  alphabet: 'b612-bold',
  capHeight,
});
const base = inWay(
  testBatch({
    quantity: 12,
    blank: { ...plain.blank, samples: { length: [], width: [], thickness: [] } },
    setup: {
      ...plain.setup,
      lettering: { ...plain.setup.lettering, lines: [line('name', 5)] },
      back: { ...plain.setup.back, lines: [line('seat', 4)], deeper: 1.5 },
    },
    pieces: Array.from({ length: 12 }, (_, i) => ({
      id: String(i + 1),
      ordinal: i + 1,
      load: 1,
      slot: i + 1,
      state: 'loaded',
      cause: null,
      dx: null,
      dy: null,
      yaw: null,
    })),
  }),
  'panel',
  { marks: 3 },
);
const front = reckonBatch(base, options);
const turned: BatchInput = { ...base, ticks: [TURNED] };

const gcode = (input: BatchInput, r: BatchReckoning): string => {
  const made = loadGcode(input, r, 'panel');
  if (!made.ok) throw new Error(made.problem.message);
  return [...made.value].join('');
};

/** Places where the beam was on, bed frame. */
const burned = (text: string): { x: number; y: number }[] => {
  const program = readGcode(text, 1000);
  if (!program.ok) throw new Error(program.problem.message);
  const { moves } = program.value;
  const toBed = invert(bedToFile(testMachine));
  return Array.from({ length: moves.count }, (_, i) => i)
    .filter((i) => moves.power[i]! > 0)
    .map((i) => apply(toBed, { x: moves.x[i]!, y: moves.y[i]! }));
};

/** What is meant for each piece by the second file: art, holes and outline. */
const meant = (r: BatchReckoning): ReturnType<typeof placedPieces> =>
  placedPieces(r, r.onTheBoard).map((p) => ({
    ...p,
    shapes: {
      ...p.shapes,
      drawn: r.own.cutOut!.lines.map((c) => {
        const points = flatten(c, 0.01);
        return [...points, points[0]!];
      }),
    },
  }));

/** The turned sheet, lying anywhere, aimed at. */
const aimed = (seed: number): { input: BatchInput; r: BatchReckoning; state: SimState } => {
  const board = reckonBatch(turned, options).board!;
  const laid = home(layBoard(seed, testMachine, board), testMachine);
  const { input, state } = aimAtAll(turned, board, laid, seeded(seed + 3), now);
  return { input, state, r: reckonBatch(input, options) };
};

describe('a sheet engraved on both faces', () => {
  it('cuts its marks with side one, and nothing but its pieces with side two, from the other face', () => {
    const first = gcode(base, front);
    expect(first).toContain('side one');
    const toSheet = invert(front.boardToBed);
    const slow = `F${base.recipe!.cut.speed * 60}`;
    expect(first.split('\n').filter((l) => l.includes(slow)).length).toBeGreaterThan(0);
    for (const mark of front.board!.marks)
      expect(burned(first).some((p) => distance(apply(toSheet, p), { x: mark.at.x + 6.35, y: mark.at.y }) < 0.01)).toBe(
        true,
      );
    const { input, r, state } = aimed(4);
    const second = gcode(input, r);
    // Seen from the front, where the sheet was turned like a page: x counts from the other edge.
    const fromBack = invert(truePose(state.hidden));
    const seen = burned(second)
      .map((p) => apply(fromBack, p))
      .map((p) => ({ x: front.board!.width - p.x, y: p.y }));
    for (const { slot } of front.onTheBoard) {
      const hole = circle({ x: slot.centre.x - 25.5, y: slot.centre.y }, 2);
      const at = slot.angle === 0 ? hole.vertices[0]! : null;
      if (at) expect(Math.min(...seen.map((p) => distance(p, at)))).toBeLessThan(0.6);
    }
    expect(seen.every((p) => p.x > 0 && p.x < front.board!.width)).toBe(true);
  });

  it(`lands side two on side one within the prediction, ${within(SHEETS).words}, ${SHEETS} sheets turned and laid anywhere`, () => {
    let inside = 0;
    let pieces = 0;
    let refused = 0;
    for (let seed = 1; seed <= SHEETS; seed += 1) {
      const { input, r, state } = aimed(seed * 11);
      if (r.place.consistency!.verdict === 'disagrees') {
        refused += 1;
        continue;
      }
      const few = { ...r, onTheBoard: r.onTheBoard.filter((_, i) => i % 5 === 0) };
      const run = runFile(
        gcode({ ...input, recipe: { ...input.recipe!, engrave: { ...input.recipe!.engrave, interval: 0.5 } } }, few),
        state.hidden,
        testMachine,
        { sizes: r.sizes, pocket: r.pocket, seating: partOfSheet(r.sizes), load: 1, interval: 0.1 },
        meant(few).map((p) => ({ ...p, shapes: { ...p.shapes } })),
      );
      if (!run.ok) throw new Error(run.problem.message);
      expect(run.value.stray).toBe(0);
      for (const p of run.value.pieces) {
        pieces += 1;
        if (worstCorner(r.artBox, p.dx!, p.dy!, p.yaw!) <= r.budget.predicted) inside += 1;
      }
    }
    expect(inside / pieces).toBeGreaterThanOrEqual(within(SHEETS).low);
    expect(inside / pieces).toBeLessThanOrEqual(within(SHEETS).high);
    expect(refused / SHEETS).toBeLessThan(refusedByChance(SHEETS));
  });

  it('carries its own recipe and depth on the back', () => {
    const back = reckonBatch(turned, options);
    expect(back.face.recipe!.engrave.power).toBeCloseTo(0.35 * 1.5, 9);
    // Energy is power over speed: at full power the head goes slower instead.
    const hard = deepened({ power: 0.8, speed: 300, interval: 0.1, passes: 1 }, 1.5);
    expect(hard.power).toBe(1);
    expect(hard.power / hard.speed / (0.8 / 300)).toBeCloseTo(1.5, 9);
    expect(back.face.recipe!.cut).toEqual(base.recipe!.cut);
  });

  it('does not stretch, and asks for the marks only when it is turned', () => {
    expect(front.placed).toBe(true);
    expect(front.place.pairs).toEqual([]);
    const back = reckonBatch(turned, options);
    expect(back.placed).toBe(false);
    expect(loadGcode(turned, back, 'x')).toMatchObject({ ok: false, problem: { code: 'not-placed' } });
    expect(aimed(9).r.place.placement!.model).toBe('rigid');
    expect(stationStates(base, front).find((s) => s.id === 'place')!.waits).toContain('side one');
  });

  it('leads from side one over the turn to the marks and the second file', () => {
    const ids = benchSteps(base, front).map((s) => s.id);
    const at = (id: string): number => ids.indexOf(id);
    expect(at('place.side-one')).toBeLessThan(at(TURNED));
    expect(at(TURNED)).toBeLessThan(at('place.mark-1'));
    expect(at('place.walk')).toBeLessThan(at('run.load-1'));
    // Turned like a page, the mark that was front left lies front right.
    expect(benchSteps(base, front)[at('place.mark-1')]!.detail).toContain('front right');
  });

  it('needs no marks where pieces turn in their own holes; a kerf of play is what is left', () => {
    const { setup } = inWay(base, 'panel', { carry: 'holes' });
    const blank = { ...base.blank, holes: [] };
    const one = reckonBatch({ ...base, blank, setup }, options);
    expect(one.board!.marks).toEqual([]);
    expect(one.pocket.floatX).toBeCloseTo(testMachine.kerf / 2, 9);
    expect(one.budget.sources.find((s) => s.id === 'aiming')!.u).toBe(0);
    const two = reckonBatch({ ...turned, blank, setup }, options);
    expect(two.placed).toBe(true);
    expect(two.boardToBed).toEqual(one.boardToBed);
    expect(two.board!.slots.map((s) => s.centre)).toEqual(one.board!.slots.map((s) => s.centre));
    expect(gcode({ ...turned, blank, setup }, two)).not.toContain(`F${base.recipe!.cut.speed * 60}`);
  });
});
