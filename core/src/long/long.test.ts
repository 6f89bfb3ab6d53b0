import { seeded } from '../budget';
import {
  circle,
  contourLength,
  flatten,
  polygonArea,
  polyline,
  roundedRectangle,
  segment,
  type Vec,
} from '../geometry';
import { betweenSeams, crossingsAt, measureShapes, type LongShape } from './art';
import { chainErrors, simulateChain, type Chain } from './chain';
import { findSeams, wordSpans, type SeamRules } from './seams';
import { freshLong, planLong } from './plan';

const line = (a: Vec, b: Vec): LongShape => ({ kind: 'line', contour: segment(a, b) });
const block = (x: number, y: number, w: number, h: number): LongShape => ({
  kind: 'fill',
  contour: roundedRectangle({ x: x + w / 2, y: y + h / 2 }, w, h),
});
const rules = (length: number, window: number, part: Partial<SeamRules> = {}): SeamRules => ({
  length,
  window,
  smallText: 15,
  most: Infinity,
  ...part,
});
const lineSum = (shapes: readonly LongShape[]): number => shapes.reduce((s, x) => s + contourLength(x.contour), 0);
const areaOf = (shapes: readonly LongShape[]): number =>
  shapes.reduce((s, x) => s + Math.abs(polygonArea(flatten(x.contour))), 0);

describe('cutting shapes at seams', () => {
  const r = seeded(3);
  const some = Array.from({ length: 60 }, (): LongShape => {
    const closed = r.uniform() < 0.5;
    const points = Array.from({ length: 3 + Math.floor(9 * r.uniform()) }, () => ({
      x: 900 * r.uniform(),
      y: 200 * r.uniform(),
    }));
    return { kind: r.uniform() < 0.5 ? 'line' : 'cut', contour: polyline(points, closed) };
  });

  it('loses no length and adds none: the parts are as long as the whole', () => {
    const ends = [0, 210.3, 555, 700, 900];
    for (const shape of measureShapes(some)) {
      const parts = ends.slice(1).flatMap((to, i) => betweenSeams(shape, ends[i]!, to));
      expect(lineSum(parts)).toBeCloseTo(contourLength(shape.contour), 6);
    }
  });

  it('opens closed cuts at the seam and never closes them along it', () => {
    const [ring] = measureShapes([{ kind: 'cut', contour: circle({ x: 100, y: 50 }, 30) }]);
    const left = betweenSeams(ring!, 0, 100);
    const right = betweenSeams(ring!, 100, 300);
    expect([left.length, right.length]).toEqual([1, 1]);
    for (const [part] of [left, right]) {
      expect(part!.contour.closed).toBe(false);
      const { vertices } = part!.contour;
      expect(vertices[0]!.x).toBeCloseTo(100, 6);
      expect(vertices.at(-1)!.x).toBeCloseTo(100, 6);
      // Both ends are on the ring, 60 mm apart: nothing runs between them.
      expect(Math.abs(vertices[0]!.y - vertices.at(-1)!.y)).toBeCloseTo(60, 1);
    }
    expect(lineSum([...left, ...right])).toBeCloseTo(2 * Math.PI * 30, 1);
  });

  it('leaves shapes that cross no seam as they are, arcs and all', () => {
    const [ring] = measureShapes([{ kind: 'cut', contour: circle({ x: 100, y: 50 }, 30) }]);
    expect(betweenSeams(ring!, 50, 150)[0]!.contour).toBe(ring!.contour);
  });

  it('cuts filled shapes off straight, their area kept', () => {
    const [l] = measureShapes([
      {
        kind: 'fill',
        contour: polyline(
          [
            { x: 0, y: 0 },
            { x: 80, y: 0 },
            { x: 80, y: 10 },
            { x: 12, y: 10 },
            { x: 12, y: 90 },
            { x: 0, y: 90 },
          ],
          true,
        ),
      },
    ]);
    expect(areaOf([...betweenSeams(l!, -1, 33), ...betweenSeams(l!, 33, 99)])).toBeCloseTo(80 * 10 + 12 * 80, 6);
  });

  it('keeps a filled corner of three', () => {
    const [triangle] = measureShapes([{ kind: 'fill', contour: polyline([{ x: 0, y: 0 }, { x: 10, y: 0 }, { x: 0, y: 10 }], true) }]); // prettier-ignore
    const [corner, ...others] = betweenSeams(triangle!, 6, 99);
    expect(others).toEqual([]);
    expect(corner!.contour.vertices).toHaveLength(3);
    expect(areaOf([corner!])).toBeCloseTo((4 * 4) / 2, 9);
  });

  it('overlaps by as much as it is told to', () => {
    const plan = planLong(
      [line({ x: 0, y: 50 }, { x: 1500, y: 50 })],
      { length: 1500, width: 100 },
      { width: 900, height: 600 },
      { ...freshLong, feed: 'x', overlap: 2 },
    );
    if (!plan.ok) throw new Error(plan.problem.message);
    const total = plan.value.segments.reduce((s, x) => s + lineSum(x.shapes), 0);
    expect(total).toBeCloseTo(1500 + 2 * plan.value.seams.length, 6);
  });
});

