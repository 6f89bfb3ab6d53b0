import fc from 'fast-check';
import {
  circle,
  distance,
  distanceToContour,
  distanceToSegment,
  flatten,
  insidePolygon,
  polyline,
  roundedRectangle,
  type Box,
  type Contour,
} from '../geometry';
import { boat } from '../test-shapes';
import { chooseLines, freshLines as chosen, insideUsable, shoulderInset, usableArea } from './lines';

const freshLines = { ...chosen, card: null };

const art = { minX: -40, maxX: 30, minY: -8, maxY: 8 };

describe('witness lines', () => {
  it('choose pegs that touch the outline and stay outside it', () => {
    const made = chooseLines(boat, freshLines, art);
    if (!made.ok) throw new Error(made.problem.message);
    expect(made.value.tried).toBeGreaterThan(500);
    for (const peg of made.value.pegs) {
      const off = Math.min(distanceToContour(peg, boat));
      expect(off).toBeGreaterThan(3 - 0.2);
      expect(off).toBeLessThan(3.05);
    }
    expect(distance(...made.value.pegs)).toBeGreaterThan(12);
    expect(made.value.lines).toHaveLength(2);
  });

  it('are no worse than any pair chosen by hand', () => {
    const best = chooseLines(boat, freshLines, art);
    if (!best.ok) throw new Error(best.problem.message);
    let held = 0;
    for (let a = 10; a < 260; a += 23)
      for (let b = a + 20; b < 260; b += 23) {
        const own = chooseLines(boat, { ...freshLines, contacts: [a, b] }, art);
        if (!own.ok) continue;
        held += 1;
        // Places between those that were tried may be a little better.
        expect(own.value.spread).toBeGreaterThan(best.value.spread * 0.9);
      }
    expect(held).toBeGreaterThan(3);
  });

  it('are pushed onto between two contacts of one edge, straight across', () => {
    // 100 × 40, its outline begun at the front left: the front edge is the first 100 mm of it.
    const plate = polyline([{ x: 0, y: 0 }, { x: 100, y: 0 }, { x: 100, y: 40 }, { x: 0, y: 40 }], true); // prettier-ignore
    for (const [from, to] of [
      [20, 70],
      [70, 20],
      [30, 90],
    ] as const) {
      // prettier-ignore
      const made = chooseLines(plate, { ...freshLines, contacts: [from, to] }, art);
      if (!made.ok) throw new Error(made.problem.message);
      const { push } = made.value;
      expect([push.way.x, push.way.y]).toEqual([expect.closeTo(0, 9), -1]);
      // Places for the thumb are tried every 280 / 110 mm.
      expect(Math.abs(push.from.x - (from + to) / 2)).toBeLessThan(280 / 110 / 2 + 1e-9);
      expect(push.from.y).toBeCloseTo(40, 9);
    }
  });

  it('are pushed onto, where the edge runs two ways, towards where the two normals meet', () => {
    // A kite: its point to the left, the edges to the point 40° from its axis, those to the tail 60°.
    const tan = (degrees: number): number => Math.tan((degrees * Math.PI) / 180);
    const wide = 40;
    const [point, tail] = [-wide / tan(40), wide / tan(60)];
    const kite = polyline([{ x: point, y: 0 }, { x: 0, y: -wide }, { x: tail, y: 0 }, { x: 0, y: wide }], true); // prettier-ignore
    const side = Math.hypot(point, wide);
    const length = 2 * side + 2 * Math.hypot(tail, wide);
    // The last edge runs back to the point: its places count from the end.
    const made = chooseLines(kite, { ...freshLines, contacts: [0.5 * side, length - 0.6 * side] }, { minX: -10, maxX: 10, minY: -5, maxY: 5 }); // prettier-ignore
    if (!made.ok) throw new Error(made.problem.message);
    const { push } = made.value;
    // Outward normals are (−sin 40°, ∓cos 40°): a push on both goes to the left.
    expect([push.way.x, push.way.y]).toEqual([-1, expect.closeTo(0, 9)]);
    // Contacts are (point + f · 40 / tan 40°, ∓ 40 f); their normals meet at a height that Cramer's rule gives.
    const [sin, cos] = [Math.sin((40 * Math.PI) / 180), Math.cos((40 * Math.PI) / 180)];
    const at = (f: number, sign: number) => ({ x: point - f * point, y: sign * f * wide });
    const [a, b] = [at(0.5, -1), at(0.6, 1)];
    // (a.x − s sin, a.y − s cos) = (b.x − t sin, b.y + t cos)
    const s = ((a.y - b.y) / cos + (a.x - b.x) / sin) / 2;
    expect(Math.abs(push.from.y - (a.y - s * cos))).toBeLessThan(length / 110 / 2 + 1e-9);
  });

  it('refuse a contact at a point, and pegs too thick for a hollow', () => {
    // The bow is 12 places on; its point lies 132 mm along from the stern.
    const flat = flatten(boat, 0.01);
    let along = 0;
    for (let i = 0; i < 6; i += 1) along += distance(flat[i]!, flat[i + 1]!);
    const bow = chooseLines(boat, { ...freshLines, contacts: [30, along] }, art);
    expect(!bow.ok && bow.problem.message).toContain('corner');
    const comb = polyline(
      [
        [0, 0],
        [40, 0],
        [40, 20],
        [22, 20],
        [22, 10],
        [18, 10],
        [18, 20],
        [0, 20],
      ].map(([x, y]) => ({ x: x!, y: y! })),
      true,
    );
    const hollow = chooseLines(
      comb,
      { ...freshLines, contacts: [10, 40 + 20 + 18 + 5] },
      { minX: 5, maxX: 35, minY: 2, maxY: 8 },
    );
    expect(!hollow.ok && hollow.problem.message).toContain('no room');
  });

  it('see better when the eye is finer', () => {
    const spread = (eye: number): number => {
      const made = chooseLines(boat, { ...freshLines, card: 0.05, eye }, art);
      if (!made.ok) throw new Error(made.problem.message);
      return made.value.spread;
    };
    expect(spread(0.1)).toBeLessThan(spread(0.2));
  });
});

