import fc from 'fast-check';
import { batchDrawing, batchProgram } from '../batch';
import { seeded } from '../budget';
import { apply, contoursBox, flatten, invert, rigid, type Vec } from '../geometry';
import { readGcode } from '../output';
import { loadedPieces, testMachine } from '../test-batch';
import { exactly, programOf, readAt, reckon, saved } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import { axesOf, bedToFile, countedToFile, shownToTrue, squareFor, type BurnedSquare } from '.';

/** Where a machine really goes, by its own two directions: x along the rail, y leaning to the right by λ. */
const goes = (x: number, y: number, lean: number) => ({ x: u, y: v }: Vec): Vec => ({ x: u * x + v * y * Math.sin(lean), y: v * y * Math.cos(lean) }); // prettier-ignore
const between = (a: Vec, b: Vec): number => Math.hypot(a.x - b.x, a.y - b.y);
const square = (
  side: number,
  x: number,
  y: number,
  lean: number,
  read: (mm: number) => number = (mm) => mm,
): BurnedSquare => {
  // prettier-ignore
  const at = goes(x, y, lean);
  const [a, b, c, d] = [at({ x: 0, y: 0 }), at({ x: side, y: 0 }), at({ x: side, y: side }), at({ x: 0, y: side })];
  return { side, along: read(between(a, b)), across: read(between(a, d)), rising: read(between(a, c)), falling: read(between(d, b)), rule: 0.25, measuredAt: '2026-11-20T08:00:00Z' }; // prettier-ignore
};
const small = (most: number) => fc.double({ min: -most, max: most, noNaN: true });

describe('a machine’s axes by a square that it burned', () => {
  it('are what they are, whichever way they are off', () => {
    fc.assert(
      fc.property(fc.constantFrom(100, 380, 560), small(0.015), small(0.015), small(0.015), (side, x, y, lean) => {
        const { axes, measured, problem } = axesOf(square(side, 1 + x, 1 + y, lean));
        expect([measured, problem]).toEqual([true, null]);
        expect([axes.x, axes.y, axes.lean]).toEqual([expect.closeTo(1 + x, 9), expect.closeTo(1 + y, 9), expect.closeTo(lean, 9)]); // prettier-ignore
      }),
    );
  });
  it('by hand: 500 told, 500.5 × 499.5 and 707.5 and 706.7 from corner to corner', () => {
    const { axes, working } = axesOf({ side: 500, along: 500.5, across: 499.5, rising: 707.5, falling: 706.7, rule: 0.25, measuredAt: '2026-11-20' }); // prettier-ignore
    // (707.5² − 706.7²) / (4 · 500.5 · 499.5) = 1131.36 / 999,999 = 0.0011314: 0.0648°.
    expect([axes.x, axes.y, (axes.lean * 180) / Math.PI]).toEqual([expect.closeTo(1.001, 9), expect.closeTo(0.999, 9), expect.closeTo(0.0648, 4)]); // prettier-ignore
    expect(working.map((w) => w.result)).toEqual(['1.00100', '0.99900', '0.065°, 1.13 mm a metre']);
  });
  it('are known as well as the rule is read: ± of it over the side, as reading a thousand squares shows', () => {
    const r = seeded(3);
    const [scales, leans] = [[] as number[], [] as number[]];
    for (let i = 0; i < 4_000; i += 1) {
      const { axes, off } = axesOf(square(500, 1.0006, 0.9993, 0.0008, (mm) => mm + 0.25 * (2 * r.uniform() - 1)));
      expect(off).toEqual({ scale: 0.0005, lean: 0.0005 });
      scales.push(axes.x - 1.0006);
      leans.push(axes.lean - 0.0008);
    }
    const spread = (v: number[]): number => Math.sqrt(v.reduce((s, e) => s + e * e, 0) / v.length);
    // A uniform ± a is a / √3.
    expect(spread(scales) / (0.0005 / Math.sqrt(3))).toBeCloseTo(1, 1);
    expect(spread(leans) / (0.0005 / Math.sqrt(3))).toBeCloseTo(1, 1);
  });
  it('that cannot be are said, and nothing is used of them', () => {
    const told = (change: Partial<BurnedSquare>) => axesOf({ ...square(500, 1, 1, 0), ...change });
    expect(told({ along: 520 }).problem).toContain('was not burned by this machine as it stands');
    expect(told({ rising: 709.5 }).problem).toBe('Sides and diagonals contradict each other by 1.2 mm: measure them again.'); // prettier-ignore
    // One diagonal longer and the other shorter is a lean, not a contradiction.
    expect(told({ rising: 708, falling: 706.2 }).problem).toBeNull();
    expect(told({ along: 520 })).toMatchObject({ axes: { x: 1, y: 1, lean: 0 }, measured: false, off: { scale: 0.001 } }); // prettier-ignore
    expect(axesOf(null)).toMatchObject({ measured: false, problem: null, off: { scale: 0.001, lean: 0.001 } });
  });
  it('burns as large as the bed takes', () =>
    expect([squareFor({ width: 900, height: 600 }), squareFor({ width: 150, height: 155 }), squareFor({ width: 20, height: 20 })]).toEqual([580, 130, 10])); // prettier-ignore
});