describe('finding seams', () => {
  /** The price of one place, stroke by stroke. */
  const priceOf = (shapes: readonly LongShape[], x: number): number => {
    let [cost, chord] = [0, 0];
    for (const s of shapes) {
      const points = flatten(s.contour);
      const n = s.contour.closed ? points.length : points.length - 1;
      for (let i = 0; i < n; i += 1) {
        const a = points[i]!;
        const b = points[(i + 1) % points.length]!;
        if (Math.min(a.x, b.x) > x || Math.max(a.x, b.x) <= x || a.x === b.x) continue;
        if (s.kind === 'fill') chord += (b.x > a.x ? -1 : 1) * (a.y + ((x - a.x) / (b.x - a.x)) * (b.y - a.y));
        else cost += s.kind === 'cut' ? 0.15 : 0.3;
      }
    }
    return cost + Math.abs(chord);
  };

  /** The cheapest of all chains of places, every one tried. */
  const brute = (shapes: readonly LongShape[], { length, window }: SeamRules, count: number): number => {
    const grid = Array.from({ length: Math.floor(length / 0.25) + 1 }, (_, i) => priceOf(shapes, i * 0.25));
    const soft = grid.map((_, i) => {
      const part = grid.slice(Math.max(0, i - 2), i + 3);
      return part.reduce((s, v) => s + v, 0) / part.length;
    });
    let least = Infinity;
    const go = (from: number, left: number, cost: number): void => {
      if (left === 0) {
        if (length - from * 0.25 <= window) least = Math.min(least, cost);
        return;
      }
      for (let i = from + 240; i * 0.25 <= length - 60 && (i - from) * 0.25 <= window; i += 1)
        go(i, left - 1, cost + soft[i]!);
    };
    go(0, count, 0);
    return least;
  };

  it('agrees with trying every chain of places, priced stroke by stroke', () => {
    const r = seeded(8);
    for (let k = 0; k < 6; k += 1) {
      const shapes: LongShape[] = [
        ...Array.from({ length: 40 }, () => {
          const x = 300 * r.uniform();
          return line({ x, y: 60 * r.uniform() }, { x: x + 30 * r.uniform(), y: 60 * r.uniform() });
        }),
        ...Array.from({ length: 8 }, () => block(280 * r.uniform(), 0, 20 * r.uniform(), 16 + 30 * r.uniform())),
      ];
      const rule = rules(320, 150, { smallText: 0 });
      const plan = findSeams(measureShapes(shapes), rule)!;
      expect(plan.seams).toHaveLength(2);
      // The chain found costs what the cheapest of all chains costs.
      const own = plan.seams.reduce((sum, s) => {
        const near = [-2, -1, 0, 1, 2].map((d) => priceOf(shapes, s.at + d * 0.25));
        return sum + near.reduce((a, b) => a + b, 0) / near.length;
      }, 0);
      expect(own).toBeCloseTo(brute(shapes, rule, 2), 6);
    }
  });

  it('finds the one gap, and says what it crosses where there is none', () => {
    const wall = [block(0, 0, 480, 50), block(484, 0, 516, 50)];
    const gap = findSeams(measureShapes(wall), rules(1000, 600))!;
    expect(gap.seams[0]!.at).toBeGreaterThan(480);
    expect(gap.seams[0]!.at).toBeLessThan(484);
    expect(gap.seams[0]).toMatchObject({ lines: 0, filled: 0, words: 0 });
    const full = findSeams(measureShapes([block(0, 0, 1000, 50)]), rules(1000, 600))!;
    expect(full.seams[0]!.filled).toBeCloseTo(50, 6);
  });

  it('never goes through small lettering when another segment avoids it', () => {
    // Letters 8 mm high, 1 mm apart, wherever two seams could lie; room for three beside them.
    const letters = (from: number, to: number): LongShape[] =>
      Array.from({ length: Math.floor((to - from) / 6) }, (_, i) => block(from + i * 6, 20, 5, 8));
    const shapes = measureShapes([...letters(370, 630)]);
    expect(wordSpans(shapes, 15)).toHaveLength(1);
    const plan = findSeams(shapes, rules(1000, 620))!;
    expect(plan.fewest).toBe(2);
    expect(plan.seams.every((s) => s.words === 0)).toBe(true);
    expect(plan.seams).toHaveLength(2);
    // With a front door there are two segments and no more: the word is cut, and that is said.
    const only = findSeams(shapes, rules(1000, 620, { most: 2 }))!;
    expect(only.seams[0]!.words).toBe(1);
  });

  it('keeps words whole but goes between them', () => {
    const shapes = measureShapes([block(0, 0, 5, 8), block(6, 0, 5, 8), block(40, 0, 5, 8), block(46, 0, 5, 8)]);
    expect(wordSpans(shapes, 15).map((w) => [w.from, w.to])).toEqual([
      [0, 11],
      [40, 51],
    ]);
  });
});

