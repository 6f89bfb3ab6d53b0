import fc from 'fast-check';
import { apply, convexHull, rigid, type Vec } from '../geometry';
import { sweptFrom } from './sweep';

// A thing of known form, seen with so much more of it to one side: the hull of it here and there, made without any of the
// rules that find it again.
const oval = Array.from({ length: 120 }, (_, i) => ({ x: 40 * Math.cos((i * Math.PI) / 60), y: 14 * Math.sin((i * Math.PI) / 60) })); // prettier-ignore
const tag = (w: number, h: number): Vec[] => {
  const side = (a: Vec, b: Vec): Vec[] => Array.from({ length: 30 }, (_, i) => ({ x: a.x + ((b.x - a.x) * i) / 30, y: a.y + ((b.y - a.y) * i) / 30 })); // prettier-ignore
  const c = [
    { x: -w / 2, y: -h / 2 },
    { x: w / 2, y: -h / 2 },
    { x: w / 2, y: h / 2 },
    { x: -w / 2, y: h / 2 },
  ];
  return c.flatMap((p, i) => side(p, c[(i + 1) % 4]!));
};
/** Nearest place of a closed line, by walking along all of it. */
const nearestOf = (line: readonly Vec[]) => (p: Vec) => {
  let [best, d2] = [{ x: 0, y: 0, nx: 1, ny: 0 }, Infinity];
  line.forEach((a, i) => {
    const b = line[(i + 1) % line.length]!;
    const [dx, dy] = [b.x - a.x, b.y - a.y];
    const l2 = dx * dx + dy * dy || 1;
    const t = Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / l2));
    const q = { x: a.x + t * dx, y: a.y + t * dy, nx: -dy / Math.sqrt(l2), ny: dx / Math.sqrt(l2) };
    const d = (q.x - p.x) ** 2 + (q.y - p.y) ** 2;
    if (d < d2) [best, d2] = [q, d];
  });
  return best;
};
const seen = (form: readonly Vec[], pose: { x: number; y: number; angle: number }, sweep: Vec) => {
  const lies = form.map((p) => apply(rigid(pose.angle, pose.x, pose.y), p));
  return convexHull([...lies, ...lies.map((p) => ({ x: p.x + sweep.x, y: p.y + sweep.y }))]);
};
/** The oval with so much more of it all round: x²/40² + y²/14² leans outward as (x/40², y/14²). */
const larger = (by: number): Vec[] => oval.map((p) => { const [nx, ny] = [p.x / 40 ** 2, p.y / 14 ** 2]; const l = Math.hypot(nx, ny); return { x: p.x + (by * nx) / l, y: p.y + (by * ny) / l }; }); // prettier-ignore
const off = (a: Vec, b: Vec): number => Math.hypot(a.x - b.x, a.y - b.y);

describe('an outline that is seen swept to a side', () => {
  it('by a wall lies where it lies, whichever way the camera stands', () => {
    const way = fc.double({ min: 0, max: 2 * Math.PI, noNaN: true });
    fc.assert(
      fc.property(
        fc.constantFrom(oval, tag(60, 25), tag(40, 40)),
        way,
        way,
        fc.double({ min: 0, max: 2, noNaN: true }),
        (form, angle, to, wall) => {
          // prettier-ignore
          const pose = { x: 12, y: -7, angle };
          const u = { x: Math.cos(to), y: Math.sin(to) };
          const line = seen(form, pose, { x: wall * u.x, y: wall * u.y });
          const start = { x: 12 + (wall / 2) * u.x, y: -7 + (wall / 2) * u.y, angle };
          const found = sweptFrom(form, start, nearestOf(line), { way: u, wall: 2.2, shadow: 0 }, 30);
          // Nothing is rough here: what is left is that its corners are swept as corners, and are taken for edges.
          expect(off(found.pose, pose)).toBeLessThan(0.15 + 0.12 * wall);
          expect(Math.abs(found.wall - wall)).toBeLessThan(0.25 + 0.2 * wall);
        },
      ),
      { numRuns: 60 },
    );
  });
  it('is not swept where it came larger all round', () => {
    const pose = { x: 0, y: 0, angle: 0.3 };
    const found = sweptFrom(oval, pose, nearestOf(seen(larger(0.25), pose, { x: 0, y: 0 })), { way: { x: 1, y: 0 }, wall: 2, shadow: 0 }, 30); // prettier-ignore
    expect(off(found.pose, pose)).toBeLessThan(0.12);
  });
  it('by a shadow may lie at either of its ends: it is taken in the middle, and half of it is doubt', () => {
    const pose = { x: 0, y: 0, angle: 0.3 };
    for (const to of [0.4, 2, 4.5]) {
      const found = sweptFrom(oval, pose, nearestOf(seen(oval, pose, { x: 1.6 * Math.cos(to), y: 1.6 * Math.sin(to) })), { way: { x: 1, y: 0 }, wall: 0, shadow: 4 }, 30); // prettier-ignore
      expect(found.shadow).toBeGreaterThan(0.9);
      expect(off(found.pose, { x: 0.8 * Math.cos(to), y: 0.8 * Math.sin(to) })).toBeLessThan(0.35);
      expect(found.doubt).toBeCloseTo(found.shadow / 2, 9);
    }
    const none = sweptFrom(oval, pose, nearestOf(seen(oval, pose, { x: 0, y: 0 })), { way: { x: 1, y: 0 }, wall: 0, shadow: 4 }, 30); // prettier-ignore
    expect(none.shadow).toBeLessThan(0.1);
  });
});