const own = { x: 1.0012, y: 0.9985, lean: 0.0017 };
const crooked = { ...testMachine, square: square(580, own.x, own.y, own.lean) };
/** Where that machine burns when a file says so. */
const burnsAt = (shown: Vec): Vec => apply(shownToTrue(own, apply(invert(countedToFile(testMachine)), { x: 0, y: 0 })), apply(invert(countedToFile(testMachine)), shown)); // prettier-ignore

describe('a machine that is not square', () => {
  it('is asked for places as it counts them, and believed as it is; both agree at its zero', () => {
    for (const zeroCorner of ['front-left', 'back-right'] as const)
      for (const yRuns of ['away', 'toward'] as const) {
        const machine = { ...crooked, zeroCorner, yRuns };
        const [zero, plain] = [apply(invert(bedToFile(machine)), { x: 0, y: 0 }), apply(invert(countedToFile(machine)), { x: 0, y: 0 })]; // prettier-ignore
        expect([zero.x, zero.y]).toEqual([expect.closeTo(plain.x, 9), expect.closeTo(plain.y, 9)]);
        // 100 mm by the file are 100.12 to the right.
        const right = apply(invert(bedToFile(machine)), { x: 100, y: 0 });
        expect(right.x - zero.x).toBeCloseTo(100.12, 9);
      }
  });

  // A round hole and lettering, somewhere on the bed, turned.
  const lies = rigid(0.03, 120, 90);
  const batch = { ...readAt({ ...saved(exactly({ ...EXAMPLES.pockets, machine: crooked })) }, rigid(0, 0, 0)), pieces: loadedPieces([1]) }; // prettier-ignore
  const board = reckon(batch).board!;
  // The marks as that machine shows them when its beam stands over each: read on the board as it really lies.
  const shownFor = (p: Vec): Vec => {
    let at = apply(countedToFile(testMachine), p);
    for (let i = 0; i < 20; i += 1) at = { x: at.x + (p.x - burnsAt(at).x), y: at.y + (p.y - burnsAt(at).y) * (testMachine.yRuns === 'away' ? 1 : -1) }; // prettier-ignore
    return at;
  };
  const read = { ...batch, readings: board.marks.map((m, i) => ({ id: String(i), mark: m.id, ...shownFor(apply(lies, m.at)), source: 'typed' as const, at: '2026-11-20T08:00:00.000Z', by: 'Odile', purpose: 'place' as const })) }; // prettier-ignore

  it('finds a board where it lies, and burns on it true to size', () => {
    const r = reckon(read);
    for (const [key, value] of Object.entries(lies)) expect(r.boardToBed[key as 'a']).toBeCloseTo(value, 6);
    const program = readGcode(programOf(read), 1000);
    if (!program.ok) throw new Error(program.problem.message);
    const { moves } = program.value;
    const burned: Vec[] = [];
    for (let i = 1; i < moves.count; i += 1) if (moves.power[i]! > 0) for (const k of [i - 1, i]) burned.push(apply(invert(lies), burnsAt({ x: moves.x[k]!, y: moves.y[k]! }))); // prettier-ignore
    // Where the piece's art is meant, on the board.
    const drawing = batchDrawing({ ...read, machine: testMachine }, { ...r }, 'load');
    if (!drawing.ok) throw new Error(drawing.problem.message);
    const meant = contoursBox(drawing.value.passes.flatMap((p) => p.contours).map((c) => ({ closed: true, vertices: flatten(c).map((p) => apply(invert(lies), p)) }))); // prettier-ignore
    const xs = burned.map((p) => p.x);
    // Across the lines it ends within half a line of them.
    expect([Math.min(...xs), Math.max(...xs)]).toEqual([expect.closeTo(meant.minX, 1), expect.closeTo(meant.maxX, 1)]);
    expect(Math.abs(Math.max(...xs) - meant.maxX)).toBeLessThan(0.02);
  });

  it('is told of no arcs: its circles would be none', () => {
    const cut = batchProgram(read, reckon(read), 'board');
    if (!cut.ok) throw new Error(cut.problem.message);
    const text = [...cut.value].join('');
    expect(text).not.toMatch(/^G[23](?!\d)/m);
    const plain = batchProgram({ ...read, machine: testMachine }, reckon({ ...read, machine: testMachine }), 'board');
    expect(plain.ok && [...plain.value].join('')).toMatch(/^G[23](?!\d)/m);
  });

  it('gets drawings as it counts too', () => {
    const made = (machine: typeof crooked) => {
      const r = reckon(read);
      const d = batchDrawing({ ...read, machine }, r, 'load');
      return contoursBox(d.ok ? d.value.passes.flatMap((p) => p.contours) : []);
    };
    const [counted, plain] = [made(crooked), made(testMachine as typeof crooked)];
    const there = burnsAt(apply(countedToFile(testMachine), { x: counted.minX, y: counted.minY }));
    // What is burned at the drawing's corner is where the corner was meant, but for the lean across its own height.
    expect(Math.abs(there.x - plain.minX)).toBeLessThan(0.0017 * 20);
    expect(Math.abs(counted.minX - plain.minX)).toBeGreaterThan(0.1);
  });

  it('burns the square itself as it counts, so that it is seen as it is', () => {
    const program = readGcode(programOf({ ...read, stockRecipe: read.recipe }, 'square'), 1000);
    if (!program.ok) throw new Error(program.problem.message);
    const { moves } = program.value;
    const at = Array.from({ length: moves.count }, (_, i) => ({ x: moves.x[i]!, y: moves.y[i]!, on: moves.power[i]! > 0 })).filter((p) => p.on); // prettier-ignore
    const xs = at.map((p) => p.x);
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(580, 6);
    const corner = (sx: number, sy: number) => burnsAt(at.reduce((a, b) => (sx * b.x + sy * b.y > sx * a.x + sy * a.y ? b : a))); // prettier-ignore
    // What a rule then says of it gives the axes back.
    const [a, b, c, d] = [corner(-1, 1), corner(1, 1), corner(1, -1), corner(-1, -1)];
    const [front, back] = a.y < d.y ? [[a, b], [d, c]] : [[d, c], [a, b]]; // prettier-ignore
    const again = axesOf({ side: 580, along: between(front[0]!, front[1]!), across: between(front[0]!, back[0]!), rising: between(front[0]!, back[1]!), falling: between(back[0]!, front[1]!), rule: 0.25, measuredAt: '2026-11-20' }); // prettier-ignore
    expect(again.axes.x).toBeCloseTo(own.x, 5);
    expect(again.axes.y).toBeCloseTo(own.y, 5);
    expect(again.axes.lean).toBeCloseTo(own.lean, 5);
  });
});