describe('a plan', () => {
  const bed = { width: 900, height: 600 };
  const size = { length: 2200, width: 320 };

  it('lays segments within the travel, seams between them, two marks at each far apart and off the art', () => {
    const art = [line({ x: 0, y: 10 }, { x: 2200, y: 10 }), line({ x: 0, y: 310 }, { x: 2200, y: 310 })];
    const made = planLong(art, size, bed, { ...freshLong, feed: 'y' });
    if (!made.ok) throw new Error(made.problem.message);
    const { segments, marks, seams, room } = made.value;
    expect(segments).toHaveLength(4);
    for (const s of segments) {
      expect(s.to - s.from).toBeLessThanOrEqual(570);
      for (const x of [s.from, s.to])
        for (const y of [0, 320]) {
          const p = {
            x: s.square.a * x + s.square.c * y + s.square.e,
            y: s.square.b * x + s.square.d * y + s.square.f,
          };
          expect(p.y).toBeGreaterThanOrEqual(15 - 1e-9);
          expect(p.y).toBeLessThanOrEqual(585 + 1e-9);
        }
    }
    marks.forEach(([a, b], i) => {
      expect(Math.abs(a.x - seams[i]!.at)).toBeLessThanOrEqual(8.2);
      expect(b.y - a.y).toBeCloseTo(300, 6);
    });
    // In the first segment everything else stands out in front, in the last behind.
    expect(room.back).toBeCloseTo(2200 - 600 + (600 - (segments[3]!.to - segments[3]!.from)) / 2, 6);
    expect(room.left + room.right).toBe(0);
  });

  it('turns the work round once when there is a front door only, and says when that is not enough', () => {
    const made = planLong([], { length: 1100, width: 320 }, bed, { ...freshLong, loading: 'front' });
    if (!made.ok) throw new Error(made.problem.message);
    expect(made.value.segments.map((s) => s.angle)).toEqual([-Math.PI / 2, Math.PI / 2]);
    // Each end lies at the back, the rest stands out of the door.
    expect(made.value.room.back).toBeLessThan(1e-9 + 15);
    const long = planLong([], size, bed, { ...freshLong, loading: 'front' });
    expect(long).toMatchObject({ ok: false, problem: { code: 'segments-do-not-fit' } });
  });

  it('refuses work that is too wide, with the way that fits', () => {
    const wide = planLong([], { length: 2200, width: 700 }, bed, { ...freshLong, feed: 'x' });
    expect(wide).toMatchObject({ ok: false, problem: { code: 'too-wide' } });
    expect(planLong([], { length: 2200, width: 700 }, bed, { ...freshLong, feed: 'y' }).ok).toBe(true);
  });

  it('counts where a seam meets strokes', () => {
    const shapes = measureShapes([line({ x: 0, y: 3 }, { x: 10, y: 3 }), block(4, 5, 3, 2)]);
    expect(crossingsAt(shapes, 5)).toEqual([3, 5, 7]);
  });
});

