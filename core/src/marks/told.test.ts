import type { Vec } from '../geometry';
import { checkConsistency } from './consistency';
import { crossContours, markContours } from './mark-lines';
import type { MarkKind, MarkPlace } from './mark-place';
import { findMistake, LARGEST_STRETCH } from './mistakes';
import { chooseModel } from './models';
import { pointerAgeDays, pointerDoubt, type PointerOffset } from './pointer';
import { solvePlacement, type MarkPair } from './solve';
import { turnTheWork } from './turn-work';
import { markSpread } from './uncertainty';

const DEG = Math.PI / 180;
const SIGMA = 0.05;
const DRAWN: Vec[] = [{ x: 0, y: 0 }, { x: 300, y: 0 }, { x: 300, y: 200 }, { x: 0, y: 200 }, { x: 140, y: 90 }, { x: 40, y: 160 }]; // prettier-ignore
const pairs = (n: number, read: (v: Vec, i: number) => Vec = (v) => v): MarkPair[] =>
  DRAWN.slice(0, n).map((drawn, i) => ({ id: i + 1, drawn, read: read(drawn, i) }));
/** The readings of marks exchanged: mark i read where `order[i]` stands. */
const exchanged = (order: readonly number[]): MarkPair[] =>
  pairs(order.length).map((p, i) => ({ ...p, read: DRAWN[order[i]!]! }));

describe('what a person did', () => {
  it.each([
    [[1, 0, 2, 3], 'Marks 1 and 2 were read in each other’s place. Exchange the two readings, or aim at both again.'],
    [[0, 4, 2, 3, 1], 'Marks 2 and 5 were read in each other’s place. Exchange the two readings, or aim at both again.'],
    [[0, 1, 2, 5, 4, 3], 'Marks 4 and 6 were read in each other’s place. Exchange the two readings, or aim at both again.'],
    // Three in a ring: no two of them alone.
    [[1, 4, 2, 3, 0], 'Marks 1, 2 and 5 were read in another order than they are numbered. Aim at them again, in the order of their numbers.'],
  ])('reading marks in the order %j', (order, message) => expect(findMistake(exchanged(order), SIGMA)!.message).toBe(message)); // prettier-ignore

  it('reading six from the last to the first', () =>
    expect(findMistake(exchanged([5, 4, 3, 2, 1, 0]), SIGMA)).toMatchObject({
      kind: 'exchanged',
      marks: [1, 2, 3, 4, 5, 6],
    }));

  it('is nothing where a sheet stretched as far as paper does, and a mistake where it stretched farther', () => {
    const stretched = (by: number) => pairs(4, (v) => ({ x: v.x * (1 + by), y: v.y }));
    expect(findMistake(stretched(LARGEST_STRETCH - 0.001), SIGMA, ['two-scales'])).toBeNull();
    // No order of the marks explains it either: nothing is said of it here.
    expect(chooseModel(stretched(LARGEST_STRETCH + 0.001), SIGMA, ['two-scales'])!.proposed.agrees).toBe(true);
    const misread = pairs(5, (v, i) => (i === 2 ? { x: v.x + 12, y: v.y } : { x: v.x * 1.015, y: v.y }));
    expect(findMistake(misread, SIGMA, ['rigid', 'two-scales'])).toMatchObject({ kind: 'misread', mark: 3 });
  });
});

describe('whether marks agree', () => {
  it('two of them: by their distance, with what aiming explains', () => {
    // χ²(95 %, 1) = 3.841 (handbook table, from memory): σ√2 · 1.960 = 0.139 mm.
    const far = checkConsistency(
      pairs(2, (v, i) => ({ x: v.x + (i === 1 ? 0.2 : 0), y: v.y })),
      SIGMA,
    )!;
    expect(far.message).toBe('The marks are 0.20 mm too far apart; aiming explains 0.14 mm. A board does not stretch: one mark is misread. Aim at both again.'); // prettier-ignore
    expect(far.working.map((w) => [w.substituted, w.result])).toEqual([
      ['300.20 − 300.00', '0.20 mm'],
      ['0.050 × 1.414 × 1.960', '0.14 mm'],
    ]);
    expect([far.freedom, far.verdict, far.suspect]).toEqual([1, 'disagrees', null]);
    // Each is half of it off, along the line: χ² = 2 · 0.1² / 0.05².
    expect(far.chiSquare).toBeCloseTo(8, 9);
    expect(checkConsistency(pairs(2, (v, i) => ({ x: v.x - (i === 1 ? 0.2 : 0), y: v.y })), SIGMA)!.message).toMatch(/0\.20 mm too near/); // prettier-ignore
    expect(checkConsistency(pairs(2), SIGMA)).toMatchObject({ verdict: 'agrees', chance: 1 });
  });
  it('more of them: by all of their residuals', () => {
    const { working, freedom, message } = checkConsistency(pairs(4), SIGMA)!;
    expect(freedom).toBe(5);
    expect(working[0]!.substituted).toBe('σ = 0.050 mm, 5 degrees of freedom');
    // χ²(95 %, 5) = 11.07 (handbook table, from memory).
    expect(working[0]!.result).toBe('0.00, limit 11.07');
    expect(message).toBe('All marks agree with each other within the aiming error.');
  });
});

