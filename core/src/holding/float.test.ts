import fc from 'fast-check';
import { maxYaw, turnedSize } from './float';

const degrees = (rad: number): number => (rad * 180) / Math.PI;

/** Points round a rectangle with rounded corners about its middle, turned. */
const rim = (l: number, w: number, r: number, yaw: number): { x: number; y: number }[] =>
  Array.from({ length: 4 * 60 }, (_, i) => {
    const quarter = Math.floor(i / 60);
    const t = (quarter + (i % 60) / 59) * (Math.PI / 2);
    const [sx, sy] = [[1, 1], [-1, 1], [-1, -1], [1, -1]][quarter]!; // prettier-ignore
    const x = sx! * (l / 2 - r) + r * Math.cos(t);
    const y = sy! * (w / 2 - r) + r * Math.sin(t);
    return { x: x * Math.cos(yaw) - y * Math.sin(yaw), y: x * Math.sin(yaw) + y * Math.cos(yaw) };
  });
/** How far a point lies outside a pocket with rounded corners; negative within. */
const outside = ({ x, y }: { x: number; y: number }, L: number, W: number, R: number): number => {
  const [dx, dy] = [Math.abs(x) - (L / 2 - R), Math.abs(y) - (W / 2 - R)];
  return dx > 0 && dy > 0 ? Math.hypot(dx, dy) - R : Math.max(dx, dy) - R;
};
/** The largest yaw at which a piece in the middle of its pocket still lies within it, by halving. */
const bySearch = (l: number, w: number, r: number, c: number): number => {
  const fits = (yaw: number): boolean => rim(l, w, r, yaw).every((p) => outside(p, l + c, w + c, r + c / 2) < 1e-9);
  let [low, high] = [0, Math.PI / 4];
  for (let i = 0; i < 40; i += 1) {
    const middle = (low + high) / 2;
    if (fits(middle)) low = middle;
    else high = middle;
  }
  return low;
};

describe('the greatest yaw in a pocket', () => {
  // Solved by hand from (l−2r)·cosψ + (w−2r)·sinψ + 2r = L and its partner.
  it.each([
    [60, 30, 0, 1, 0.959],
    [60, 30, 0, 0.5, 0.478],
    [196.85, 7.62, 0, 0.75, 0.218],
    [30, 30, 5, 1, 2.94],
    [25, 25, 8, 1, 6.78],
    [60, 25, 3, 1, 1.065],
  ])('%d × %d with corners of %d, %d larger: %d°', (l, w, r, c, wanted) => {
    const yaw = degrees(maxYaw(l, w, l + c, w + c, r));
    expect(Math.abs(yaw - wanted)).toBeLessThan(wanted > 2 ? 0.0051 : 0.00051);
  });

  it('is the angle at which a rounded piece just lies within its rounded pocket, by search', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 12, max: 80, noNaN: true }),
        fc.double({ min: 0.3, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 0.45, noNaN: true }),
        fc.double({ min: 0.2, max: 1.2, noNaN: true }),
        (l, slim, round, c) => {
          const w = l * slim;
          const r = round * w;
          const yaw = maxYaw(l, w, l + c, w + c, r);
          // A search in steps of a sixtieth of a corner may pass between its points.
          fc.pre(yaw < Math.PI / 5);
          expect(Math.abs(degrees(yaw - bySearch(l, w, r, c)))).toBeLessThan(0.02 * degrees(yaw) + 0.002);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('grows with the radius, and has no end where nothing but arcs is left', () => {
    const at = (r: number): number => maxYaw(30, 30, 31, 31, r);
    expect([0, 3, 6, 9, 12].map(at)).toEqual([...[0, 3, 6, 9, 12].map(at)].sort((a, b) => a - b));
    expect(at(15)).toBe(Math.PI / 2);
    expect(maxYaw(31.1, 30, 31, 31, 6)).toBe(0);
  });

  it('turns a piece into a box that touches its pocket on one side and stays inside on the other', () => {
    const yaw = maxYaw(60, 25, 61, 26, 3);
    const { length, width } = turnedSize(60, 25, yaw, 3);
    expect(Math.max(length - 61, width - 26)).toBeCloseTo(0, 9);
    expect(Math.min(61 - length, 26 - width)).toBeGreaterThan(-1e-9);
    const points = rim(60, 25, 3, 0.3);
    const box = turnedSize(60, 25, 0.3, 3);
    expect(box.length).toBeCloseTo(Math.max(...points.map((p) => p.x)) - Math.min(...points.map((p) => p.x)), 2);
    expect(box.width).toBeCloseTo(Math.max(...points.map((p) => p.y)) - Math.min(...points.map((p) => p.y)), 2);
  });
});
