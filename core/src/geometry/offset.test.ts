import fc from 'fast-check';
import { seeded } from '../budget';
import { distanceToSegment, insidePolygon, polygonArea, polyline, roundedRectangle, flatten } from './contour';
import { offsetContours } from './offset';
import { crossesItself, parallelLine } from './parallel';
import type { Vec } from './vec';

/** A wavy closed line with `n` corners. */
const wavy = (n: number, r: number, waves: number, deep: number, phase: number): Vec[] =>
  Array.from({ length: n }, (_, i) => {
    const a = (2 * Math.PI * i) / n;
    const d = r + deep * Math.sin(waves * a + phase);
    return { x: d * Math.cos(a), y: d * Math.sin(a) };
  });

/** Signed distance of a place from a closed line, positive outside, side by side: slow and plain. */
const field = (p: Vec, line: readonly Vec[]): number => {
  let least = Infinity;
  for (let i = 0; i < line.length; i += 1)
    least = Math.min(least, distanceToSegment(p, line[i]!, line[(i + 1) % line.length]!));
  return insidePolygon(p, line) ? -least : least;
};

describe('offsets', () => {
  it('lie at their distance from the outline everywhere: brute-force distance field', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 90 }),
        fc.integer({ min: 2, max: 9 }),
        fc.double({ min: 0, max: 9, noNaN: true }),
        fc.double({ min: -2, max: 2, noNaN: true }).filter((d) => Math.abs(d) > 0.05),
        fc.boolean(),
        (n, waves, deep, by, clockwise) => {
          const line = wavy(n, 20, waves, deep, n);
          if (crossesItself(line)) return;
          const given = clockwise ? [...line].reverse() : line;
          const grown = offsetContours([polyline(given, true)], by);
          for (const c of grown) for (const p of flatten(c)) expect(Math.abs(field(p, line) - by)).toBeLessThan(0.006);
          // And nothing is missing: places clear of the offset line are on the side that the field says.
          for (let x = -30; x <= 30; x += 5)
            for (let y = -30; y <= 30; y += 5) {
              const d = field({ x, y }, line);
              if (Math.abs(d - by) < 0.02) continue;
              const covered = grown.filter((c) => insidePolygon({ x, y }, flatten(c))).length % 2 === 1;
              expect(covered).toBe(d < by);
            }
        },
      ),
      { numRuns: 150 },
    );
  });

  it('grows a square by its sides and quarter circles', () => {
    const [grown] = offsetContours([roundedRectangle({ x: 0, y: 0 }, 10, 10)], 2);
    // Steiner: area + perimeter·d + π·d².
    expect(Math.abs(polygonArea(flatten(grown!)))).toBeCloseTo(100 + 40 * 2 + Math.PI * 4, 1);
  });

  it('leaves what vanishes or meets to the general way', () => {
    const neck = [
      { x: 0, y: 0 },
      { x: 10, y: 0 },
      { x: 10, y: 4.6 },
      { x: 14, y: 4.6 },
      { x: 14, y: 0 },
      { x: 24, y: 0 },
      { x: 24, y: 10 },
      { x: 14, y: 10 },
      { x: 14, y: 5.4 },
      { x: 10, y: 5.4 },
      { x: 10, y: 10 },
      { x: 0, y: 10 },
    ];
    expect(parallelLine(neck, -0.5, 0.002)).toBeNull();
    expect(offsetContours([polyline(neck, true)], -0.5)).toHaveLength(2);
    expect(offsetContours([roundedRectangle({ x: 0, y: 0 }, 3, 3)], -2)).toHaveLength(0);
    expect(
      offsetContours([roundedRectangle({ x: 0, y: 0 }, 3, 3), roundedRectangle({ x: 4, y: 0 }, 3, 3)], 1),
    ).toHaveLength(1);
  });

  it('knows lines that cross themselves, as trying every pair does', () => {
    const meets = (a: Vec, b: Vec, c: Vec, d: Vec): boolean => {
      const side = (p: Vec, q: Vec, r: Vec): number => Math.sign((q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x));
      return side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
    };
    const r = seeded(11);
    for (let k = 0; k < 600; k += 1) {
      const line = Array.from({ length: 4 + (k % 11) }, () => ({ x: 9 * r.uniform(), y: 9 * r.uniform() }));
      const n = line.length;
      const slow = line.some((a, i) =>
        line.some((c, j) => j > i + 1 && !(i === 0 && j === n - 1) && meets(a, line[i + 1]!, c, line[(j + 1) % n]!)),
      );
      expect(crossesItself(line)).toBe(slow);
    }
  });
});
