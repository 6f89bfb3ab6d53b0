import fc from 'fast-check';
import { batchDrawing, batchProgram } from '../batch';
import { bedToFile, Moves } from '../burn';
import { apply, invert, rigid, type Vec } from '../geometry';
import { readGcode } from '../output';
import { loadedPieces, testMachine } from '../test-batch';
import { exactly, programOf, readAt, reckon, saved } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import { hitOnTheWay, inTheWay, obstaclesOf, type BatchInput, type Obstacle } from '.';

const thing = (x: number, y: number, room = -3, radius = 2): Obstacle => ({ label: 'magnet', x, y, radius, room });
const going = (...to: readonly [number, number][]): Moves => {
  const moves = new Moves();
  for (const [x, y] of to) moves.push(x, y, 20, 0);
  return moves;
};
const ZERO: Vec = { x: 0, y: 0 };

describe('what stands in the head’s way', () => {
  // From 0, 0 to 100, 0, on to 100, 80, and back along the diagonal. The head reaches 10 mm, the magnet 2.
  const moves = going([100, 0], [100, 80]);
  it.each([
    ['on its way there', 50, 11.9, true],
    ['beside it', 50, -12.1, false],
    ['on its way along', 111.9, 40, true],
    ['on its way back', 50, 52, true],
    ['inside of its round', 72, 30, false],
    ['where it rests', -11.9, 0, true],
  ])('%s: %d, %d', (_, x, y, hit) => {
    expect(hitOnTheWay(moves, ZERO, [thing(x, y)], 10) !== null).toBe(hit);
  });

  it('is told in the machine’s own numbers, with the air that is left', () => {
    const toward = { ...testMachine, zeroCorner: 'back-left', yRuns: 'toward', bed: { width: 300, height: 200 }, headRadius: 10 } as const; // prettier-ignore
    expect(inTheWay(toward, moves, ZERO, [thing(300, 0), thing(100, 40, 0.4)])).toEqual({
      code: 'collision',
      message: 'magnet stands in the head’s way from x 100, y 200 to x 100, y 120: only 0.4 mm of air; 1 mm is the least. Put it elsewhere, or something lower.', // prettier-ignore
      field: 'hold',
    });
    expect(inTheWay(toward, moves, ZERO, [thing(100, 40)])!.message).toContain('it would be hit');
    expect(inTheWay(toward, moves, ZERO, [])).toBeNull();
  });

  it('is found as by going all of the way in steps of a tenth, arcs and all', () => {
    const at = fc.record({ x: fc.integer({ min: -20, max: 120 }), y: fc.integer({ min: -20, max: 120 }) });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(at, fc.constantFrom(0, 0, 0.4, -1)), { minLength: 1, maxLength: 6 }),
        at,
        (ways, o) => {
          const moves = new Moves();
          for (const [{ x, y }, bulge] of ways) moves.push(x, y, 20, 0, bulge);
          let nearest = Infinity;
          let from: Vec = ZERO;
          for (const [to, bulge] of [...ways, [ZERO, 0] as const]) {
            // An arc by its own circle: chord c, radius c (1 + b²) / 4b, its middle off the chord by c (1 − b²) / 4b.
            const [dx, dy] = [to.x - from.x, to.y - from.y];
            const off = bulge === 0 ? 0 : (1 - bulge * bulge) / (4 * bulge);
            const m = { x: (from.x + to.x) / 2 - dy * off, y: (from.y + to.y) / 2 + dx * off };
            const [r, begin, sweep] = [Math.hypot(from.x - m.x, from.y - m.y), Math.atan2(from.y - m.y, from.x - m.x), 4 * Math.atan(bulge)]; // prettier-ignore
            for (let k = 0; k <= 4000; k += 1) {
              const t = k / 4000;
              const p = bulge === 0 ? { x: from.x + dx * t, y: from.y + dy * t } : { x: m.x + r * Math.cos(begin + sweep * t), y: m.y + r * Math.sin(begin + sweep * t) }; // prettier-ignore
              nearest = Math.min(nearest, Math.hypot(p.x - o.x, p.y - o.y));
            }
            from = to;
          }
          // Arcs are walked within a twentieth.
          fc.pre(Math.abs(nearest - 12) > 0.1);
          expect(hitOnTheWay(moves, ZERO, [thing(o.x, o.y)], 10) !== null).toBe(nearest < 12);
        },
      ),
    );
  });
});