describe('errors along a chain', () => {
  const chain = (n: number, part: Partial<Chain['errors']> = {}): Chain => ({
    boxes: Array.from({ length: n }, (_, i) => ({ minX: i * 500, maxX: (i + 1) * 500, minY: 0, maxY: 300 })),
    marks: Array.from({ length: n - 1 }, (_, i) => [
      { x: (i + 1) * 500, y: 10 },
      { x: (i + 1) * 500, y: 290 },
    ]),
    turned: Array.from({ length: n }, () => 0),
    errors: { aim: 0.05, pointer: 0, back: 0, ...part },
  });

  it('is that of two marks for one carrying over [the rule for two marks L apart]', () => {
    const [, second] = chainErrors(chain(2));
    // Across: √(σ²/2 + d²·2σ²/L²); both axes together, times the 95 % radius.
    const d = Math.hypot(500, 150);
    const both = 2 * (0.05 ** 2 / 2) + d ** 2 * ((2 * 0.05 ** 2) / 280 ** 2);
    expect(second!.u).toBeCloseTo(Math.sqrt(both), 9);
  });

  it('grows along the segments, while the step at a seam stays the same', () => {
    const all = chainErrors(chain(5));
    for (let i = 1; i < all.length; i += 1) expect(all[i]!.fromStart).toBeGreaterThan(all[i - 1]!.fromStart);
    expect(all[4]!.step).toBeCloseTo(all[1]!.step!, 9);
  });

  it('agrees with simulating the chain', () => {
    for (const part of [{}, { pointer: 0.04 }, { back: 0.03 }, { pointer: 0.03, back: 0.02 }]) {
      const c = chain(4, part);
      const sorted = simulateChain(c, 20_000, 7);
      const rms = Math.sqrt(sorted.reduce((s, v) => s + v * v, 0) / sorted.length);
      const predicted = chainErrors(c).at(-1)!.u;
      // The simulation takes the worst of all corners, the formula the farthest one: a little more.
      expect(rms / predicted).toBeGreaterThan(0.97);
      expect(rms / predicted).toBeLessThan(1.15);
    }
  });

  it('takes a pointer’s error out again when the work was turned round', () => {
    const through = chainErrors(chain(3, { aim: 0, pointer: 0.1 })).map((e) => e.fromStart);
    const turned = chainErrors({ ...chain(3, { aim: 0, pointer: 0.1 }), turned: [0, Math.PI, 0] }).map(
      (e) => e.fromStart,
    );
    expect(through[2]).toBeCloseTo(2 * through[1]!, 9);
    expect(turned[2]).toBeCloseTo(0, 9);
  });
});