describe('turning the board by hand', () => {
  const at = (angle: number, allowed: number) => {
    const read = (v: Vec): Vec => ({ x: v.x * Math.cos(angle) - v.y * Math.sin(angle), y: v.x * Math.sin(angle) + v.y * Math.cos(angle) }); // prettier-ignore
    const solved = solvePlacement(pairs(2, read), 'rigid');
    if (!solved.ok) throw new Error('no fit');
    return turnTheWork(solved.value, pairs(2).map(({ id, drawn }) => ({ id, drawn })), 400, allowed)!; // prettier-ignore
  };
  it('says how far and which way, and how far off the farthest art is', () => {
    const { words, farError, good, working } = at(1 * DEG, 0.1);
    // The far mark stands 300·sin 1° = 5.24 mm too far away, 300·(1 − cos 1°) = 0.05 mm too near.
    expect(words).toBe('Hold the board at mark 1. Move mark 2 5.2 mm towards you. Then read both again.');
    expect(farError).toBeCloseTo(2 * Math.sin(0.5 * DEG) * 400, 9);
    expect(good).toBe(false);
    expect(working[1]!.result).toBe('6.98 mm');
    expect(at(-2 * DEG, 0.1).words).toBe('Hold the board at mark 1. Move mark 2 10.5 mm away from you and 0.2 mm to the right. Then read both again.'); // prettier-ignore
  });
  it('is done when what is left is allowed, to the last digit', () => {
    const { farError } = at(0.02 * DEG, 1);
    expect(at(0.02 * DEG, farError).good).toBe(true);
    expect(at(0.02 * DEG, farError * 0.999).good).toBe(false);
    expect(at(0.02 * DEG, 1).words).toBe('The board is square: the farthest art is off by 0.14 mm.');
  });
});

describe('a pointer’s age', () => {
  const offset: PointerOffset = { x: 1, y: 2, height: 0, second: null, measuredAt: '2026-11-01T08:00:00.000Z' };
  it('is counted in days, and past ninety it is doubted twice as much', () => {
    expect(pointerAgeDays(offset, new Date('2026-11-03T20:00:00.000Z'))).toBe(2.5);
    const doubt = (day: string) => pointerDoubt(offset, SIGMA, new Date(day));
    expect(doubt('2027-01-29T08:00:00.000Z')).toEqual({ status: 'measured', uncertainty: SIGMA });
    expect(doubt('2027-02-01T08:00:00.000Z')).toEqual({ status: 'stale', uncertainty: 2 * SIGMA });
    // ± 0.3 mm, anything inside equally likely.
    expect(pointerDoubt(null, SIGMA, new Date()).uncertainty).toBeCloseTo(0.3 / Math.sqrt(3), 12);
  });
});

describe('a mark’s lines', () => {
  const mark = (kind: MarkKind): MarkPlace => ({ id: 1, role: 'place', at: { x: 10, y: 20 }, look: { kind, size: 6 } });
  const ends = (kind: MarkKind) => markContours(mark(kind)).map((c) => c.vertices.map(({ x, y }) => [x, y]));
  it('are as long as the mark is large, a corner’s from its corner', () => {
    expect(ends('corner')).toEqual([[[10, 20], [16, 20]], [[10, 20], [10, 26]]]); // prettier-ignore
    const cross = ends('cross');
    expect(ends('cross-circle').slice(1)).toEqual(cross);
    expect(crossContours(mark('cross-circle')).map((c) => c.vertices.map(({ x, y }) => [x, y]))).toEqual(cross);
  });
  it('spread about their middle as Σr² says', () =>
    expect(markSpread([{ x: 0, y: 0 }, { x: 6, y: 0 }, { x: 0, y: 9 }])).toEqual({ marks: 3, centre: { x: 2, y: 3 }, spread: 78 })); // prettier-ignore
});