describe('a load’s files', () => {
  const lies = rigid(0.03, 120, 90);
  const ready = (tallThings: readonly object[]): BatchInput => {
    const from = { ...EXAMPLES.pockets, setup: { ...EXAMPLES.pockets.setup, beside: { ...EXAMPLES.pockets.setup.beside, tallThings: tallThings as never } } }; // prettier-ignore
    return { ...readAt(saved(exactly(from)), lies), pieces: loadedPieces([1]) };
  };
  const made = (input: BatchInput, file: 'load' | 'walk' | 'drawing'): string => {
    const written = file === 'drawing' ? batchDrawing(input, reckon(input), 'load') : batchProgram(input, reckon(input), file); // prettier-ignore
    return written.ok ? 'out' : written.problem.message;
  };
  const tall = (p: Vec, height = 60) => ({ label: 'magnet', x: p.x, y: p.y, radius: 4, height });
  const onBoard = (p: Vec): Vec => apply(invert(lies), p);

  it('are held back where only the way there or the run-up meets something, and let out where it is low or aside', () => {
    const read = readGcode(programOf(ready([])), 1000);
    if (!read.ok) throw new Error(read.problem.message);
    const { x, y: ys, power, count } = read.value.moves;
    const toBed = invert(bedToFile(testMachine));
    const gone = Array.from({ length: count }, (_, i) => ({ ...apply(toBed, { x: x[i]!, y: ys[i]! }), on: power[i]! > 0 })); // prettier-ignore
    // As the file says: the first place it goes to from the zero corner, and the farthest end of a run-up.
    const first = gone[0]!;
    const rests = apply(toBed, ZERO);
    const halfway = { x: (first.x + rests.x) / 2, y: (first.y + rests.y) / 2 };
    const burned = gone.flatMap((g, i) => (g.on ? [g.x, gone[i - 1]!.x] : []));
    const end = gone.slice(0, -1).reduce((a, b) => (b.x < a.x ? b : a));
    // 400 mm/s at 5000 mm/s² runs up 400² / (2 × 5000) = 16 mm.
    expect(Math.min(...burned) - end.x).toBeCloseTo(16, 0);
    expect(made(ready([tall(onBoard(halfway))]), 'load')).toMatch(
      /^magnet stands in the head’s way from x 0, y 0 to x /,
    );
    expect(made(ready([tall(onBoard(halfway))]), 'walk')).toMatch(
      /^magnet stands in the head’s way from x 0, y 0 to x /,
    );
    expect(made(ready([tall(onBoard(halfway), 2)]), 'load')).toBe('out');
    const reach = testMachine.headRadius + 4;
    const aside = { x: halfway.x + (rests.y > first.y ? -1 : 1) * 3 * reach, y: halfway.y };
    expect([made(ready([tall(onBoard(aside))]), 'load'), made(ready([tall(onBoard(aside))]), 'walk')]).toEqual(['out', 'out']); // prettier-ignore
    // At the end of the run-up, which no art comes near to.
    const beyond = onBoard({ x: end.x - reach + 1, y: end.y });
    expect(made(ready([tall(beyond)]), 'load')).toContain('magnet stands in the head’s way');
    expect(made(ready([tall(onBoard({ x: end.x - reach - 1, y: end.y }))]), 'load')).toBe('out');

    // A drawing has no moves: whoever burns it goes the same way, so it is held back alike, and by nothing else.
    const told = (input: BatchInput): string[] => [made(input, 'drawing'), made(input, 'load')];
    for (const at of [onBoard(halfway), beyond]) {
      const [drawing, load] = told(ready([tall(at)]));
      expect(drawing).toBe(load);
      expect(drawing).toContain('magnet stands in the head’s way');
    }
    for (const b of [ready([tall(onBoard(halfway), 2)]), ready([tall(onBoard(aside))])]) expect(told(b)).toEqual(['out', 'out']); // prettier-ignore
  });

  it('counts what stands beside long and fed work too, wherever it lies now', () => {
    for (const id of ['long', 'feed'] as const) {
      const b = EXAMPLES[id];
      const input = { ...b, setup: { ...b.setup, beside: { ...b.setup.beside, tallThings: [{ ...tall({ x: 50, y: 20 }) }] } } }; // prettier-ignore
      const r = reckon(input);
      expect([id, obstaclesOf(r)]).toEqual([id, [{ label: 'magnet', radius: 4, room: expect.any(Number), ...apply(r.boardToBed, { x: 50, y: 20 }) }]]); // prettier-ignore
    }
  });
});