describe('the part that can be engraved', () => {
  it.each([
    // By the circle's own equation: at the inset the surface lies exactly the depth below the top.
    [5, 0.5],
    [12, 1],
    [3, 0.25],
  ])('ends on a shoulder of %f mm where it lies %f mm deep', (radius, depth) => {
    const inset = shoulderInset(radius, depth);
    const fromTop = radius - inset;
    expect(radius - Math.sqrt(radius ** 2 - fromTop ** 2)).toBeCloseTo(depth, 9);
  });
  it('is the whole of a square edge, and nothing is lost where the rounding stays in focus', () => {
    expect(shoulderInset(0, 0.5)).toBe(0);
    expect(shoulderInset(0.4, 0.5)).toBe(0);
  });
  it('takes in art that lies inside and refuses what runs onto the shoulder', () => {
    const usable = usableArea([roundedRectangle({ x: 0, y: 0 }, 80, 40, 6)], 5, 0.5);
    expect(usable.inset).toBeCloseTo(2.8206, 4);
    expect(insideUsable(usable)({ minX: -30, maxX: 30, minY: -15, maxY: 15 })).toBe(true);
    expect(insideUsable(usable)({ minX: -38, maxX: 30, minY: -15, maxY: 15 })).toBe(false);
  });
  it('looks at the whole of the art against the whole outline: a narrow notch, an opening in its middle, a bridge beside one', () => {
    const at = (points: readonly (readonly [number, number])[]): Contour => polyline(points.map(([x, y]) => ({ x, y })), true); // prettier-ignore
    const notched = usableArea([at([[-40, -20], [1, -20], [1, 0], [3, 0], [3, -20], [40, -20], [40, 20], [-40, 20]])], 0, 0); // prettier-ignore
    const box = (minX: number, maxX: number, minY: number, maxY: number): Box => ({ minX, maxX, minY, maxY });
    expect([box(-30, 30, -15, 15), box(-30, 0, -15, 15), box(-30, 30, 1, 15)].map((b) => insideUsable(notched)(b))).toEqual([false, true, true]); // prettier-ignore
    const ring = usableArea([circle({ x: 0, y: 0 }, 30), circle({ x: 0, y: 0 }, 5)], 0, 0);
    expect([box(-20, 20, -15, 15), box(-3, 3, -3, 3), box(-20, 20, 6, 15), box(-20, -6, -15, 15)].map((b) => insideUsable(ring)(b))).toEqual([false, false, true, true]); // prettier-ignore
  });
  it('agrees with a fine grid of points looked at one by one', () => {
    const outline = polyline(Array.from({ length: 40 }, (_, i) => ({ x: (20 + 6 * Math.sin(i * 1.7)) * Math.cos((i * Math.PI) / 20), y: (16 + 5 * Math.cos(i * 2.3)) * Math.sin((i * Math.PI) / 20) })), true); // prettier-ignore
    const usable = usableArea([outline, circle({ x: 4, y: 3 }, 2)], 0, 0);
    const [edge, hole] = [flatten(outline, 0.01), flatten(usable.holes[0]!, 0.01)];
    const sides = [edge, hole].flatMap((line) => line.map((p, i) => [p, line[(i + 1) % line.length]!] as const));
    fc.assert(
      fc.property(
        fc.double({ min: -22, max: 22, noNaN: true }),
        fc.double({ min: -18, max: 18, noNaN: true }),
        fc.double({ min: 0.5, max: 16, noNaN: true }),
        fc.double({ min: 0.5, max: 12, noNaN: true }),
        (x, y, w, h) => {
          // prettier-ignore
          const points = Array.from({ length: 41 * 41 }, (_, i) => ({ x: x + (w * (i % 41)) / 40, y: y + (h * Math.floor(i / 41)) / 40 })); // prettier-ignore
          const by = (p: (typeof points)[number], most: number): boolean => sides.some(([a, b]) => distanceToSegment(p, a, b) < most); // prettier-ignore
          const isOn = (p: (typeof points)[number]): boolean => insidePolygon(p, edge) && !insidePolygon(p, hole);
          // Round edges are looked at as chords that stay within 0.02 mm of them.
          if (insideUsable(usable)({ minX: x, maxX: x + w, minY: y, maxY: y + h })) return points.every((p) => isOn(p) || by(p, 0.02)); // prettier-ignore
          // A corner of the outline may reach in between two points of the grid, never the other way round.
          return !points.every(isOn) || points.some((p) => by(p, Math.hypot(w, h) / 40));
        },
      ),
      { numRuns: 300 },
    );
  });
});
