import fc from 'fast-check';
import { apply, compose, invert, rigid, scaling } from './transform';
import {
  arcOf,
  boxHeight,
  boxWidth,
  circle,
  contourBox,
  contourLength,
  flatten,
  insidePolygon,
  polygonArea,
  polyline,
  roundedRectangle,
  transformContour,
} from './contour';
import { convexHull } from './hull';
import { offsetContours } from './offset';
import { scanFill } from './scanline';
import type { Vec } from './vec';

const number = fc.double({ min: -500, max: 500, noNaN: true });

describe('transforms', () => {
  it('undo themselves', () => {
    fc.assert(
      fc.property(number, number, fc.double({ min: -3, max: 3, noNaN: true }), number, number, (x, y, angle, e, f) => {
        const m = compose(rigid(angle, e, f), scaling(1, -1));
        const p = apply(invert(m), apply(m, { x, y }));
        return Math.hypot(p.x - x, p.y - y) < 1e-9 * (1 + Math.hypot(x, y, e, f));
      }),
    );
  });
});

describe('contours', () => {
  it('measures a circle exactly', () => {
    const c = circle({ x: 3, y: 4 }, 6.35);
    expect(contourLength(c)).toBeCloseTo(2 * Math.PI * 6.35, 9);
    expect(boxWidth(contourBox(c))).toBeCloseTo(12.7, 9);
    expect(Math.abs(polygonArea(flatten(c, 0.0005)))).toBeCloseTo(Math.PI * 6.35 ** 2, 1);
  });
  it('keeps a rounded rectangle’s size when it is turned and mirrored', () => {
    const r = roundedRectangle({ x: 0, y: 0 }, 60, 25, 3);
    expect(contourLength(r)).toBeCloseTo(2 * (54 + 19) + 2 * Math.PI * 3, 9);
    const moved = transformContour(compose(scaling(-1, 1), rigid(0.4, 10, -7)), r);
    expect(contourLength(moved)).toBeCloseTo(contourLength(r), 9);
    expect(Math.abs(polygonArea(flatten(moved, 0.001)))).toBeCloseTo(60 * 25 - (4 - Math.PI) * 9, 1);
  });
  it('finds an arc’s centre from its bulge', () => {
    const arc = arcOf({ x: 1, y: 0 }, { x: 0, y: 1 }, Math.tan(Math.PI / 8));
    expect(arc.centre.x).toBeCloseTo(0, 12);
    expect(arc.radius).toBeCloseTo(1, 12);
    expect(arc.sweep).toBeCloseTo(Math.PI / 2, 12);
  });
  it('offsets a square by half a kerf', () => {
    const square = polyline(
      [
        { x: 0, y: 0 },
        { x: 10, y: 0 },
        { x: 10, y: 10 },
        { x: 0, y: 10 },
      ],
      true,
    );
    const [smaller] = offsetContours([square], -0.1);
    expect(boxWidth(contourBox(smaller!))).toBeCloseTo(9.8, 3);
    expect(boxHeight(contourBox(offsetContours([square], 0.5)[0]!))).toBeCloseTo(11, 3);
  });
});

describe('convex hull', () => {
  it('holds every point and only given points', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ x: number, y: number }), { minLength: 3, maxLength: 40 }), (points) => {
        const hull = convexHull(points);
        const on = (p: Vec): boolean => hull.some((h) => h.x === p.x && h.y === p.y);
        return (
          hull.every((h) => points.includes(h)) &&
          (hull.length < 3 ||
            points.every(
              (p) =>
                on(p) ||
                insidePolygon(p, hull) ||
                hull.some((a, i) => {
                  const b = hull[(i + 1) % hull.length]!;
                  return (
                    Math.abs((b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x)) <
                    1e-6 * (1 + Math.hypot(b.x - a.x, b.y - a.y) * 1000)
                  );
                }),
            ))
        );
      }),
    );
  });
});

describe('scan filling', () => {
  it('fills the area of a ring, by the non-zero rule', () => {
    const ring = [flatten(circle({ x: 0, y: 0 }, 10), 0.001), flatten(circle({ x: 0, y: 0 }, 5), 0.001).reverse()];
    const rows = scanFill(ring, 0.02);
    const area = rows.reduce((sum, r) => sum + r.spans.reduce((l, x, i) => l + (i % 2 ? x : -x), 0) * 0.02, 0);
    expect(area).toBeCloseTo(Math.PI * 75, 0);
  });
  it('agrees point by point with a crossing count', () => {
    const star = Array.from({ length: 10 }, (_, i) => ({
      x: Math.cos((i * Math.PI) / 5) * (i % 2 ? 3 : 8),
      y: Math.sin((i * Math.PI) / 5) * (i % 2 ? 3 : 8),
    }));
    for (const { y, spans } of scanFill([star], 0.37)) {
      for (let x = -8; x < 8; x += 0.21) {
        let inside = false;
        for (let i = 0; i < spans.length; i += 2) inside ||= x >= spans[i]! && x <= spans[i + 1]!;
        expect(inside).toBe(insidePolygon({ x, y }, star));
      }
    }
  });
});
