import fc from 'fast-check';
import { bedToFile, Moves, reachOf } from '../burn';
import { apply, type Vec } from '../geometry';
import { readGcode } from '../output';
import { loadedPieces, testBatch, testMachine } from '../test-batch';
import { inWay } from '../test-held';
import { EXAMPLES } from '../test-ways';
import { exactly, programOf, readAt, saved } from '../test-reckon';
import { rigid } from '../geometry';
import { bedProgram, offTravel, parkOf } from './bed-program';

const MEND = { words: 'Lay it further in.', field: 'place' };
const box = (minX: number, minY: number, maxX: number, maxY: number) => ({ minX, minY, maxX, maxY });

describe('the travel of a bed', () => {
  it('takes everything on it, to its very edges, and nothing beyond', () => {
    expect(offTravel(testMachine, box(0, 0, 900, 600), MEND)).toBeNull();
    // A file's last digit is forgiven.
    expect(offTravel(testMachine, box(-0.0005, 0, 900.0005, 600), MEND)).toBeNull();
    for (const off of [box(-0.01, 0, 1, 1), box(0, -0.01, 1, 1), box(0, 0, 900.01, 1), box(0, 0, 1, 600.01)])
      expect(offTravel(testMachine, off, MEND)).toMatchObject({ code: 'off-travel', field: 'place' });
  });

  it('is told in the numbers of the machine: which axis, which end, and how far it goes', () => {
    // 6.35 beyond the front of a bed whose zero is at its back left, y towards the operator: y 606.35 there.
    expect(offTravel(testMachine, box(10, -6.35, 700, 590), MEND)!.message).toBe(
      'The head would have to go to y 606.4 (Bench A goes from 0.0 to 600.0). Lay it further in.',
    );
    expect(offTravel(testMachine, box(-650, 10, 1550, 590), MEND)!.message).toBe(
      'The head would have to go to x −650.0 and 1550.0 (Bench A goes from 0.0 to 900.0). Lay it further in.',
    );
    const front = { ...testMachine, zeroCorner: 'front-right', yRuns: 'away' } as const;
    expect(offTravel(front, box(880, -1, 901, 20), MEND)!.message).toBe(
      'The head would have to go to x 1.0 (Bench A goes from −900.0 to 0.0), and to y −1.0 (Bench A goes from 0.0 to 600.0). Lay it further in.', // prettier-ignore
    );
  });

  it('of arcs is that of their bows: half a turn over the edge is off the bed, though both its ends are on it', () => {
    const moves = new Moves();
    moves.rapid(5, 100);
    moves.push(5, 120, 20, 0.5, -1);
    // A half circle of radius 10 about (5, 110), to the left of the way from front to back.
    expect(reachOf(moves)).toEqual({ minX: expect.closeTo(-5, 9), maxX: expect.closeTo(5, 9), minY: 100, maxY: 120 }); // prettier-ignore
    moves.clear();
    moves.rapid(5, 100);
    moves.push(5, 120, 20, 0.5, 1);
    expect(reachOf(moves).maxX).toBeCloseTo(15, 9);
  });

  const corners = ['front-left', 'front-right', 'back-left', 'back-right'] as const;
  const point = fc.record({ x: fc.integer({ min: -60, max: 460 }), y: fc.integer({ min: -60, max: 360 }), bulge: fc.constantFrom(0, 0, 0.4, -1), beam: fc.boolean() }); // prettier-ignore
  it('is kept by every file that is written, read back move by move: on any bed, beam on or off, parked', () => {
    fc.assert(
      fc.property(
        fc.array(point, { minLength: 2, maxLength: 8 }),
        fc.constantFrom(...corners),
        fc.constantFrom('away' as const, 'toward' as const),
        fc.boolean(),
        (points, zeroCorner, yRuns, arcs) => {
          const machine = { ...testMachine, bed: { width: 400, height: 300 }, zeroCorner, yRuns, dialect: { ...testMachine.dialect, arcs } }; // prettier-ignore
          const moves = new Moves();
          moves.rapid(points[0]!.x, points[0]!.y);
          for (const p of points.slice(1)) moves.push(p.x, p.y, 100, p.beam ? 0.4 : 0, p.bulge);
          const made = bedProgram(testBatch({ machine }), moves, { title: 't', notes: [], mend: MEND });
          const travel = [apply(bedToFile(machine), { x: 0, y: 0 }), apply(bedToFile(machine), { x: 400, y: 300 })];
          const within = (p: Vec): boolean =>
            p.x >= Math.min(...travel.map((t) => t.x)) - 0.01 &&
            p.x <= Math.max(...travel.map((t) => t.x)) + 0.01 &&
            p.y >= Math.min(...travel.map((t) => t.y)) - 0.01 &&
            p.y <= Math.max(...travel.map((t) => t.y)) + 0.01;
          // Each arc walked in forty steps, by its own circle: from chord and bulge to a turned half-chord.
          const passed = points.flatMap((p, i) => {
            const to = apply(bedToFile(machine), p);
            if (i === 0 || p.bulge === 0) return [to];
            const sweep = 4 * Math.atan(p.bulge);
            const a = points[i - 1]!;
            const r = Math.hypot(p.x - a.x, p.y - a.y) / 2 / Math.sin(sweep / 2);
            const lean = Math.atan2(p.y - a.y, p.x - a.x) - sweep / 2;
            return Array.from({ length: 40 }, (_, k) => {
              const turn = (sweep * (k + 1)) / 40;
              return apply(bedToFile(machine), { x: a.x + r * (Math.sin(lean + turn) - Math.sin(lean)), y: a.y - r * (Math.cos(lean + turn) - Math.cos(lean)) }); // prettier-ignore
            });
          });
          if (!made.ok) return expect(made.problem.code).toBe('off-travel');
          expect(passed.every(within)).toBe(true);
          const read = readGcode([...made.value].join(''), 1000);
          if (!read.ok) throw new Error(read.problem.message);
          const { x, y, count } = read.value.moves;
          for (let i = 0; i < count; i += 1) expect(within({ x: x[i]!, y: y[i]! })).toBe(true);
          expect({ x: x[count - 1], y: y[count - 1] }).toEqual({ x: parkOf({ machine } as never).x, y: parkOf({ machine } as never).y }); // prettier-ignore
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('files that would leave the bed', () => {
  const refused = (make: () => string): string => {
    try {
      return make();
    } catch (error) {
      return (error as Error).message;
    }
  };

  it('are refused for a load laid too near the edge: its fill runs up beside its letters', () => {
    const at = (speed: number, x: number): string => {
      const recipe = { ...EXAMPLES.fence.recipe!, engrave: { ...EXAMPLES.fence.recipe!.engrave, speed } };
      const board = saved(exactly({ ...EXAMPLES.fence, recipe }));
      return refused(() => programOf({ ...readAt(board, rigid(0, x, 100)), pieces: loadedPieces([1]) }));
    };
    const least = Math.min(...[...at(400, 0).matchAll(/^[^(;\n]*X(-?[\d.]+)/gm)].map((m) => Number(m[1])).filter((x) => x > 0)); // prettier-ignore
    // v² / 2a: 400² / 10 000 = 16 mm of run-up before the first letter, 600² / 10 000 = 36.
    const wanted = least - 20;
    expect(wanted).toBeLessThan(0);
    expect(at(600, 0)).toBe(
      `The head would have to go to x −${(-wanted).toFixed(1)} (Bench A goes from 0.0 to 900.0). Lay the work further in; filled lines need room to run up at their ends, slower ones less.`,
    );
    expect(at(600, Math.ceil(-wanted))).toMatch(/^\(Boat tags\)/);
  });

  it('are refused for a board wider than the bed', () => {
    // Two pockets of 1 m in a row: 2 m of board on 900.
    const wide = exactly(inWay({ ...EXAMPLES.pockets, quantity: 1, blank: { ...EXAMPLES.pockets.blank, holes: [], shape: { kind: 'rectangle', length: 880, width: 60, cornerRadius: 0 } } }, 'pockets', { extent: { kind: 'count', count: 1 } })); // prettier-ignore
    expect(refused(() => programOf(wide, 'board'))).toMatch(/^The head would have to go to x −|does not fit/);
  });
});
