import { circle, polyline, type Contour, type Vec, type Vertex } from '../geometry';
import { valueOf, type Entity } from './dxf-pairs';

/** An ARC: counter-clockwise from its first angle to its second, at most once round [DXF reference: ARC]. */
export const arcOfDxf = (e: Entity): Contour => {
  const c = { x: valueOf(e, 10), y: valueOf(e, 20) };
  const r = valueOf(e, 40);
  const from = (valueOf(e, 50) * Math.PI) / 180;
  const turned = ((valueOf(e, 51) - valueOf(e, 50)) * Math.PI) / 180;
  const sweep = turned - 2 * Math.PI * Math.ceil(turned / (2 * Math.PI) - 1);
  const at = (angle: number): Vec => ({ x: c.x + r * Math.cos(angle), y: c.y + r * Math.sin(angle) });
  return {
    closed: false,
    vertices: [
      { ...at(from), bulge: Math.tan(sweep / 8) },
      { ...at(from + sweep / 2), bulge: Math.tan(sweep / 8) },
      at(from + sweep),
    ],
  };
};

export const circleOfDxf = (e: Entity): Contour => circle({ x: valueOf(e, 10), y: valueOf(e, 20) }, valueOf(e, 40));

export const lineOfDxf = (e: Entity): Contour =>
  polyline([
    { x: valueOf(e, 10), y: valueOf(e, 20) },
    { x: valueOf(e, 11), y: valueOf(e, 21) },
  ]);

/** An LWPOLYLINE with its bulges; flag 1 closes it. */
export const lightPolyline = (e: Entity): Contour => {
  const vertices: { x: number; y: number; bulge?: number }[] = [];
  for (const p of e.pairs) {
    if (p.code === 10) vertices.push({ x: Number(p.value), y: 0 });
    else if (p.code === 20 && vertices.length > 0) vertices[vertices.length - 1]!.y = Number(p.value);
    else if (p.code === 42 && vertices.length > 0) vertices[vertices.length - 1]!.bulge = Number(p.value);
  }
  return { closed: (valueOf(e, 70) & 1) === 1, vertices };
};

/** A VERTEX of an old POLYLINE; null for the frame that a curve was fitted to. */
export const vertexOf = (e: Entity): Vertex | null =>
  (valueOf(e, 70) & 16) !== 0
    ? null
    : { x: valueOf(e, 10), y: valueOf(e, 20), ...(valueOf(e, 42) ? { bulge: valueOf(e, 42) } : {}) };

/** Points along a curve so close that no chord of it is off by more than `chord`; halved again where it bends. */
const along = (at: (t: number) => Vec, from: number, to: number, chord: number, depth = 0): Vec[] => {
  const [a, m, b] = [at(from), at((from + to) / 2), at(to)];
  const [q, w] = [at(from + 0.25 * (to - from)), at(from + 0.75 * (to - from))];
  const off = (p: Vec, u: Vec, v: Vec): number => {
    const l = Math.hypot(v.x - u.x, v.y - u.y);
    return l === 0 ? Math.hypot(p.x - u.x, p.y - u.y) : Math.abs((p.x - u.x) * (v.y - u.y) - (p.y - u.y) * (v.x - u.x)) / l; // prettier-ignore
  };
  if (depth >= 12 || (depth > 1 && off(q, a, m) < chord && off(w, m, b) < chord && off(m, a, b) < 4 * chord)) return [m, b]; // prettier-ignore
  const half = (from + to) / 2;
  return [...along(at, from, half, chord, depth + 1), ...along(at, half, to, chord, depth + 1)];
};

/**
 * A SPLINE by de Boor's rule, with weights where it has some: in homogeneous coordinates [published: Piegl and Tiller, The NURBS
 * Book, 4.2].
 *
 * @returns null where it has no control points
 */
export const splineOfDxf = (e: Entity, chord: number): Contour | null => {
  const all = (code: number): number[] => e.pairs.filter((p) => p.code === code).map((p) => Number(p.value));
  const degree = valueOf(e, 71, 3);
  const [knots, xs, ys, given] = [all(40), all(10), all(20), all(41)];
  const n = xs.length;
  if (n <= degree || degree < 1 || degree > 10 || knots.length !== n + degree + 1) return null;
  const weights = given.length === n ? given : xs.map(() => 1);
  const [low, high] = [knots[degree]!, knots[n]!];
  const at = (t: number): Vec => {
    let k = degree;
    while (k < n - 1 && t >= knots[k + 1]!) k += 1;
    const d = Array.from({ length: degree + 1 }, (_, j) => {
      const i = j + k - degree;
      return { x: xs[i]! * weights[i]!, y: ys[i]! * weights[i]!, w: weights[i]! };
    });
    for (let r = 1; r <= degree; r += 1) {
      for (let j = degree; j >= r; j -= 1) {
        const i = j + k - degree;
        const width = knots[i + degree - r + 1]! - knots[i]!;
        const a = width === 0 ? 0 : (t - knots[i]!) / width;
        const [p, q] = [d[j - 1]!, d[j]!];
        d[j] = { x: (1 - a) * p.x + a * q.x, y: (1 - a) * p.y + a * q.y, w: (1 - a) * p.w + a * q.w };
      }
    }
    const { x, y, w } = d[degree]!;
    return { x: x / w, y: y / w };
  };
  const spans = [...new Set([low, ...knots.filter((t) => t > low && t < high), high])];
  const points = spans.slice(1).flatMap((to, i) => along(at, spans[i]!, to, chord));
  return polyline([at(low), ...points]);
};

/** An ELLIPSE in chords; its shorter axis lies to the left of its longer one, to the right seen from below. */
export const ellipseOfDxf = (e: Entity, chord: number): Contour => {
  const c = { x: valueOf(e, 10), y: valueOf(e, 20) };
  const major = { x: valueOf(e, 11), y: valueOf(e, 21) };
  const ratio = valueOf(e, 40, 1) * (valueOf(e, 230, 1) < 0 ? -1 : 1);
  const from = valueOf(e, 41, 0);
  const given = valueOf(e, 42, 2 * Math.PI) - from;
  const sweep = given - 2 * Math.PI * Math.ceil(given / (2 * Math.PI) - 1);
  const full = Math.abs(sweep - 2 * Math.PI) < 1e-6;
  const reach = Math.hypot(major.x, major.y);
  const step = 2 * Math.acos(Math.max(0, 1 - chord / Math.max(chord, reach)));
  const steps = Math.min(20_000, Math.max(8, Math.ceil(sweep / step)));
  const points = Array.from({ length: full ? steps : steps + 1 }, (_, i) => {
    const t = from + (sweep * i) / steps;
    return {
      x: c.x + major.x * Math.cos(t) - major.y * ratio * Math.sin(t),
      y: c.y + major.y * Math.cos(t) + major.x * ratio * Math.sin(t),
    };
  });
  return polyline(points, full);
};
