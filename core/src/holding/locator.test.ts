import { strokeAlphabet } from '../test-alphabets';
import { freshBoard } from './settings';
import { freshLocator as chosen, reckonLocator } from './locator';

const freshLocator = { ...chosen, back: [] as readonly number[] };

const bed = { width: 400, height: 400 };
const piece = { length: 86, width: 54 };
const make = (change: Partial<typeof freshLocator> = {}) =>
  reckonLocator({ ...freshLocator, ...change }, bed, piece, 6, freshBoard('L').order, strokeAlphabet);
const made = (change: Partial<typeof freshLocator> = {}) => {
  const result = make(change);
  if (!result.ok) throw new Error(result.problem.message);
  return result.value;
};

describe('a locator board', () => {
  it('is larger than the footprint by its margin each way', () => {
    const { board } = made();
    expect(board.maxX - board.minX).toBe(560 + 50);
    expect(board.maxY - board.minY).toBe(560 + 50);
  });

  it('bears on three blocks, each against a foot and none under one', () => {
    const { stops, feet, board } = made();
    expect(stops).toHaveLength(3);
    for (const { block } of stops) {
      expect(block.minX).toBeGreaterThanOrEqual(board.minX);
      expect(block.minY).toBeGreaterThanOrEqual(board.minY);
      const apart = feet.map((f) => [
        Math.max(f.minX - block.maxX, block.minX - f.maxX),
        Math.max(f.minY - block.maxY, block.minY - f.maxY),
      ]);
      expect(Math.min(...apart.map(([x, y]) => Math.max(x!, y!)))).toBe(0);
    }
    // Two face one way, far apart; one the other: the turn is held by the two.
    expect(stops.filter((s) => s.face === 'front')).toHaveLength(2);
  });

  it('has its grid inside the travel, every 10 mm, and pieces at intersections that do not meet', () => {
    const { xs, ys, slots, columns, rows } = made();
    expect(xs[0]).toBe(10);
    expect(xs.at(-1)).toBe(390);
    expect(ys).toHaveLength(39);
    // Counted by hand: ⌈90/10⌉·10 = 90 from 10 on, the last ends by 400: 4; ⌈58/10⌉·10 = 60: 6.
    expect([columns, rows]).toEqual([4, 6]);
    for (const s of slots) {
      expect((s.centre.x - piece.length / 2) % 10).toBeCloseTo(0, 9);
      expect((s.centre.y - piece.width / 2) % 10).toBeCloseTo(0, 9);
      expect(s.centre.x + piece.length / 2).toBeLessThanOrEqual(400);
    }
    for (const a of slots)
      for (const b of slots)
        if (a.slot < b.slot)
          expect(
            Math.abs(a.centre.x - b.centre.x) >= piece.length + 4 ||
              Math.abs(a.centre.y - b.centre.y) >= piece.width + 4,
          ).toBe(true);
  });

  it('takes its return from repeated dots', () => {
    expect(made().stopError).toBeCloseTo(0.3 / Math.sqrt(3), 9);
    const { stopError, repeat, returns } = made({ back: [0.1, 0.2, 0.1] });
    // By trigonometry: fronts at x = −60 and 460 (20 in from 560 wide, travel 80 in), side at y = 460.
    const turn = 1 / 520;
    const left = { x: turn * (repeat.y - 460), y: 1 - turn * (repeat.x + 60) };
    const right = { x: -turn * (repeat.y - 460), y: turn * (repeat.x + 60) };
    const square = left.x ** 2 + left.y ** 2 + right.x ** 2 + right.y ** 2 + 1;
    expect(stopError).toBeCloseTo(Math.sqrt((0.01 + 0.04 + 0.01) / 3 / square), 6);
    expect(returns).toBeCloseTo(Math.sqrt((0.01 + 0.04 + 0.01) / 3 / 2), 9);
  });

  it('names what does not go together', () => {
    const problem = (change: Partial<typeof freshLocator>): string => {
      const result = make(change);
      return result.ok ? '' : result.problem.message;
    };
    expect(problem({ frame: { width: 420, depth: 560 } })).toContain('does not lie inside a footprint');
    expect(problem({ foot: { width: 300, depth: 40 } })).toContain('wider than the frame');
    expect(problem({ margin: 5 })).toContain('20 to 30 mm is usual');
    const coarse = reckonLocator(
      { ...freshLocator, pitch: 100 },
      { width: 150, height: 400 },
      piece,
      6,
      freshBoard('L').order,
      strokeAlphabet,
    );
    expect(!coarse.ok && coarse.problem.message).toContain('finer pitch');
    const large = reckonLocator(
      freshLocator,
      bed,
      { length: 399, width: 54 },
      6,
      freshBoard('L').order,
      strokeAlphabet,
    );
    expect(!large.ok && large.problem.message).toContain('does not lie inside a travel');
  });
});
